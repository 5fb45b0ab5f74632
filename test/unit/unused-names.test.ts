import { expect } from 'chai';
import { planMends } from '#src/writing/plan.js';

const mended = (before: string, from: string, text: string, file = 'a.spec.ts'): string | undefined => {
  const start = before.indexOf(from);
  const edits = [{ file, start, end: start + from.length, text }];
  return planMends([{ code: 'Q01', summary: '', safe: true, edits }], () => before).texts.get(file)?.after;
};

describe('names that a mend leaves unused', () => {
  it('are taken away with it: of a list, of a call, of an import', () => {
    expect(mended('const { a, b } = render();\na(); b();\n', 'a(); ', '')).to.equal(
      'const { b } = render();\nb();\n',
    );
    expect(mended('const { a } = render();\na();\n', 'a();\n', '')).to.equal('render();\n');
    expect(mended('const spy = jest.spyOn(x);\nspy.off();\n', 'spy.off();\n', '')).to.equal(
      'jest.spyOn(x);\n',
    );
    expect(mended("import { a } from './a';\na();\nb();\n", 'a();\n', '')).to.equal('b();\n');
    expect(mended("import { a, b } from './a';\na();\nb();\n", 'b();\n', '')).to.equal(
      "import { a } from './a';\na();\n",
    );
  });

  it('are taken one by one where several of one list are left', () => {
    expect(mended("import { a, b } from './a';\na(b);\nc();\n", 'a(b);\n', '')).to.equal('c();\n');
    expect(mended('const { a, b, c } = f();\nb(c); a();\n', 'b(c); ', '')).to.equal(
      'const { a } = f();\na();\n',
    );
    expect(
      mended("import React from 'react';\nReact.act();\n<p />;\n", 'React.act();\n', '', 'a.spec.jsx'),
    ).to.equal("import React from 'react';\n<p />;\n");
  });

  it('stay where they were unused, are used elsewhere, are no call, or stand in a file that is no script', () => {
    expect(mended('const { a, b } = render();\nb(1);\n', '(1)', '()')).to.equal(
      'const { a, b } = render();\nb();\n',
    );
    const two = "it('a', () => { const { a } = f(); a(); });\nit('b', () => { const { a } = f(); a(1); });\n";
    expect(mended(two, 'a(1);', '')).to.equal(
      "it('a', () => { const { a } = f(); a(); });\nit('b', () => { f();  });\n",
    );
    expect(mended('const a = () => 1;\na();\n', 'a();\n', '')).to.equal('const a = () => 1;\n');
    expect(mended('const { a, ...rest } = f();\na(rest);\n', 'a(rest)', 'g(rest)')).to.equal(
      'const { a, ...rest } = f();\ng(rest);\n',
    );
    expect(mended('a: b\n', 'a: ', '', 'a.yml')).to.equal('b\n');
  });
});
