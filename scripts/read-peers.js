// Reads the peer ranges that packages of test tool chains publish, once, and writes them as a table with its date.
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import semver from 'semver';

const PACKAGES =
  `@testing-library/react @testing-library/vue @testing-library/angular @testing-library/user-event
@testing-library/react-hooks @vue/test-utils @vue/vue2-jest @vue/vue3-jest vue-jest ts-jest jest-preset-angular
@vitest/coverage-v8 @vitest/coverage-istanbul @vitest/ui @vitest/browser vitest @vitejs/plugin-react @vitejs/plugin-react-swc
@vitejs/plugin-vue @vitejs/plugin-vue-jsx react-test-renderer react-dom enzyme-adapter-react-16 karma-jasmine
karma-jasmine-html-reporter @angular/build @angular-devkit/build-angular @angular/compiler-cli @angular/core`.split(
    /\s+/,
  );
const PEERS = new Set(
  `react react-dom vue vite vitest jest typescript enzyme karma karma-jasmine jasmine-core rxjs zone.js
@angular/core @angular/compiler-cli @testing-library/dom @types/react`.split(/\s+/),
);

// Older majors are hardly met any more.
const MAJORS = 7;

const registry = execFileSync('npm', ['config', 'get', 'registry'], { encoding: 'utf8' })
  .trim()
  .replace(/\/$/, '');
const rows = [];
for (const name of PACKAGES) {
  const { versions } = await (await fetch(`${registry}/${name.replace('/', '%2f')}`)).json();
  const asked = new Map();
  const newest = semver.major(Object.keys(versions).sort(semver.compare).at(-1));
  for (const [version, { peerDependencies = {}, deprecated }] of Object.entries(versions)) {
    if (semver.prerelease(version) || deprecated || semver.major(version) <= newest - MAJORS) continue;
    for (const [peer, range] of Object.entries(peerDependencies)) {
      if (!PEERS.has(peer) || !semver.validRange(range)) continue;
      const key = `${name} ${semver.major(version)} ${peer}`;
      asked.set(key, [...(asked.get(key) ?? []), range]);
    }
  }
  for (const [key, ranges] of asked) {
    // A range that another one takes in adds nothing; one that takes all says nothing.
    const widest = ranges.filter(
      (range, i) =>
        !ranges.some(
          (other, j) => i !== j && semver.subset(range, other) && (j < i || !semver.subset(other, range)),
        ),
    );
    if (!widest.some((range) => semver.subset('*', range))) rows.push([...key.split(' '), ...widest]);
  }
}

const day = new Date().toISOString().slice(0, 10);
const quoted = (text) => `'${text}'`;
const lines = rows.map(
  ([name, major, peer, ...ranges]) =>
    `  [${quoted(name)}, ${major}, ${quoted(peer)}, ${ranges.map(quoted).join(', ')}],`,
);
const text = `// Made by \`npm run peers\` on ${day} from what the packages publish.

/** A package, one of its majors, a peer, and the widest ranges that versions of that major ask of the peer. */
export type PeerRow = readonly [name: string, major: number, peer: string, ...ranges: string[]];

// prettier-ignore
export const PEER_ROWS: readonly PeerRow[] = [
${lines.join('\n')}
];
`;
const file = new URL('../src/environment/tables/peer-ranges.ts', import.meta.url);
writeFileSync(file, text);
