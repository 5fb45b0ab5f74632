// usage: npm run verify:queries                      renders the demo and sample components, and asks old and new queries
//        node scripts/verify-queries.js FOLDER CMD…   does so in a suite that is there: CMD runs its specs in FOLDER
// Every query that Wexlet would replace is asked together with the better one: both must give the same element.
// The files are put back afterwards. The first form needs the registry.
import { execFileSync, spawnSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { SAMPLES } from './query-samples.js';

const MAIN = fileURLToPath(new URL('../dist/cli/main.js', import.meta.url));
const DEMO = fileURLToPath(new URL('../demo/kilnroom', import.meta.url));
const CODES = 'Q01,Q02,Q03,Q04,Q06';

// Asks both, and notes in a file whether they found the same; the old one is handed on.
const JUDGE = (log) => `
function wexletSame(place, older, newer) {
  const old = older();
  const note = (verdict) => globalThis.process.getBuiltinModule('fs').appendFileSync(${JSON.stringify(log)}, place + ' ' + verdict + '\\n');
  const bare = (found) => (found && (found.element ?? found.nativeElement)) || found;
  const judge = (a, b) => note(a === null && b === null ? 'none' : bare(a) === bare(b) ? 'same' : 'differs');
  try {
    const better = newer();
    if (old && typeof old.then === 'function') return old.then((a) => better.then((b) => (judge(a, b), a), (error) => (note('throws ' + String(error.message).split('\\n')[0]), a)));
    judge(old, better);
  } catch (error) {
    note('throws ' + String(error.message).split('\\n')[0]);
  }
  return old;
}
`;

function audit(folder) {
  const { stdout } = spawnSync(process.execPath, [MAIN, 'audit', '--format', 'json', '--only', CODES], {
    cwd: folder,
    encoding: 'utf8',
    maxBuffer: 1 << 28,
  });
  return JSON.parse(stdout);
}

/** Puts the judge around every query that has a better one; gives the places, and the texts before. */
function instrument(folder, log) {
  const { findings } = audit(folder);
  const before = new Map();
  const places = new Map();
  const edits = new Map();
  for (const { code, file, suggestion, mend, certainty, line, column, endLine, endColumn } of findings) {
    if (!suggestion) continue;
    const text = readFileSync(join(folder, file), 'utf8');
    before.set(file, text);
    const at = (l, c) =>
      text
        .split('\n')
        .slice(0, l - 1)
        .reduce((sum, each) => sum + each.length + 1, 0) +
      c -
      1;
    const [start, end] = [at(line, column), at(endLine, endColumn)];
    const key = `${file}:${start}`;
    if (
      places.has(key) ||
      [...places.values()].some((each) => each.file === file && start < each.end && each.start < end)
    )
      continue;
    places.set(key, {
      file,
      start,
      end,
      code,
      certainty,
      mend: Boolean(mend),
      safe: mend?.safe ?? false,
      suggestion,
    });
    const more = (mend?.edits ?? []).filter((each) => each.start !== start);
    const own = edits.get(file) ?? [];
    own.push({ start, end: start, text: `wexletSame(${JSON.stringify(key)}, () => ` });
    own.push({ start: end, end, text: `, () => ${mend?.edits[0]?.text ?? suggestion})` });
    for (const each of more)
      if (!own.some((other) => other.start === each.start && other.text === each.text)) own.push(each);
    edits.set(file, own);
  }
  for (const [file, own] of edits) {
    let text = before.get(file);
    for (const { start, end, text: put } of own.sort((a, b) => b.start - a.start))
      text = text.slice(0, start) + put + text.slice(end);
    writeFileSync(join(folder, file), text + JUDGE(log));
  }
  return { before, places };
}

function run(folder, [command, ...args], show = false) {
  const env = { ...process.env, CI: 'true', NO_COLOR: '1', FORCE_COLOR: '0' };
  const { status, stdout, stderr } = spawnSync(command, args, {
    cwd: folder,
    encoding: 'utf8',
    env,
    maxBuffer: 1 << 28,
  });
  if (show) process.stdout.write(`${stdout}\n${stderr}`);
  return { passes: status === 0, text: `${stdout}\n${stderr}` };
}

/** Judges every replacement of a suite by running it; gives the number of each verdict and the places that differ. */
function prove(folder, command) {
  const log = join(mkdtempSync(join(tmpdir(), 'wexlet-queries-')), 'verdicts.txt');
  const { before, places } = instrument(folder, log);
  const { text } = run(folder, command);
  for (const [file, content] of before) writeFileSync(join(folder, file), content);
  const verdicts = new Map();
  const lines = existsSync(log) ? readFileSync(log, 'utf8').split('\n').filter(Boolean) : [];
  for (const line of lines) {
    const space = line.indexOf(' ');
    const [key, verdict] = [line.slice(0, space), line.slice(space + 1)];
    // One place that runs many times is as good as its worst time.
    const known = verdicts.get(key);
    if (!known || known === 'same' || known === 'none') verdicts.set(key, verdict);
  }
  const counts = { offered: places.size, same: 0, none: 0, wrong: 0, 'not run': 0, safe: 0 };
  for (const [key, place] of places) {
    const verdict = verdicts.get(key);
    if (verdict === 'same' || verdict === 'none') counts[verdict]++;
    else if (verdict) counts.wrong++;
    else counts['not run']++;
    if (place.safe && verdict === 'same') counts.safe++;
    if (verdict && verdict !== 'same' && verdict !== 'none') {
      const line = readFileSync(join(folder, place.file), 'utf8').slice(0, place.start).split('\n').length;
      console.log(
        `  WRONG ${place.code} ${place.certainty} ${place.file}:${line} ${place.suggestion}: ${verdict}`,
      );
    } else if (!verdict && process.env.SHOW)
      console.log(`  not run ${place.code} ${key} ${place.suggestion}`);
  }
  if (lines.length === 0 || process.env.SHOW) console.log(text.slice(-4000));
  return counts;
}

// The same markup, written as each framework has it.
const asJsx = (markup) =>
  markup
    .replaceAll('class=', 'className=')
    .replaceAll('for=', 'htmlFor=')
    .replaceAll('tabindex=', 'tabIndex=')
    .replace(/type="(checkbox|radio)"/g, 'type="$1" readOnly')
    .replace(/ value="([^"]*)"/g, ' defaultValue="$1"');
const asked = (query) =>
  query.startsWith('@') ? `screen.${query.slice(1)}` : `container.querySelector(${JSON.stringify(query)})`;

function writeSamples(folder) {
  const put = (path, text) => writeFileSync(join(folder, path), text);
  mkdirSync(join(folder, 'src'), { recursive: true });
  const react = [];
  const vue = [];
  const wrapper = [];
  const angular = [];
  SAMPLES.forEach(([markup, queries], i) => {
    put(
      `src/Sample${i}.tsx`,
      `export const Sample${i} = () => ${asJsx(markup).replaceAll('defaultValue="e"', 'value="e"').replaceAll('defaultValue="w"', 'value="w"').replaceAll('defaultValue="Go"', 'value="Go"')};\n`,
    );
    put(`src/Sample${i}.vue`, `<template>${markup}</template>\n`);
    put(
      `src/sample${i}.component.ts`,
      `import { Component } from '@angular/core';\n@Component({ selector: 'kr-sample${i}', template: \`${markup.replaceAll('href="#vase"', 'href="/vase"')}\` })\nexport class Sample${i} {}\n`,
    );
    const body = (before) =>
      queries
        .map(
          (query, n) => `it('${i}.${n}', () => { ${before} expect(${asked(query)}).toBeInTheDocument(); });`,
        )
        .join('\n');
    react.push(`describe('${i}', () => {\n${body(`const { container } = render(<Sample${i} />);`)}\n});`);
    vue.push(`describe('${i}', () => {\n${body(`const { container } = render(Sample${i});`)}\n});`);
    angular.push(
      `describe('${i}', () => {\n${body(`const fixture = TestBed.createComponent(Sample${i}); fixture.detectChanges(); const container = fixture.nativeElement;`)}\n});`,
    );
    const selectors = queries.filter((query) => !query.startsWith('@'));
    wrapper.push(
      selectors
        .map(
          (query, n) =>
            `it('${i}.${n}', () => { const wrapper = mount(Sample${i}); expect(wrapper.find(${JSON.stringify(query)}).exists()).toBe(true); });`,
        )
        .join('\n'),
    );
  });
  const imports = (name) => SAMPLES.map((_, i) => name(i)).join('\n');
  put(
    'src/react.spec.tsx',
    `import { render, screen } from '@testing-library/react';\n${imports((i) => `import { Sample${i} } from './Sample${i}';`)}\n${react.join('\n')}\n`,
  );
  put(
    'src/vue.spec.ts',
    `import { render, screen } from '@testing-library/vue';\n${imports((i) => `import Sample${i} from './Sample${i}.vue';`)}\n${vue.join('\n')}\n`,
  );
  put(
    'src/wrapper.spec.ts',
    `import { mount } from '@vue/test-utils';\n${imports((i) => `import Sample${i} from './Sample${i}.vue';`)}\n${wrapper.join('\n')}\n`,
  );
  put(
    'src/angular.spec.ts',
    `import { TestBed } from '@angular/core/testing';\nimport { screen } from '@testing-library/dom';\n${imports((i) => `import { Sample${i} } from './sample${i}.component';`)}\n${angular.join('\n')}\n`,
  );
}

const SETUP = `import '@angular/compiler';
import '@testing-library/jest-dom/vitest';
import { provideZonelessChangeDetection } from '@angular/core';
import { getTestBed, TestBed } from '@angular/core/testing';
import { BrowserTestingModule, platformBrowserTesting } from '@angular/platform-browser/testing';
import { beforeEach } from 'vitest';
getTestBed().initTestEnvironment(BrowserTestingModule, platformBrowserTesting());
beforeEach(() => TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] }));
`;
const CONFIG = `import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';
export default defineConfig({
  plugins: [vue()],
  oxc: { jsx: { runtime: 'automatic' } },
  test: { environment: 'jsdom', globals: true, setupFiles: ['./setup.ts'], include: ['src/**/*.spec.{ts,tsx}', '*/src/**/*.{spec,specs}.{ts,tsx}'] },
});
`;
const PACKAGES = {
  '@angular/common': '^21.0.0',
  '@angular/compiler': '^21.0.0',
  '@angular/core': '^21.0.0',
  '@angular/platform-browser': '^21.0.0',
  '@testing-library/dom': '^10.4.0',
  '@testing-library/jest-dom': '^6.6.0',
  '@testing-library/react': '^16.1.0',
  '@testing-library/user-event': '^14.5.0',
  '@testing-library/vue': '^8.1.0',
  '@vitejs/plugin-vue': '^6.0.0',
  '@vue/test-utils': '^2.4.6',
  jsdom: '^26.0.0',
  react: '^19.0.0',
  'react-dom': '^19.0.0',
  rxjs: '^7.8.0',
  vitest: '^4.0.0',
  vue: '^3.5.0',
};

/** A project with the samples and the two packages of the demo that run in a document made by a script. */
function writeProject(folder) {
  mkdirSync(folder, { recursive: true });
  writeFileSync(
    join(folder, 'package.json'),
    JSON.stringify({
      private: true,
      type: 'module',
      scripts: { test: 'vitest run' },
      devDependencies: PACKAGES,
    }),
  );
  writeFileSync(
    join(folder, 'tsconfig.json'),
    JSON.stringify({
      compilerOptions: {
        experimentalDecorators: true,
        jsx: 'react-jsx',
        target: 'es2022',
        useDefineForClassFields: false,
      },
    }),
  );
  writeFileSync(join(folder, 'vitest.config.ts'), CONFIG);
  writeFileSync(join(folder, 'setup.ts'), SETUP);
  writeSamples(folder);
  for (const name of ['board', 'glazes'])
    cpSync(join(DEMO, 'packages', name), join(folder, name), { recursive: true });
  execFileSync('npm', ['install', '--no-audit', '--no-fund', '--silent', '--legacy-peer-deps'], {
    cwd: folder,
    stdio: 'ignore',
  });
}

const [given, ...command] = process.argv.slice(2);
const folder = given ?? join(mkdtempSync(join(tmpdir(), 'wexlet-queries-')), 'project');
if (!given) writeProject(folder);
const counts = prove(folder, command.length > 0 ? command : ['npx', '--no-install', 'vitest', 'run']);
console.log(
  Object.entries(counts)
    .map(([name, count]) => `${name} ${count}`)
    .join('  ·  '),
);
if (!given && !process.env.KEEP) rmSync(folder, { recursive: true, force: true });
process.exitCode = counts.wrong > 0 || counts.same === 0 ? 1 : 0;
