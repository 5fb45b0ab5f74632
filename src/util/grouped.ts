/** Puts items together by a key, each group and the groups in the order in which they come. */
export function grouped<Item, Key>(items: readonly Item[], keyOf: (item: Item) => Key): Map<Key, Item[]> {
  const found = new Map<Key, Item[]>();
  for (const item of items) {
    const key = keyOf(item);
    const known = found.get(key);
    if (known) known.push(item);
    else found.set(key, [item]);
  }
  return found;
}
