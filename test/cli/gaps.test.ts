import { expect } from 'chai';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { wexlet } from '../support/cli.js';
import { written } from '../support/samples.js';

const LID = `export function Lid({ temp }: { temp: number }) {
  if (temp >= 600) return <p role="alert">Keep shut</p>;
  return <p>Safe</p>;
}
`;
const SPEC = `import { render, screen } from '@testing-library/react';
import { Lid } from './lid';

describe("Lid", () => {
\tit("is safe", () => {
\t\trender(<Lid temp={20} />)
\t\texpect(screen.getByText("Safe")).toBeInTheDocument()
\t})
})
`;
const RACK = `export const Rack = ({ rows, owner }: { rows: number; owner?: string }) => <p>{rows} rows of {owner}</p>;\n`;
const DOOR = `<script setup lang="ts">
defineProps<{ open: boolean }>();
</script>
<template><b v-if="open">Open</b></template>
`;
const DOOR_SPEC = `import { mount } from '@vue/test-utils';
import Door from './Door.vue';

it('is shut', () => {
  expect(mount(Door).text()).toBe('');
});
`;
const FILES = {
  'package.json': '{"name":"s"}',
  'src/lid.tsx': LID,
  'src/lid.spec.tsx': SPEC,
};
const lcov = 'SF:src/lid.tsx\nFN:1,Lid\nFNDA:1,Lid\nDA:2,1\nBRDA:2,0,0,0\nBRDA:2,0,1,1\nend_of_record\n';

describe('wexlet gaps', () => {
  it('shows shares, and each arm with what takes it', () => {
    const { out, code } = wexlet(written({ ...FILES, 'coverage/lcov.info': lcov }), 'gaps');
    expect(code).to.equal(0);
    expect(out).to.include('GAPS   1 arm  ·  0 components  ·  0 events');
    expect(out).to.include('measured   coverage/lcov.info');
    expect(out).to.match(/Lid +▪+▫+ 1\/2 +1\/1 +1\/2 +1\/1 +1\/1/);
    expect(out).to.match(
      / 2 {2}then {2}of temp >= 600 {2}Lid {2}measured\n +with {2}temp = 600\n +or {4}temp = 601\n/,
    );
  });

  it('reads coverage files by a glob of the settings, and misses one that nothing matches', () => {
    const files = { ...FILES, 'out/unit/run.info': lcov };
    const named = (glob: string): string =>
      wexlet(written({ ...files, 'wexlet.json': JSON.stringify({ coverage: [glob] }) }), 'gaps').out;
    expect(named('out/**/*.info')).to.include('measured   out/unit/run.info');
    expect(named('out/**/*.xml')).to.include('out/**/*.xml  cannot be read');
  });

  it('works out what it can where there is no coverage, and says so', () => {
    const { out } = wexlet(written(FILES), 'gaps');
    expect(out)
      .to.include('no coverage file')
      .and.to.match(/then {2}of temp >= 600 {2}Lid {2}computed/);
  });

  it('gives the same as JSON', () => {
    const { out } = wexlet(
      written({
        ...FILES,
        'src/rack.tsx': RACK.replace('=> <p>', '=> <p onClick={() => {}}>').replace(
          '<p ',
          '<ul><li/><li/><li/></ul> && <p ',
        ),
      }),
      'gaps',
      '--format',
      'json',
    );
    const { gaps, branches } = JSON.parse(out) as { gaps: object[]; branches: { arms: number } };
    expect(branches.arms).to.be.above(1);
    expect(gaps).to.deep.include({
      kind: 'arm',
      component: 'Lid',
      file: 'src/lid.tsx',
      line: 2,
      column: 20,
      branch: 'temp >= 600',
      condition: 'temp >= 600',
      arm: 'then',
      basis: 'computed',
      inputs: [{ temp: 600 }, { temp: 601 }],
      solved: true,
    });
    expect(gaps.some((gap) => 'kind' in gap && gap.kind === 'component')).to.equal(true);
  });

  it('reads Cobertura XML and JSON maps that are given to it', () => {
    const xml = `<?xml version="1.0"?><coverage><packages><package name="a"><classes><class name="lid" filename="src/lid.tsx"><methods/><lines>
      <line number="2" hits="1" branch="true" condition-coverage="50% (1/2)"/></lines></class></classes></package></packages></coverage>`;
    const range = (line: number, column: number): object => ({
      start: { line, column },
      end: { line, column: column + 9 },
    });
    const map = {
      '/ci/work/src/lid.tsx': {
        path: '/ci/work/src/lid.tsx',
        statementMap: { 0: range(2, 2) },
        s: { 0: 3 },
        fnMap: { 0: { name: 'Lid', decl: range(1, 16), loc: range(1, 40) } },
        f: { 0: 3 },
        branchMap: { 0: { type: 'if', loc: range(2, 2), locations: [range(2, 19), { start: {}, end: {} }] } },
        b: { 0: [0, 3] },
      },
    };
    const folder = written({ ...FILES, 'a.xml': xml, 'b.json': JSON.stringify(map) });
    expect(wexlet(folder, 'gaps', '--coverage', 'a.xml').out).to.include('1 of 2  of temp >= 600');
    expect(wexlet(folder, 'gaps', '--coverage', 'b.json').out).to.match(
      /then {2}of temp >= 600 {2}Lid {2}measured/,
    );
  });

  it('names a coverage file that it cannot use, and goes on', () => {
    const folder = written({ ...FILES, 'a.xml': '<coverage><', 'b.json': '{"a": 1', 'c.info': 'TN:\n' });
    const { out } = wexlet(folder, 'audit', '--coverage', 'a.xml,b.json,c.info');
    for (const name of ['a.xml', 'b.json', 'c.info'])
      expect(out).to.match(new RegExp(`${name}.*holds no coverage record`));
    const missing = wexlet(folder, 'gaps', '--coverage', 'd.info');
    expect(missing.code).to.equal(2);
    expect(missing.err).to.include('d.info is not there');
  });

  it('prints pending specs in the style of their file, and adds them', () => {
    const folder = written({
      ...FILES,
      'src/rack.tsx': RACK.replace('<p>', '<p onClick={() => {}}>'),
      'src/Door.vue': DOOR,
      'src/Door.spec.ts': DOOR_SPEC,
    });
    const { out, err } = wexlet(folder, 'gaps', '--stubs');
    const stub = `\tit.skip("… with temp = 600", () => {
\t\t// Takes “then”: when temp >= 600.
\t\trender(<Lid temp={600} />)
\t\t// expect(screen.getByRole("alert"))…
\t})
`;
    expect(out).to.include(`// src/lid.spec.tsx\n${stub}`);
    expect(out)
      .to.include('mount(Door, { props: { open: true } });')
      .and.to.include('// src/rack.spec.tsx (new)');
    expect(err).to.equal('wexlet: 3 pending specs; --write adds them\n');
    const wrote = wexlet(folder, 'gaps', '--stubs', '--write');
    expect(wrote.out).to.equal(
      'added to src/Door.spec.ts\nadded to src/lid.spec.tsx\nmade src/rack.spec.tsx\n',
    );
    const read = (path: string): string => readFileSync(join(folder, path), 'utf8');
    expect(read('src/lid.spec.tsx')).to.equal(SPEC.replace(/\}\)\n$/, `\n${stub}})\n`));
    expect(read('src/rack.spec.tsx')).to.equal(`import { render } from '@testing-library/react'
import { Rack } from "./rack"

describe("Rack", () => {
\tit.skip("shows …", () => {
\t\t// No spec renders Rack yet.
\t\trender(<Rack rows={1} />)
\t\t// expect(…)
\t})
})
`);
    expect(read('src/Door.spec.ts')).to.include("});\n\nit.skip('… with open = true', () => {");
    // What is pending is still a gap, but is not added again.
    expect(wexlet(folder, 'gaps').out).to.include('GAPS   2 arms');
    expect(wexlet(folder, 'gaps', '--stubs').err).to.equal('wexlet: 0 pending specs\n');
  });

  it('asks for --stubs with --write, and says where there is nothing', () => {
    const folder = written({ 'package.json': '{}' });
    expect(wexlet(folder, 'gaps', '--write').code).to.equal(2);
    expect(wexlet(folder, 'gaps').code).to.equal(3);
    expect(wexlet(folder, 'gaps', '--stubs').code).to.equal(3);
  });
});
