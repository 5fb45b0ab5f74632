import ts from 'typescript';

const OPTIONS: ts.CompilerOptions = {
  target: ts.ScriptTarget.ES2022,
  module: ts.ModuleKind.ESNext,
  moduleResolution: ts.ModuleResolutionKind.Bundler,
  jsx: ts.JsxEmit.Preserve,
  lib: ['lib.es2022.d.ts'],
  types: [],
  strict: true,
  noEmit: true,
  skipLibCheck: true,
};

// What runners and the page make global; libraries are not installed, so their types are unknown.
const AMBIENT = `declare const ${'describe it test suite expect assert vi jest jasmine sinon document window location localStorage sessionStorage navigator console process'
  .split(' ')
  .map((name) => `${name}: any`)
  .join(', ')};
declare function ${'beforeEach afterEach beforeAll afterAll before after setup teardown'
  .split(' ')
  .map((name) => `${name}(run: () => void): void`)
  .join('; declare function ')};
declare function setTimeout(run: () => void, after?: number): number;
declare module 'vitest' {
  interface Spec {
    (...args: any[]): void;
    each<Row extends readonly unknown[]>(
      rows: readonly Row[],
    ): (title: string, run: (...args: { -readonly [Cell in keyof Row]: Row[Cell] }) => unknown) => void;
  }
  export const it: Spec, test: Spec;
  export const ${'describe suite expect vi beforeEach afterEach beforeAll afterAll'
    .split(' ')
    .map((name) => `${name}: any`)
    .join(', ')};
}`;

const libraries = new Map<string, ts.SourceFile | undefined>();
let earlier: ts.Program | undefined;

/** What the compiler says of some TypeScript files, by name: each message with its code, but without its place. */
export function typeProblems(files: ReadonlyMap<string, string>): string[] {
  const all = new Map([...files].map(([path, text]) => [`/${path}`, text]));
  all.set('/ambient.d.ts', AMBIENT);
  const host = ts.createCompilerHost(OPTIONS);
  const read = host.getSourceFile.bind(host);
  host.fileExists = (path) => all.has(path);
  host.readFile = (path) => all.get(path) ?? ts.sys.readFile(path);
  host.getCurrentDirectory = () => '/';
  host.getSourceFile = (path, target) => {
    const text = all.get(path);
    if (text !== undefined) return ts.createSourceFile(path, text, target);
    if (!libraries.has(path)) libraries.set(path, read(path, target));
    return libraries.get(path);
  };
  const roots = [...all.keys()].filter((path) => /\.tsx?$/.test(path));
  const program = ts.createProgram(roots, OPTIONS, host, earlier);
  earlier = program;
  return ts
    .getPreEmitDiagnostics(program)
    .map(({ code, messageText }) => `${code} ${ts.flattenDiagnosticMessageText(messageText, ' ')}`);
}
