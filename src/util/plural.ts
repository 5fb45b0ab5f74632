/** A count with its noun: `1 spec`, `2 specs`, `2 boxes`; `many` where the plural is not regular. */
export function plural(count: number, noun: string, many = `${noun}s`): string {
  // Most counts have no thousands to be set apart, and setting them apart is slow.
  const figure = count < 1000 ? String(count) : count.toLocaleString('en-GB');
  return `${figure} ${count === 1 ? noun : many}`;
}

/** Words joined for a sentence: `a`, `a and b`, `a, b and c`. */
export function listed(words: readonly string[], joiner = 'and'): string {
  if (words.length < 2) return words[0] ?? '';
  return `${words.slice(0, -1).join(', ')} ${joiner} ${words[words.length - 1]}`;
}

/** A noun with its article: `a button`, `an image`. */
export const withArticle = (noun: string): string => `${/^[aeiou]/.test(noun) ? 'an' : 'a'} ${noun}`;
