/** What a call on a render, or on what it gives, brings about: other props, other state, or only that changes are looked for. */
type Change = 'rerenders' | 'sets-state' | 'tells';

const CHANGES: Readonly<Record<string, Change>> = {
  rerender: 'rerenders',
  setProps: 'rerenders',
  updateProps: 'rerenders',
  setData: 'sets-state',
  setMethods: 'sets-state',
  setState: 'sets-state',
  detectChanges: 'tells',
  autoDetectChanges: 'tells',
};

/** What a call of a name brings about, by how many arguments it is given; undefined for all other names. */
export function changeBy(name: string, args: number): Change | undefined {
  // `update(<KilnLid />)` renders anew, `update()` looks for changes.
  if (name === 'update') return args > 0 ? 'rerenders' : 'tells';
  return Object.hasOwn(CHANGES, name) ? CHANGES[name] : undefined;
}
