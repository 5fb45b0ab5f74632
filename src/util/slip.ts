/**
 * Whether one text is the other with a slip of the hand in one word: a letter doubled, lost or put in, or two changed over.
 * Other endings are other words, and so are other figures.
 */
export function isSlipOf(text: string, meant: string): boolean {
  const [words, others] = [text.split(/\s+/), meant.split(/\s+/)];
  if (words.length !== others.length) return false;
  const [pair, ...more] = words.flatMap((word, i) => (word === others[i] ? [] : [[word, others[i] ?? '']]));
  const [a = '', b = ''] = pair ?? [];
  return (
    more.length === 0 &&
    Math.min(a.length, b.length) >= SHORTEST &&
    (isMissing(a, b) || isMissing(b, a) || isSwapped(a, b))
  );
}

const SHORTEST = 5;

// `short` is `long` without one letter, which is a double or stands inside.
function isMissing(long: string, short: string): boolean {
  if (long.length !== short.length + 1) return false;
  const at = [...short].findIndex((letter, i) => letter !== long[i]);
  const lost = at < 0 ? short.length : at;
  if (long.slice(lost + 1) !== short.slice(lost) || /\d/.test(long[lost] ?? '')) return false;
  const isDouble = long[lost] === long[lost - 1] || long[lost] === long[lost + 1];
  return isDouble || (lost > 0 && lost < short.length - 1);
}

function isSwapped(a: string, b: string): boolean {
  const at = [...a].findIndex((letter, i) => letter !== b[i]);
  return (
    a.length === b.length &&
    at > 0 &&
    a[at] === b[at + 1] &&
    a[at + 1] === b[at] &&
    a.slice(at + 2) === b.slice(at + 2)
  );
}
