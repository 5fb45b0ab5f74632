import wrapAnsi from 'wrap-ansi';

/** A text in lines of at most `width` columns, each with a margin of `indent` columns. */
export const wrapped = (text: string, indent: number, width: number): string[] =>
  wrapAnsi(text, Math.max(40, width - indent), { hard: true })
    .split('\n')
    .map((line) => ' '.repeat(indent) + line);
