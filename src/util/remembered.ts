/** A function that works out its result for each object once. */
export function remembered<Key extends object, Result>(work: (key: Key) => Result): (key: Key) => Result {
  const known = new Map<Key, Result>();
  return (key) => {
    const result = known.get(key);
    if (result !== undefined || known.has(key)) return result as Result;
    const made = work(key);
    known.set(key, made);
    return made;
  };
}
