const CONTROL = /[\u0000-\u001f\u007f-\u009f\u200e\u200f\u202a-\u202e\u2066-\u2069\ufeff]/g;

/** One line of text that is safe on a terminal: control and direction characters become `\u{..}` escapes. */
export function printable(text: string): string {
  return text.replace(CONTROL, (char) => `\\u{${char.charCodeAt(0).toString(16)}}`);
}

/** Text in one line: runs of white space folded to one space, cut with `…` after `limit` characters. */
export function inShort(text: string, limit = 60): string {
  const folded = text.replace(/\s+/g, ' ').trim();
  const chars = [...folded];
  return chars.length <= limit ? folded : chars.slice(0, limit - 1).join('') + '…';
}
