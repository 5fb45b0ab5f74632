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
  const newline = /\r\n/.test(text) ? '\r\n' : '\n';
  const indent = /^(\t| {2,8})\S/m.exec(text)?.[1] ?? '  ';
  const lines = text.split(/\r?\n/).map((line) => line.trimEnd());
  const ended = lines.filter((line) => /[)\]'"`\w];$/.test(line)).length;
  const open = lines.filter((line) => /[)\]'"`]$/.test(line)).length;
  const count = (quote: string): number => text.split(quote).length;
  const quote = count('"') > count("'") ? '"' : "'";
  return { newline, indent, semicolon: ended >= open ? ';' : '', quote };
}

/** The white space that a line starts with, for the line that an offset stands on. */
export function indentAt(text: string, offset: number): string {
  const start = Math.max(text.lastIndexOf('\n', offset - 1), text.lastIndexOf('\r', offset - 1)) + 1;
  return /^[ \t]*/.exec(text.slice(start, offset))?.[0] ?? '';
}

/** A text as a literal in quotes. */
export const quoted = (text: string, quote: Style['quote']): string =>
  quote + text.replace(/\\/g, '\\\\').replaceAll(quote, `\\${quote}`).replace(/\n/g, '\\n') + quote;
