import wrapAnsi from 'wrap-ansi';

/** A text in lines of at most `width` columns, each with a margin of `indent` columns. */
export function wrapped(text: string, indent: number, width: number): string[] {
  const columns = Math.max(40, width - indent);
  // Of plain letters, which most lines are, each takes one column.
  const isShort = text.length <= columns && PLAIN.test(text);
  const lines = isShort ? [text] : wrapAnsi(text, columns, { hard: true }).split('\n');
  return lines.map((line) => ' '.repeat(indent) + line);
}

const PLAIN = /^[!-~](?:[ -~]*[!-~])?$/;
