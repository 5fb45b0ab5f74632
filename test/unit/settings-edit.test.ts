import { expect } from 'chai';
import { entryAdded, textAdded } from '#src/writing/settings-edit.js';
import { jsonSettings } from '#src/environment/settings/json-settings.js';
import type { Setting } from '#src/environment/settings/setting.js';
import { applied } from '#src/writing/edits/edit.js';
import { type Edit } from '#src/finding.js';
import { decodeSource, type Source } from '#src/syntax/source.js';

describe('an entry added to settings', () => {
  const added = (text: string, edit: (object: Setting, source: Source) => Edit | undefined): string => {
    const source = decodeSource('a.json', Buffer.from(text)) as Source;
    const made = edit(jsonSettings(source) as Setting, source);
    return applied(text, made ? [made] : []);
  };
  const rows: [string, string][] = [
    ['{}', '{ "x": 1 }'],
    ['{ "a": 2 }', '{ "x": 1, "a": 2 }'],
    ['{"a":2}', '{ "x": 1, "a":2}'],
    ['{\n  "a": 2\n}', '{\n  "x": 1,\n  "a": 2\n}'],
    ['{\r\n\t"a": 2\r\n}', '{\r\n\t"x": 1,\r\n\t"a": 2\r\n}'],
    ['[]', '[]'],
  ];
  for (const [before, after] of rows)
    it(`${JSON.stringify(before)} becomes ${JSON.stringify(after)}`, () => {
      expect(added(before, (object, source) => entryAdded(object, 'x', '1', source))).to.equal(after);
    });

  it('goes to the list that is there, or brings one', () => {
    const text = (object: Setting, source: Source): Edit | undefined => textAdded(object, 'x', 'b', source);
    expect(added('{ "x": ["a"] }', text)).to.equal('{ "x": ["a", "b"] }');
    expect(added('{ "x": [] }', text)).to.equal('{ "x": ["b"] }');
    expect(added('{ "y": 1 }', text)).to.equal('{ "x": ["b"], "y": 1 }');
    expect(added('{ "x": "a" }', text)).to.equal('{ "x": "a" }');
  });
});
