import type { SFCDescriptor, SFCParseResult } from '@vue/compiler-sfc';
import type { Span } from '../finding.js';
import { parseScript, type Script } from './script.js';
import type { Problem, Source } from './source.js';
import { lazily } from '../util/lazily.js';
import { basename } from '../util/paths.js';
import { tooDeepAt } from './nesting.js';

export type VueTemplate = NonNullable<NonNullable<SFCDescriptor['template']>['ast']>;

/** A Vue single-file component. Offsets in `template` and in the scripts are those of the whole file. */
export interface VueFile {
  source: Source;
  template: VueTemplate | undefined;
  /** Why the template can't be read, where it can't: another template language, or text in a file of its own. */
  templateProblem?: string;
  /** The languages that blocks of template and style are written in, each at its first block. */
  languages: (Span & { lang: string })[];
  /** The blocks of script: plain and `setup`. */
  scripts: { setup: boolean; script: Script }[];
}

// Loaded on first use: only projects with single-file components pay for it.
const load = lazily<typeof import('@vue/compiler-sfc')>('@vue/compiler-sfc');

/** Parses a single-file component: its template to Vue's own tree, its scripts to ESTree. */
export function parseVue(source: Source): VueFile | Problem {
  const deep = tooDeepAt(source.text);
  if (deep !== undefined) {
    return { file: source.path, reason: 'nested too deeply to be parsed', line: source.lines.at(deep).line };
  }
  const { descriptor, errors } = parseQuietly(source);
  const [error] = errors;
  if (error) {
    const line = 'loc' in error ? error.loc?.start.line : undefined;
    return { file: source.path, reason: `template error: ${error.message}`, line };
  }
  const scripts: VueFile['scripts'] = [];
  for (const block of [descriptor.script, descriptor.scriptSetup]) {
    if (!block || block.src) continue;
    const lang = block.lang === 'ts' || block.lang === 'tsx' || block.lang === 'jsx' ? block.lang : 'jsx';
    const { start, end } = block.loc;
    const script = parseScript(source, lang, blanked(source.text, start.offset, end.offset));
    if ('reason' in script) return script;
    scripts.push({ setup: 'setup' in block && Boolean(block.setup), script });
  }
  const template = descriptor.template;
  const readable = template && !template.src && (!template.lang || template.lang === 'html');
  return {
    source,
    scripts,
    languages: [...(template ? [template] : []), ...descriptor.styles].flatMap(({ lang, loc }) =>
      lang ? [{ lang, start: loc.start.offset, end: loc.start.offset }] : [],
    ),
    template: readable ? template.ast : undefined,
    templateProblem: template && !readable ? 'a template in another language or file' : undefined,
  };
}

function parseQuietly(source: Source): SFCParseResult {
  try {
    return load().parse(source.text, { filename: basename(source.path), sourceMap: false });
  } catch (error) {
    const message = error instanceof Error ? error.message : String(error);
    return { descriptor: {} as SFCDescriptor, errors: [new SyntaxError(message)] };
  }
}

// The text with all but one range turned to spaces, so that offsets stay those of the file.
function blanked(text: string, start: number, end: number): string {
  const blank = (part: string): string => part.replace(/[^\n\r]/g, ' ');
  return blank(text.slice(0, start)) + text.slice(start, end);
}
