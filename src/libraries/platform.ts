/** Kinds of things that outlive the spec that does something to them. */
export type LastingKind =
  | 'global'
  | 'environment'
  | 'storage'
  | 'cookie'
  | 'address'
  | 'title'
  | 'page'
  | 'listener'
  | 'interval'
  | 'observer'
  | 'connection'
  | 'server'
  | 'answers'
  | 'subscription'
  | 'locale'
  | 'seed'
  | 'file';

/** What a call does to something that outlives the spec. `key`: which argument, or which name, tells what it is done to. */
export interface LastingCall {
  what: LastingKind;
  does: 'open' | 'close' | 'set';
  key?: number | string;
}

const each = (names: string, call: LastingCall): [string, LastingCall][] =>
  names.split(' ').map((name) => [name, call]);

/** Calls of the platform, by their path from the global object. */
export const PLATFORM_CALLS: ReadonlyMap<string, LastingCall> = new Map([
  ...each('localStorage.setItem', { what: 'storage', does: 'open', key: 'localStorage' }),
  ...each('localStorage.clear localStorage.removeItem', {
    what: 'storage',
    does: 'close',
    key: 'localStorage',
  }),
  ...each('sessionStorage.setItem', { what: 'storage', does: 'open', key: 'sessionStorage' }),
  ...each('sessionStorage.clear sessionStorage.removeItem', {
    what: 'storage',
    does: 'close',
    key: 'sessionStorage',
  }),
  ...each('history.pushState history.replaceState location.assign location.replace', {
    what: 'address',
    does: 'set',
    key: 'location',
  }),
  ...each('addEventListener', { what: 'listener', does: 'open', key: 0 }),
  ...each('removeEventListener', { what: 'listener', does: 'close', key: 0 }),
  ...each('setInterval', { what: 'interval', does: 'open', key: 'setInterval' }),
  ...each('clearInterval', { what: 'interval', does: 'close', key: 'setInterval' }),
]);

/** An object that is open from the time that it is made, or from a call on. */
export interface PlatformObject {
  what: LastingKind;
  opens?: string;
  closes: string;
}

const observer: PlatformObject = { what: 'observer', opens: 'observe', closes: 'disconnect' };
const connection: PlatformObject = { what: 'connection', closes: 'close' };
const worker: PlatformObject = { what: 'connection', closes: 'terminate' };

/** Objects of the platform that go on by themselves until they are closed, by constructor. */
export const PLATFORM_OBJECTS: Readonly<Record<string, PlatformObject>> = {
  ResizeObserver: observer,
  IntersectionObserver: observer,
  MutationObserver: observer,
  PerformanceObserver: observer,
  WebSocket: connection,
  EventSource: connection,
  BroadcastChannel: connection,
  Worker: worker,
  SharedWorker: worker,
};

/**
 * Places that are written to by assignment and are more than plain global values, by the start of the path.
 * `whole`: the path itself as well. Without a `key` each path is a thing of its own.
 */
export const PLATFORM_PLACES: readonly { path: string; what: LastingKind; key?: string; whole?: boolean }[] =
  [
    { path: 'location', what: 'address', key: 'location', whole: true },
    { path: 'localStorage', what: 'storage', key: 'localStorage' },
    { path: 'sessionStorage', what: 'storage', key: 'sessionStorage' },
    { path: 'process.env', what: 'environment', whole: true },
    { path: 'import.meta.env', what: 'environment', whole: true },
  ];

/** Calls on packages that change something for the whole process, by module and name. */
export const PACKAGE_CALLS: Readonly<Record<string, Readonly<Record<string, LastingCall>>>> = {
  moment: { 'default.locale': { what: 'locale', does: 'set', key: 'moment.locale' } },
  dayjs: { 'default.locale': { what: 'locale', does: 'set', key: 'dayjs.locale' } },
  numeral: { 'default.locale': { what: 'locale', does: 'set', key: 'numeral.locale' } },
  i18next: { 'default.changeLanguage': { what: 'locale', does: 'set', key: 'i18next.changeLanguage' } },
  '@faker-js/faker': { 'faker.seed': { what: 'seed', does: 'set', key: 'faker.seed' } },
};

/** Modules of the platform that write files, with what writes and what removes. */
export const FILE_MODULES: ReadonlySet<string> = new Set([
  'fs',
  'node:fs',
  'fs/promises',
  'node:fs/promises',
]);
export const WRITING_CALLS =
  /^(?:default\.|\*\.)?(?:promises\.)?(?:mkdtemp|writeFile|mkdir|appendFile|copyFile)(?:Sync)?$/;
export const REMOVING_CALLS = /^(?:default\.|\*\.)?(?:promises\.)?(?:rm|rmdir|unlink)(?:Sync)?$/;

/** A function that makes a server for specs. */
export interface ServerMaker {
  opens: string;
  closes: string;
  /** The methods that set answers beside the first ones, and that take all of these off. */
  answers?: string;
  resets?: string;
}

/** Makers of servers: what they give is opened and closed by these methods. */
export const SERVER_MAKERS: Readonly<Record<string, ServerMaker>> = {
  // msw 1 and 2: what `use` adds comes before all other answers until it is reset.
  setupServer: { opens: 'listen', closes: 'close', answers: 'use', resets: 'resetHandlers' },
  setupWorker: { opens: 'start', closes: 'stop', answers: 'use', resets: 'resetHandlers' },
  createServer: { opens: 'listen', closes: 'close' },
};
