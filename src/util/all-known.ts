/** A list without gaps; undefined where anything in it is not known. */
export function allKnown<T>(list: readonly (T | undefined)[]): T[] | undefined {
  const known = list.filter((each) => each !== undefined);
  return known.length === list.length ? known : undefined;
}
