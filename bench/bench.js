// Measures the whole audit against only parsing the same files with the same parsers, each in a process of its own, cold.
// usage: bench.js [spec files] [components] [rounds]
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { makeSuite } from './make-suite.js';

const [specFiles = 1000, components = 600, rounds = 5] = process.argv.slice(2).map(Number);
const one = fileURLToPath(new URL('../build/bench/run-one.js', import.meta.url));
const run = (...args) => JSON.parse(execFileSync(process.execPath, [one, ...args], { encoding: 'utf8' }));

function measure(specs, parts) {
  const folder = mkdtempSync(join(tmpdir(), 'wexlet-bench-'));
  makeSuite(folder, { specFiles: specs, components: parts, seed: 7 });
  const audits = [];
  const parses = [];
  // Taken in turns, so that a slow moment of the machine meets both.
  for (let i = 0; i < rounds; i++) {
    parses.push(run('parse', folder));
    audits.push(run('audit', folder));
  }
  rmSync(folder, { recursive: true });
  return {
    // The fastest round is the one that the machine's other work disturbed least.
    audit: Math.min(...audits.map(({ ms }) => ms)),
    parse: Math.min(...parses.map(({ ms }) => ms)),
    mib: Math.max(...audits.map(({ mib }) => mib)),
  };
}

const whole = measure(specFiles, components);
const tenth = measure(Math.ceil(specFiles / 10), Math.ceil(components / 10));
const node = (code) => {
  const start = performance.now();
  execFileSync(process.execPath, code, { stdio: 'ignore' });
  return performance.now() - start;
};
const main = fileURLToPath(new URL('../bundle/main.js', import.meta.url));
const empty = Math.min(...Array.from({ length: 9 }, () => node(['-e', ''])));
const help = Math.min(...Array.from({ length: 9 }, () => node([main, '--help'])));

// A process from its start to its end, the second time; the kept answer is that of the first.
const folder = mkdtempSync(join(tmpdir(), 'wexlet-bench-'));
makeSuite(folder, { specFiles, components, seed: 7 });
const again = () => {
  const start = performance.now();
  spawnSync(process.execPath, [main, 'audit', '--cache', join(folder, 'kept')], {
    cwd: folder,
    stdio: 'ignore',
  });
  return performance.now() - start;
};
again();
const second = Math.min(...Array.from({ length: rounds }, again));
rmSync(folder, { recursive: true });

const line = (name, value, goal) => console.log(`${name.padEnd(52)} ${value.padStart(9)}   goal ${goal}`);
console.log(`${specFiles} spec files, ${components} components, the fastest of ${rounds} rounds`);
line('audit / only parsing', `${(whole.audit / whole.parse).toFixed(2)} x`, '<= 2.0 x');
line('second run, nothing changed / only parsing', `${(second / whole.parse).toFixed(2)} x`, '<= 0.35 x');
line('ten times the files / time', `${(whole.audit / tenth.audit).toFixed(2)} x`, '<= 11 x');
line('peak memory of the audit', `${whole.mib.toFixed(0)} MiB`, '<= 700 MiB at 5,000 spec files');
line('wexlet --help / empty Node program', `${(help / empty).toFixed(2)} x`, '<= 2.5 x');
