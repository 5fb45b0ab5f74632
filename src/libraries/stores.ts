/** What a method does to the whole state of a store. */
type Deed = 'writes' | 'reads';

interface Store {
  modules: readonly string[];
  makers: readonly string[];
  writes: string;
  reads: string;
}

// Read from each package's own type declarations.
const STORES: readonly Store[] = [
  {
    modules: ['zustand', 'zustand/vanilla', 'zustand/traditional'],
    makers: ['create', 'default', 'createStore', 'createWithEqualityFn'],
    writes: 'setState',
    reads: 'getState',
  },
  {
    modules: ['redux', '@reduxjs/toolkit'],
    makers: ['createStore', 'legacy_createStore', 'configureStore'],
    writes: 'dispatch replaceReducer',
    reads: 'getState',
  },
  {
    modules: ['vuex'],
    makers: ['createStore', 'Store', 'default.Store'],
    writes: 'commit dispatch replaceState registerModule unregisterModule',
    reads: '',
  },
  { modules: ['nanostores'], makers: ['atom', 'map', 'deepMap'], writes: 'set setKey', reads: 'get' },
  { modules: ['jotai', 'jotai/vanilla'], makers: ['createStore'], writes: 'set', reads: 'get' },
  { modules: ['svelte/store'], makers: ['writable'], writes: 'set update', reads: '' },
];

/** What a method of a store does to it, by what made the store; undefined where no table knows. */
export function storeDeed(module: string, maker: string, method: string): Deed | undefined {
  const store = STORES.find(({ modules, makers }) => modules.includes(module) && makers.includes(maker));
  if (store?.writes.split(' ').includes(method)) return 'writes';
  return store?.reads.split(' ').includes(method) ? 'reads' : undefined;
}
