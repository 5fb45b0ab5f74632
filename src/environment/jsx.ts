import { dirname, foldersUp, join } from '../util/paths.js';
import type { CompilerSettings } from './compiler-settings.js';
import type { Jsx } from './facts/environment.js';
import type { PlacedText } from './settings/setting.js';

/** What a compiler makes of JSX where its settings say nothing of it, and where they say that it is preserved. */
interface JsxDefaults {
  unset: Jsx['is'];
  preserved: Jsx['is'];
}

/** TypeScript 4 to 6. */
export const TYPESCRIPT: JsxDefaults = { unset: 'kept', preserved: 'kept' };
/** esbuild 0.17 to 0.27, under tsx 3 and 4, and under vite 4 to 7. */
export const ESBUILD: JsxDefaults = { unset: 'calls', preserved: 'calls' };
/** oxc 0.9x, under vite 8. */
export const OXC: JsxDefaults = { unset: 'imports', preserved: 'kept' };

/** What becomes of JSX by a compiler's settings, or without any; undefined where they can't be read. */
export function jsxBy(compiler: CompilerSettings | undefined, defaults: JsxDefaults): Jsx | undefined {
  if (compiler && !compiler.jsx.known) return undefined;
  const { jsx, jsxFactory, jsxImportSource } = compiler?.jsx.known ? compiler.jsx.value : {};
  const is = chosen(jsx, defaults);
  const at = jsx?.at;
  if (is === 'kept') return { is, at };
  if (is === 'calls') return { is, of: jsxFactory?.text.split('.')[0] ?? 'React', at };
  return { is, from: jsxImportSource?.text ?? 'react', at: jsxImportSource?.at ?? at };
}

function chosen(jsx: PlacedText | undefined, { unset, preserved }: JsxDefaults): Jsx['is'] {
  switch (jsx?.text.toLowerCase()) {
    case undefined:
      return unset;
    case 'preserve':
    case 'react-native':
      return preserved;
    case 'react':
      return 'calls';
    default:
      return 'imports';
  }
}

type CompilersIn = (folder: string) => readonly CompilerSettings[];

/** The `tsconfig.json` of a folder. */
export const compilerIn = (folder: string, compilersIn: CompilersIn): CompilerSettings | undefined =>
  compilersIn(folder).find(({ file }) => file === join(folder, 'tsconfig.json'));

/** The nearest `tsconfig.json` from a folder up. */
export function compilerAbove(folder: string, compilersIn: CompilersIn): CompilerSettings | undefined {
  for (const at of foldersUp(folder)) {
    const own = compilerIn(at, compilersIn);
    if (own) return own;
  }
  return undefined;
}

/**
 * The compiler settings that bundlers read for a file: the nearest `tsconfig.json`, or one that it refers to and that
 * takes the file (tsconfck 3, oxc 0.9x).
 */
export function nearestCompiler(path: string, compilersIn: CompilersIn): CompilerSettings | undefined {
  const own = compilerAbove(dirname(path), compilersIn);
  if (!own || own.takes(path)) return own;
  const referred = compilersIn(dirname(own.file)).filter(({ file }) => own.references.includes(file));
  return referred.find(({ takes }) => takes(path)) ?? own;
}
