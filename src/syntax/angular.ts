import type * as Angular from '@angular/compiler';
import type { Problem, Source } from './source.js';
import { tooDeepAt } from './nesting.js';

export type AngularCompiler = typeof Angular;
export type AngularNode = Angular.TmplAstNode;

/** Loads the template compiler; only projects that need it pay for it. */
export const loadAngular = (): Promise<AngularCompiler> => import('@angular/compiler');

/** A parsed Angular template: the nodes of a whole file, or of one literal of a script. */
interface AngularTemplate {
  source: Source;
  nodes: AngularNode[];
}

/**
 * Parses an Angular template that stands between two UTF-16 offsets of a source, quotes left out.
 * `escaped`: the text is inside a string or template literal. Positions in the nodes are offsets of the whole file.
 */
export function parseAngular(
  compiler: AngularCompiler,
  source: Source,
  { start, end, escaped }: { start: number; end: number; escaped: boolean },
): AngularTemplate | Problem {
  const deep = tooDeepAt(source.text.slice(start, end));
  const line = source.lines.at(start).line;
  if (deep !== undefined) {
    return { file: source.path, reason: 'template nested too deeply to be parsed', line };
  }
  const range = { startPos: start, startLine: 0, startCol: 0, endPos: end };
  const options = { range, escapedString: escaped, preserveWhitespaces: true };
  const { errors, nodes } = compiler.parseTemplate(source.text, source.path, options);
  const [error] = errors ?? [];
  if (error) {
    const at = source.lines.at(error.span.start.offset).line;
    return { file: source.path, reason: `template error: ${error.msg.split('\n')[0]}`, line: at };
  }
  return { source, nodes };
}
