/** A text with the names in it taken apart: `with hideLid` becomes `with hide Lid`. */
export const spacedOut = (text: string): string => text.replace(/([\p{Ll}\d])(\p{Lu})/gu, '$1 $2');

/** The words of a title or name, in small letters: `KilnCard` has `kiln` and `card`. */
export const wordsOf = (text: string): string[] =>
  spacedOut(text)
    .toLowerCase()
    .match(/[\p{L}\p{N}]+/gu) ?? [];

/** A word without its ending, so that `opens`, `opened` and `opening` are one. */
export function stemOf(word: string): string {
  const stem = word.replace(/(?:ing|ed|es|s)$/, '');
  return stem.length < 3 ? word : stem.replace(/(.)\1$/, '$1').replace(/e$/, '');
}

/** The words of a title or name without their endings. */
export const stemsOf = (text: string): string[] => wordsOf(text).map(stemOf);

/** Whether two titles or names have a word in common, whatever its ending. */
export function sharesWord(one: string, other: string): boolean {
  const words = stemsOf(other);
  return stemsOf(one).some((word) => words.includes(word));
}

/** The lines of a code that say something, without their margins: those with so many letters or digits. */
export const sayingLines = (code: string, fewestLetters: number): string[] =>
  code
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line.replace(/\W/g, '').length >= fewestLetters);
