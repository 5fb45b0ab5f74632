/** A place counted from 1; columns in UTF-16 units. */
interface LineColumn {
  line: number;
  column: number;
}

/** Turns UTF-16 offsets of one text into lines and columns. Lines end at LF, CR LF or CR. */
export class LineIndex {
  readonly #text: string;
  #found: number[] | undefined;

  constructor(text: string) {
    this.#text = text;
  }

  // Few texts are ever asked for a line.
  get #starts(): number[] {
    return (this.#found ??= startsOf(this.#text));
  }

  /** The line and column, from 1, of an offset, from 0. An offset past the end is on the last line. */
  at(offset: number): LineColumn {
    let low = 0;
    let high = this.#starts.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((this.#starts[middle] ?? 0) <= offset) low = middle;
      else high = middle - 1;
    }
    return { line: low + 1, column: offset - (this.#starts[low] ?? 0) + 1 };
  }

  /** The offset, from 0, at which a line, from 1, starts; undefined for a line the text does not have. */
  startOf(line: number): number | undefined {
    return this.#starts[line - 1];
  }

  /** How many lines the text has. */
  get lines(): number {
    return this.#starts.length;
  }
}

function startsOf(text: string): number[] {
  const starts = [0];
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code === 10 || (code === 13 && text.charCodeAt(i + 1) !== 10)) starts.push(i + 1);
  }
  return starts;
}
