/** The words of a title or name, in small letters: `KilnCard` has `kiln` and `card`. */
export const wordsOf = (text: string): string[] =>
  text
    .replace(/([\p{Ll}\d])(\p{Lu})/gu, '$1 $2')
    .toLowerCase()
    .match(/[\p{L}\p{N}]+/gu) ?? [];

/** A word without its ending, so that `opens`, `opened` and `opening` are one. */
export function stemOf(word: string): string {
  const stem = word.replace(/(?:ing|ed|es|s)$/, '');
  return stem.length < 3 ? word : stem.replace(/(.)\1$/, '$1').replace(/e$/, '');
}
