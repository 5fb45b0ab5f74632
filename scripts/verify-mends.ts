// usage: npm run verify:mends -- FOLDER COMMAND…    COMMAND runs the specs of FOLDER under Jest, Vitest or Mocha
//        npm run verify:mends                       does so with the demo's board and glazes, and needs the registry
// Copies a project, runs its suite, writes all safe mends of one family, runs again, and so on for each family. Names
// each spec whose result changed, with the mend that did it. A spec that fails alone before any mend passed only on what
// another left behind: it is listed apart. The project itself is never written to.
import { spawnSync } from 'node:child_process';
import {
  cpSync,
  existsSync,
  mkdtempSync,
  readFileSync,
  realpathSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join, relative } from 'node:path';
import { FAMILIES } from '#src/finding.js';
import { planMends, type CodedMend, type Report } from '#src/index.js';
import { MAIN } from './mocha-suites.js';
import { demoProject } from './demo-project.js';

/** The status of each spec, by its file and full title; a title that stands twice is counted. */
type Results = Map<string, string>;

interface JsonResults {
  testResults?: {
    name: string;
    assertionResults: { ancestorTitles: string[]; title: string; status: string }[];
  }[];
  tests?: { file: string; fullTitle: string; err: { message?: string } }[];
  pending?: { file: string; fullTitle: string }[];
}

const given = process.argv.slice(2);
const [project, command] = given.length > 0 ? [given[0] ?? '', given.slice(1).join(' ')] : demoProject();
const from = realpathSync(project);
const copy = realpathSync(mkdtempSync(join(tmpdir(), 'wexlet-mends-')));
const out = join(mkdtempSync(join(tmpdir(), 'wexlet-results-')), 'results.json');

/** A fresh copy of the project; what is installed is shared. */
function renew(): void {
  rmSync(copy, { recursive: true, force: true });
  const isOwn = (path: string): boolean => !['node_modules', '.git'].includes(basename(path));
  cpSync(from, copy, { recursive: true, filter: isOwn });
  for (const folder of ['node_modules', '.git'])
    if (existsSync(join(from, folder))) symlinkSync(join(from, folder), join(copy, folder));
}

function reporting(): string {
  if (/\bmocha\b/.test(command)) return `--reporter json --reporter-option output=${out}`;
  return /\bvitest\b/.test(command) ? `--reporter=json --outputFile=${out}` : `--json --outputFile=${out}`;
}

/** Runs the suite, or some files of it; `title` runs one spec alone. */
function run(files: readonly string[] = [], title?: string): Results {
  rmSync(out, { force: true });
  const pattern = title?.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&');
  const only = pattern ? [/\bmocha\b/.test(command) ? '--grep' : '-t', JSON.stringify(pattern)] : [];
  const quoted = files.map((file) => JSON.stringify(file));
  const line = [command, reporting(), ...quoted, ...only].join(' ');
  const env = { ...process.env, CI: '1', NO_COLOR: '1' };
  const { stderr } = spawnSync(line, { cwd: copy, shell: true, encoding: 'utf8', env, maxBuffer: 1 << 28 });
  if (!existsSync(out)) throw new Error(`${line} gave no results:\n${stderr}`);
  return resultsIn(JSON.parse(readFileSync(out, 'utf8')) as JsonResults);
}

function resultsIn({ testResults = [], tests = [] }: JsonResults): Results {
  const found: Results = new Map();
  const add = (file: string, title: string, status: string): void => {
    let key = `${relative(copy, realpathSync(file))} › ${title}`;
    while (found.has(key)) key += AGAIN;
    found.set(key, status);
  };
  for (const { name, assertionResults } of testResults)
    for (const { ancestorTitles, title, status } of assertionResults)
      add(name, [...ancestorTitles, title].join(' '), status);
  for (const { file, fullTitle, err } of tests)
    add(file, fullTitle, err.message === undefined ? 'passed' : 'failed');
  return found;
}

const AGAIN = ' (again)';
const fileOf = (key: string): string => key.split(' › ')[0] ?? '';
const titleOf = (key: string): string => (key.split(' › ')[1] ?? '').replace(/(?: \(again\))+$/, '');

function audit(family: string): Report {
  const args = [MAIN, 'audit', '--format', 'json', '--only', family];
  const { stdout } = spawnSync(process.execPath, args, { cwd: copy, encoding: 'utf8', maxBuffer: 1 << 28 });
  return JSON.parse(stdout) as Report;
}

const read = (file: string): string => readFileSync(join(copy, file), 'utf8');

/** Writes mends, as `wexlet mend --write` does; gives the files that were written. */
function write(mends: readonly CodedMend[]): string[] {
  const { texts } = planMends(mends, read);
  for (const [file, { after }] of texts) writeFileSync(join(copy, file), after);
  return [...texts.keys()];
}

/** The specs that passed before and don't now. One with a new title is the one that is gone; a copy taken out is no loss. */
function broken(before: Results, after: Results, files: readonly string[]): string[] {
  return files.flatMap((file) => {
    const [old, now] = [before, after].map((each) => [...each].filter(([key]) => fileOf(key) === file));
    const failing = (now ?? []).filter(
      ([key, status]) => status === 'failed' && before.get(key) !== 'failed',
    );
    const isCopy = (key: string): boolean => key.endsWith(AGAIN) && !after.has(key);
    const copies = (old ?? []).filter(([key]) => isCopy(key)).length;
    const lost = (old ?? []).length - (now ?? []).length - copies;
    const gone = lost > 0 ? [`${file} › ${lost} specs fewer`] : [];
    return [...failing.map(([key]) => key), ...gone];
  });
}

const wrong: string[] = [];
const leaning: string[] = [];
renew();
console.log(`${from}: ${command}`);
const before = run();
const passed = [...before.values()].filter((status) => status === 'passed').length;
console.log(`${before.size} specs, ${passed} passed before any mend`);

for (const family of FAMILIES) {
  renew();
  const { findings } = audit(family);
  const mends = findings.flatMap(({ code, mend }): CodedMend[] => (mend?.safe ? [{ code, ...mend }] : []));
  const written = write(mends);
  if (written.length === 0) continue;
  const specs = [...new Set([...before.keys()].map(fileOf))];
  // Specs of other files don't see these edits, but for those of settings and components.
  const isOfSpecs = written.every((file) => specs.includes(file));
  const after = run(isOfSpecs ? written : []);
  const red = broken(before, after, isOfSpecs ? written : specs);
  console.log(
    `${family.padEnd(12)} ${mends.length} safe mends in ${written.length} files, ${red.length} specs changed`,
  );
  for (const key of red) {
    const told = `${key}\n    by ${culprits(key, mends).join(' or ')}`;
    if (leansOnOthers(key)) leaning.push(told);
    else wrong.push(told);
  }
}

/** The mends that turn a spec red by themselves. */
function culprits(key: string, mends: readonly CodedMend[]): string[] {
  const file = fileOf(key);
  const near = mends.filter(({ edits }) => edits.some((edit) => edit.file === file));
  const tried = near.length > 1 ? near.filter((mend) => turnsRed(key, mend)) : near;
  return (tried.length > 0 ? tried : near).map(({ code, summary }) => `${code} “${summary}”`);
}

function turnsRed(key: string, mend: CodedMend): boolean {
  renew();
  write([mend]);
  const file = fileOf(key);
  return broken(before, run([file]), [file]).includes(key);
}

/** Whether a spec fails alone in the project as it is. */
function leansOnOthers(key: string): boolean {
  renew();
  return run([fileOf(key)], titleOf(key)).get(key) === 'failed';
}

for (const each of leaning) console.log(`passed only on what another spec left: ${each}`);
for (const each of wrong) console.log(`wrong: ${each}`);
console.log(`${wrong.length} green specs turned red by a safe mend, ${leaning.length} that leaned on others`);
process.exitCode = wrong.length > 0 ? 1 : 0;
