// usage: npm run verify:gaps
// Proves that the inputs of `wexlet gaps` take the arms that they are said to take. Writes the pending specs of sample
// components in three frameworks into their spec files, switches each on and runs it alone in a document, with the
// coverage that the engine measures. An arm of a script must be counted there; an arm of a template must show its own
// words. The first run, of the written specs alone, must take none of them. Needs the registry.
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DiskFiles } from '#src/index.js';
import { auditWithPending } from '#src/audit/audit.js';
import { settingsFrom } from '#src/config/settings.js';
import { branchFacts } from '#src/coverage/arm-facts.js';
import { readCoverage } from '#src/coverage/read.js';
import { NO_LEADS } from '#src/host/leads.js';
import { Project } from '#src/project/project.js';
import { loadAngular } from '#src/syntax/angular.js';
import type { ArmFacts } from '#src/coverage/arm-facts.js';
import type { ArmGap } from '#src/coverage/gaps.js';
import type { Sample } from '../test/support/samples.js';
import { samples } from './mocha-suites.js';

const PACKAGES: Readonly<Record<string, readonly string[]>> = {
  react: ['react@19', 'react-dom@19', '@testing-library/react@16', '@testing-library/dom@10'],
  vue: [
    'vue@3',
    '@vue/test-utils@2',
    '@vitejs/plugin-vue@6',
    '@vue/server-renderer@3',
    '@vue/compiler-dom@3',
  ],
  angular: ['core', 'common', 'compiler', 'platform-browser', 'platform-browser-dynamic']
    .map((name) => `@angular/${name}@20`)
    .concat('rxjs@7', 'zone.js@0.15'),
};
const ANGULAR_SETUP = `import '@angular/compiler';
import 'zone.js';
import 'zone.js/testing';
import { getTestBed } from '@angular/core/testing';
import { BrowserTestingModule, platformBrowserTesting } from '@angular/platform-browser/testing';
getTestBed().initTestEnvironment(BrowserTestingModule, platformBrowserTesting());
`;
const SETTINGS = `import { defineConfig } from 'vitest/config';
const vue = await import('@vitejs/plugin-vue').then((each) => [each.default()], () => []);
export default defineConfig({
  plugins: vue,
  esbuild: { jsx: 'automatic' },
  test: {
    environment: 'jsdom',
    setupFiles: ['./setup.ts'],
    coverage: { enabled: true, provider: 'v8', reporter: ['json'], include: ['*.{ts,tsx,vue}'], exclude: ['*.spec.*', 'setup.ts', '*.config.*'] },
  },
});
`;

function prepare({ title, files }: Sample): string {
  const root = mkdtempSync(join(tmpdir(), `wexlet-gaps-${title}-`));
  const manifest = { name: title, private: true, type: 'module', scripts: { test: 'vitest run' } };
  writeFileSync(join(root, 'package.json'), JSON.stringify(manifest));
  const packages = [
    'vitest@4',
    '@vitest/coverage-v8@4',
    'vite@7',
    'jsdom@26',
    'typescript@5.9',
    ...(PACKAGES[title] ?? []),
  ];
  execFileSync('npm', ['install', '--legacy-peer-deps', '--no-audit', '--no-fund', '--silent', ...packages], {
    cwd: root,
    stdio: 'inherit',
  });
  for (const [path, text] of files) {
    mkdirSync(join(root, path, '..'), { recursive: true });
    writeFileSync(join(root, path), text);
  }
  const compilerOptions = {
    target: 'es2022',
    module: 'esnext',
    moduleResolution: 'bundler',
    jsx: 'react-jsx',
    experimentalDecorators: true,
    useDefineForClassFields: false,
  };
  writeFileSync(join(root, 'tsconfig.json'), JSON.stringify({ compilerOptions }));
  writeFileSync(join(root, 'setup.ts'), title === 'angular' ? ANGULAR_SETUP : '');
  writeFileSync(join(root, 'vitest.config.mjs'), SETTINGS);
  return root;
}

const list = (disk: DiskFiles, root: string): string[] =>
  disk
    .list(root, ['**/node_modules/**', '**/coverage/**'], () => undefined)
    .filter((path) => /\.(?:tsx?|vue)$/.test(path) && !path.includes('.spec.'));

/** Runs spec files, and gives the arms that the engine counted, by place. */
async function taken(
  root: string,
  files: readonly string[],
  angular: Awaited<ReturnType<typeof loadAngular>> | undefined,
): Promise<Map<string, number | undefined>> {
  try {
    execFileSync('npx', ['--no-install', 'vitest', 'run', ...files], {
      cwd: root,
      stdio: 'pipe',
      env: { ...process.env, NO_COLOR: '1' },
    });
  } catch (error) {
    const { stdout, stderr } = error as { stdout: string; stderr: string };
    throw new Error(`${files.join()} failed:\n${stdout}${stderr}`);
  }
  const disk = new DiskFiles();
  const project = new Project(disk, angular, { sources: () => list(disk, root), leads: () => NO_LEADS });
  const sources = list(disk, root);
  const components = sources.flatMap((path) => project.summary(path)?.components ?? []);
  const coverage = readCoverage(
    { files: disk, sources, sourceOf: (path) => project.source(path), onProblem: console.error },
    [join(root, 'coverage/coverage-final.json')],
  );
  const { arms } = branchFacts(project, components, coverage, {
    usesOf: () => [],
    isInSight: () => true,
    isReplaced: () => false,
    answersOf: () => undefined,
    carriedTo: () => undefined,
  });
  return new Map(arms.filter(({ hits }) => hits !== undefined).map((facts) => [keyOf(facts), facts.hits]));
}

const keyOf = ({ branch, arm }: Pick<ArmFacts, 'branch' | 'arm'>): string =>
  `${branch.kind} ${arm.place.file}:${arm.place.start} ${arm.arm}`;

/** The words that the first element of a template's arm shows. */
const wordsOf = (text: string): string | undefined => /(?<=>)[A-Z][^<>]*(?=<\/)/.exec(text)?.[0];

const failed: string[] = [];
const total = { arms: 0, byEngine: 0, byWords: 0 };
/** Arms of which the engine does not tell: it counts them whether they are taken or not, or not at all. */
const untold: string[] = [];

for (const sample of samples('gap-suites/components.txt')) {
  const angular = sample.title === 'angular' ? await loadAngular() : undefined;
  const root = prepare(sample);
  const before = await taken(root, [], angular);
  const request = {
    root,
    paths: [root],
    settings: { ...settingsFrom(), coverage: [] },
    only: ['branches'],
    version: '0',
  };
  const { pending } = await auditWithPending(new DiskFiles(), request);
  for (const { file: specFile, specs } of pending)
    for (const { gap, alone } of specs) {
      // A default that is needed or not is no arm to the engine's coverage.
      if (!gap || gap.branch.kind === 'default') continue;
      total.arms++;
      const name = `proof.spec.${specFile.endsWith('x') ? 'tsx' : 'ts'}`;
      const { file } = gap.arm.place;
      const where = `${sample.title} ${file.slice(root.length + 1)} “${gap.arm.arm}” of ${gap.branch.condition}`;
      writeFileSync(join(root, name), switchedOn(alone, sample.title, gap));
      try {
        const hits = (await taken(root, [name], angular)).get(keyOf(gap));
        if (gap.branch.kind === 'markup') total.byWords++;
        else if (hits === undefined || (before.get(keyOf(gap)) ?? 0) > 0) untold.push(where);
        else if (hits > 0) total.byEngine++;
        else failed.push(`${where}: not counted`);
      } catch (error) {
        failed.push(`${where}: ${(error as Error).message.slice(0, 900)}`);
      }
      rmSync(join(root, name));
    }
}

/** The pending spec, no longer skipped; where it takes an arm of a template, with a look at what is shown. */
function switchedOn(alone: string, framework: string, { arm, branch }: ArmGap): string {
  const text = alone.replace('.skip(', '(').replace('mount(', 'const view = mount(');
  if (branch.kind !== 'markup') return text;
  const { file, start, end } = arm.place;
  const words = wordsOf(readFileSync(file, 'utf8').slice(start, end));
  const shown = framework === 'vue' ? 'view.text()' : 'fixture.nativeElement.textContent';
  const looks = `expect(${shown})${arm.written ? '' : '.not'}.toContain(${JSON.stringify(words)});`;
  return text.replace(/\/\/ expect\(.*$/m, looks);
}

const proven = total.byEngine + total.byWords;
console.log(
  `${total.arms} arms: ${total.byEngine} counted by the engine, ${total.byWords} shown in the document, ${untold.length} that the engine does not tell; ${failed.length} wrong`,
);
for (const each of untold) console.log(`  not told: ${each}`);
for (const each of failed) console.log(`  wrong: ${each}`);
process.exitCode = failed.length || proven < 40 ? 1 : 0;
