/** How a file is written, so that a mend reads like the rest of it. */
export interface Style {
  newline: string;
  /** One step of indentation. */
  indent: string;
  semicolon: string;
  quote: '"' | "'";
}

// The first lines tell how a file is written as well as all of them.
const ENOUGH = 2500;

/** Reads a file's style from its text: line ends, indentation of the first indented line, semicolons, quotes. */
export function styleOf(whole: string): Style {
  const text = whole.slice(0, ENOUGH);
  const newline = text.includes('\r\n') ? '\r\n' : '\n';
  let indent: string | undefined;
  let ended = 0;
  let open = 0;
  for (const each of text.split('\n')) {
    const line = each.trimEnd();
    indent ??= /^(?:\t| {2,8})(?=\S)/.exec(line)?.[0];
    if (/[)\]'"`\w];$/.test(line)) ended++;
    else if (/[)\]'"`]$/.test(line)) open++;
  }
  const quote = marks(text, '"') > marks(text, "'") ? '"' : "'";
  return { newline, indent: indent ?? '  ', semicolon: ended >= open ? ';' : '', quote };
}

function marks(text: string, mark: string): number {
  let count = 0;
  for (let at = text.indexOf(mark); at >= 0; at = text.indexOf(mark, at + 1)) count++;
  return count;
}

/** Where the line of an offset starts. */
export const lineStart = (text: string, offset: number): number =>
  Math.max(text.lastIndexOf('\n', offset - 1), text.lastIndexOf('\r', offset - 1)) + 1;

/** The white space that a line starts with, for the line that an offset stands on. */
export function indentAt(text: string, offset: number): string {
  return /^[ \t]*/.exec(text.slice(lineStart(text, offset), offset))?.[0] ?? '';
}

/** The lines of a piece of code, with a semicolon behind it and the last line's end; undefined where other code stands on them. */
export function wholeLines(
  text: string,
  { start, end }: { start: number; end: number },
): { start: number; end: number } | undefined {
  const from = lineStart(text, start);
  const rest = /^;?[ \t]*(?:\r?\n|$)/.exec(text.slice(end));
  return rest && text.slice(from, start).trim() === ''
    ? { start: from, end: end + rest[0].length }
    : undefined;
}

/** Where an empty line ends that starts at an offset; the offset itself where there is none. */
export const pastEmptyLine = (text: string, offset: number): number =>
  offset + (/^[ \t]*\r?\n/.exec(text.slice(offset))?.[0].length ?? 0);

/** A text as a literal in quotes. */
export const quoted = (text: string, quote: Style['quote']): string =>
  quote +
  text
    .replace(/\\/g, '\\\\')
    .replaceAll(quote, `\\${quote}`)
    .replace(/\n/g, '\\n')
    .replace(/\u00a0/g, '\\u00a0') +
  quote;
