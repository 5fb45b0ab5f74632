import { expect } from 'chai';
import { stemOf, wordsOf } from '#src/util/words.js';
import { LineIndex } from '#src/util/line-index.js';
import { nearest } from '#src/util/nearest.js';
import { isWithin, relativeTo, slashed } from '#src/util/paths.js';
import { listed, plural } from '#src/util/plural.js';
import { inShort, printable } from '#src/util/printable.js';

describe('util', () => {
  it('turns offsets into lines and columns, whatever ends a line', () => {
    const lines = new LineIndex('ab\ncd\r\nef\rgh');
    expect([0, 2, 3, 5, 7, 10, 12].map((offset) => Object.values(lines.at(offset)).join(':'))).to.deep.equal([
      '1:1',
      '1:3',
      '2:1',
      '2:3',
      '3:1',
      '4:1',
      '4:3',
    ]);
    expect(lines.lines).to.equal(4);
    expect([1, 2, 4, 5].map((line) => lines.startOf(line))).to.deep.equal([0, 3, 10, undefined]);
    expect(new LineIndex('').at(5)).to.deep.equal({ line: 1, column: 6 });
    expect(new LineIndex('😀x').at(2).column).to.equal(3);
  });

  it('finds the nearest name, and none that is far', () => {
    const names = ['setup', 'server', 'render'];
    expect(nearest('setpu', names)).to.equal('setup');
    expect(nearest('SETUP', names)).to.equal('setup');
    expect(nearest('rendr', names)).to.equal('render');
    expect(nearest('kiln', names)).to.equal(undefined);
    expect(nearest('a', ['b', 'abc'])).to.equal('b');
    expect(nearest('', ['abc'])).to.equal(undefined);
  });

  it('counts and lists for people', () => {
    expect([
      plural(1, 'spec'),
      plural(2, 'spec'),
      plural(0, 'entry', 'entries'),
      plural(20000, 'spec'),
    ]).to.deep.equal(['1 spec', '2 specs', '0 entries', '20,000 specs']);
    expect([listed([]), listed(['a']), listed(['a', 'b']), listed(['a', 'b', 'c'], 'or')]).to.deep.equal([
      '',
      'a',
      'a and b',
      'a, b or c',
    ]);
  });

  it('makes text safe and short', () => {
    expect(printable('a\u001b[31m\u0000\u202eb\u0085')).to.equal('a\\u{1b}[31m\\u{0}\\u{202e}b\\u{85}');
    expect(inShort('  a\n  b ', 10)).to.equal('a b');
    expect(inShort('abcdef', 4)).to.equal('abc…');
    expect(inShort('😀😀😀', 2)).to.equal('😀…');
  });

  it('works on paths with slashes', () => {
    expect([
      slashed('a\\b'),
      relativeTo('/a', '/a/b/c'),
      relativeTo('/a', '/a'),
      relativeTo('/a/b', '/a/c'),
    ]).to.deep.equal(['a/b', 'b/c', '.', '../c']);
    expect([
      isWithin('/a', '/a/b'),
      isWithin('/a', '/ab'),
      isWithin('/a', '/a'),
      isWithin('/', '/a'),
    ]).to.deep.equal([true, false, true, true]);
  });
});

describe('words of titles and names', () => {
  it('are split at capitals, and compared without their endings', () => {
    expect(wordsOf('KilnCard opens "the-lid" 2x')).to.deep.equal([
      'kiln',
      'card',
      'opens',
      'the',
      'lid',
      '2x',
    ]);
    for (const words of ['open opens opened opening', 'close closes closed closing', 'press presses pressed'])
      expect(new Set(words.split(' ').map(stemOf)).size, words).to.equal(1);
    expect(stemOf('lid')).not.to.equal(stemOf('lit'));
  });
});
