import { expect } from 'chai';
import type { Node } from 'oxc-parser';
import { loadAngular, parseAngular } from '#src/syntax/angular.js';
import { moduleFacts } from '#src/syntax/module-facts.js';
import { tooDeepAt } from '#src/syntax/nesting.js';
import { isScript, parseScript } from '#src/syntax/script.js';
import { decodeSource, encodeSource, isProblem, type Source } from '#src/syntax/source.js';
import { childrenOf, isFunction, returnedFrom, unwrapped, walkTree } from '#src/syntax/tree.js';
import { parseVue } from '#src/syntax/vue.js';

const source = (path: string, text: string): Source => decodeSource(path, Buffer.from(text)) as Source;

describe('parse', () => {
  it('gives back the bytes that it was given', () => {
    const texts = ['kiln\n', '\ufeffkiln 🏺\r\n', ''];
    for (const text of texts) {
      for (const bytes of [
        Buffer.from(text),
        Buffer.from(`\ufeff${text}`, 'utf16le'),
        Buffer.from(`\ufeff${text}`, 'utf16le').swap16(),
      ]) {
        const decoded = decodeSource('a.ts', bytes);
        expect(isProblem(decoded)).to.equal(false);
        if (!isProblem(decoded))
          expect(Buffer.from(encodeSource(decoded, decoded.text)).equals(bytes)).to.equal(true);
      }
    }
  });

  it('tells what a module imports, asks for by a call, or declares by the name of a type', () => {
    const text =
      "import { Shelf, Lid } from './parts'; const { Rack } = require('./rack'); const Lid = (temp: Lid) => temp; export default Lid;";
    const script = parseScript(source('a.ts', text));
    if ('reason' in script) throw new Error(script.reason);
    const { imports, exports } = moduleFacts(script.program);
    const told = [...imports].map(([name, { specifier, typeOnly }]) => [name, specifier, typeOnly]);
    expect(told).to.deep.equal([
      ['Shelf', './parts', false],
      ['Rack', './rack', false],
    ]);
    expect(exports.get('default')).to.deep.equal({ local: 'Lid' });
  });

  it('reads the types of Flow, with each place where it is written', () => {
    const text =
      "// @flow\nimport type { Kiln } from './kiln';\ntype Lid = {| +cone: ?number |};\nexport const fire = (kiln: Kiln, lids: Array<Lid>): ?number => (kiln: any).heat(lids[0]);\n";
    const script = parseScript(source('a.js', text));
    const [fired] = 'program' in script ? script.program.body.slice(-1) : [];
    expect(text.slice(fired?.start, fired?.end)).to.match(/^export const fire = .*;$/);
    // Without the word for it, and where the rest is broken as well, it stays what it is.
    for (const each of [text.replace('@flow', ''), `${text}const = 6;`])
      expect(parseScript(source('a.js', each)), each).to.have.property('reason');
  });

  it('tells scripts from declarations and the rest', () => {
    const yes = ['a.ts', 'a.tsx', 'a.js', 'a.jsx', 'a.mts', 'a.cjs'];
    const no = ['a.d.ts', 'a.d.mts', 'a.vue', 'a.json', 'ts'];
    expect(yes.map(isScript)).not.to.include(false);
    expect(no.map(isScript)).not.to.include(true);
  });

  it('reads markup in JavaScript, casts in TypeScript, and decorators', () => {
    for (const [path, text] of [
      ['a.js', 'const a = <p/>;'],
      ['a.ts', 'const a = <string>b;'],
      ['a.ts', '@Component({}) export class A { @Input() b; }'],
      ['a.mjs', 'await 1;'],
      ['a.cjs', 'return 1;'],
    ] as const) {
      expect(parseScript(source(path, text)), text).to.have.property('program');
    }
  });

  it('refuses what nests too deeply, and nothing that people write', () => {
    expect(tooDeepAt('('.repeat(801))).to.equal(800);
    expect(tooDeepAt('()'.repeat(5000))).to.equal(undefined);
    expect(tooDeepAt('a = b;\n'.repeat(5000))).to.equal(undefined);
    expect(tooDeepAt(`const x = {${'a: 1, '.repeat(5000)}}`)).to.equal(undefined);
    expect(tooDeepAt(`${'if (a) { b(); } else { c(); }\n'.repeat(1200)}`)).to.equal(undefined);
    expect(tooDeepAt(`x = [${'a ? b : c, '.repeat(3000)}]`)).to.equal(undefined);
  });

  it('looks through casts, and finds what functions return', () => {
    const script = parseScript(
      source(
        'a.ts',
        'const f = ((a as any)!) satisfies B; function g() { if (a) return 1; const h = () => 2; return h; } const k = () => 3;',
      ),
    );
    if ('reason' in script) throw new Error(script.reason);
    const functions: Node[] = [];
    walkTree(script.program as Node, (node) => {
      if (isFunction(node)) functions.push(node);
    });
    expect(
      functions.map((fn) => (isFunction(fn) ? returnedFrom(fn).map(({ type }) => type) : [])),
    ).to.deep.equal([['Literal', 'Identifier'], ['Literal'], ['Literal']]);
    const [first] = script.program.body;
    const init = first?.type === 'VariableDeclaration' ? first.declarations[0]?.init : undefined;
    expect(init && unwrapped(init)).to.include({ type: 'Identifier', name: 'a' });
    expect(childrenOf(script.program as Node)).to.have.lengthOf(3);
  });

  it('keeps the offsets of a single-file component', () => {
    const text =
      '<template>\n  <p :class="a">Raku</p>\n</template>\n<script>export default {}</script>\n<script setup lang="ts">const a: string = "b"</script>\n';
    const file = parseVue(source('A.vue', text));
    if ('reason' in file) throw new Error(file.reason);
    expect(file.scripts.map(({ setup }) => setup)).to.deep.equal([false, true]);
    for (const { script } of file.scripts) {
      const [statement] = script.program.body;
      expect(text.slice(statement?.start, statement?.end)).to.be.oneOf([
        'export default {}',
        'const a: string = "b"',
      ]);
    }
    expect(file.template?.children[0]?.loc.start.offset ?? -1).to.be.within(10, 13);
  });

  it('says why a template is not read', () => {
    const file = parseVue(source('A.vue', '<template lang="pug">p Raku</template>'));
    expect(file).to.include({
      template: undefined,
      templateProblem: 'a template in another language or file',
    });
  });

  it('keeps the offsets of a template inside a script', async () => {
    const text = 'const a = `<p>Raku</p>\n@if (hot) { <b>Hot</b> }`;';
    const start = text.indexOf('`') + 1;
    const parsed = parseAngular(await loadAngular(), source('a.ts', text), {
      start,
      end: text.lastIndexOf('`'),
      escaped: true,
    });
    if ('reason' in parsed) throw new Error(parsed.reason);
    expect(parsed.nodes[0]?.sourceSpan.start.offset).to.equal(start);
    expect(text.slice(parsed.nodes[2]?.sourceSpan.start.offset).startsWith('@if')).to.equal(true);
  });
});
