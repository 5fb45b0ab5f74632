/** How often each of some values stands among them. */
export function counted<Each>(values: Iterable<Each>): Map<Each, number> {
  const counts = new Map<Each, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return counts;
}
