import type { Span } from '../finding.js';

/**
 * How a part stands in the function that a call is handed, where nothing else stands there, no comment either: by itself or
 * awaited; undefined where something does. Offsets are those of the text.
 */
export function aloneIn(text: string, call: Span, part: Span): 'plain' | 'awaited' | undefined {
  const [before, after] = [text.slice(call.start, part.start), text.slice(part.end, call.end)];
  const opened = /^[\w.]+\(\s*(?:async\s*)?\(\)\s*=>\s*\{?\s*(await\s+)?$/.exec(before);
  if (!opened || !/^[\s;})]*$/.test(after)) return undefined;
  return opened[1] === undefined ? 'plain' : 'awaited';
}
