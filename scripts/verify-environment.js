// usage: npm run verify:environment: shows on real runners that each fault of the settings fails a run for the cause
// that Wexlet names before it, and that the mend or the advice makes the run pass. Needs the registry; writes docs/environment-faults.md.
import { execFileSync, spawnSync } from 'node:child_process';
import {
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { FAULTS, PROJECTS } from './environment-faults.js';

const MAIN = fileURLToPath(new URL('../dist/cli/main.js', import.meta.url));
const work = mkdtempSync(join(tmpdir(), 'wexlet-verify-'));

/** Installs what the projects of one runner declare, once. */
function install(runner) {
  const folder = join(work, runner);
  mkdirSync(folder);
  const all = Object.assign(
    {},
    ...PROJECTS.filter((each) => each.runner === runner).map((each) => each.packages),
  );
  writeFileSync(join(folder, 'package.json'), JSON.stringify({ private: true, dependencies: all }));
  execFileSync('npm', ['install', '--no-audit', '--no-fund', '--silent'], { cwd: folder, stdio: 'ignore' });
  return join(folder, 'node_modules');
}

/** Writes a project; `lacks`: packages that are neither declared nor installed. */
function write(folder, { files, packages, lacks = [] }, installed) {
  rmSync(folder, { recursive: true, force: true });
  const declared = Object.fromEntries(Object.entries(packages).filter(([name]) => !lacks.includes(name)));
  for (const [path, text] of Object.entries(files)) {
    if (text === undefined) continue;
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), text);
  }
  const manifest = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'));
  writeFileSync(
    join(folder, 'package.json'),
    `${JSON.stringify({ ...manifest, devDependencies: declared }, null, 2)}\n`,
  );
  writeFileSync(join(folder, 'yarn.lock'), '');
  symlinkSync(installed, join(folder, 'node_modules'));
  setAside(installed, lacks);
}

// What a case lacks is moved out of the install, and back for the next case.
function setAside(installed, lacks) {
  const aside = `${installed}-aside`;
  mkdirSync(aside, { recursive: true });
  for (const name of readdirSync(aside)) renameSync(join(aside, name), join(installed, name));
  for (const name of lacks) renameSync(join(installed, name), join(aside, name));
}

function run(folder) {
  const { status, stdout, stderr } = spawnSync('npm', ['test', '--silent'], {
    cwd: folder,
    encoding: 'utf8',
    env: { ...process.env, CI: 'true', NO_COLOR: '1', FORCE_COLOR: '0' },
    timeout: 120_000,
  });
  return { passes: status === 0, text: `${stdout}\n${stderr}` };
}

const audit = (folder) =>
  JSON.parse(
    spawnSync(process.execPath, [MAIN, 'audit', '--format', 'json', '--only', 'environment'], {
      cwd: folder,
      encoding: 'utf8',
    }).stdout,
  ).findings.map(({ code }) => code);

/** The line of a failed run that names the cause. */
function causeIn(text) {
  const lines = text
    .replace(/\u001b\[[0-9;]*m/g, '')
    .split('\n')
    .map((line) => line.trim());
  const words = /Error: .|Cannot find|not found|cannot be found|No tests? |not defined|MISSING|Multiple/;
  const line = lines.find((each) => words.test(each) && !/^at |^❯|^FAIL/.test(each)) ?? '';
  return line.replaceAll(work, '').replaceAll('|', '\\|').slice(0, 110);
}

function verify(fault, project, installed) {
  const folder = join(work, 'case');
  write(folder, project, installed);
  const before = run(folder);
  const broken = { ...project, lacks: fault.lacks, files: { ...project.files, ...fault.files } };
  write(folder, broken, installed);
  const failed = run(folder);
  const codes = audit(folder);
  if (fault.cure === 'mend') {
    execFileSync(process.execPath, [MAIN, 'mend', '--write', '--likely', '--only', fault.code], {
      cwd: folder,
      stdio: 'ignore',
    });
  } else write(folder, { ...broken, lacks: [], files: { ...broken.files, ...fault.cure } }, installed);
  const after = run(folder);
  const gone = !audit(folder).includes(fault.code);
  const holds = before.passes && !failed.passes && codes.includes(fault.code) && after.passes && gone;
  if (!holds)
    console.log({
      fault: fault.name,
      before: before.passes,
      failed: !failed.passes,
      codes,
      after: after.passes,
      gone,
      text: (before.passes ? (failed.passes ? '' : after.text) : before.text).slice(0, 1500),
    });
  return { holds, cause: causeIn(failed.text) };
}

const rows = [];
const installs = new Map();
for (const project of PROJECTS) {
  if (!installs.has(project.runner)) installs.set(project.runner, install(project.runner));
  for (const fault of FAULTS.filter((each) => each.project === project.name)) {
    const { holds, cause } = verify(fault, project, installs.get(project.runner));
    rows.push({ ...fault, holds, cause });
    console.log(`${holds ? 'holds' : 'FAILS'}  ${project.name}  ${fault.code}  ${fault.name}`);
  }
}
const versions = [...installs].map(
  ([runner, modules]) =>
    `${runner} ${JSON.parse(readFileSync(join(modules, runner, 'package.json'), 'utf8')).version}`,
);
const table = rows.map(
  ({ project, name, code, cause, cure, holds }) =>
    `| ${project} | ${name} | \`${cause}\` | ${code} | ${cure === 'mend' ? 'mend' : 'advice'} | ${holds ? 'yes' : '**no**'} |`,
);
const page = `# Faults of settings, on real runners

Made by \`npm run verify:environment\` with ${versions.join(' and ')}. Each project passes; then one fault is put in, and the run fails; Wexlet names the cause before the run; with its mend, or what it advises, the run passes again and the finding is gone.

| project | fault | what the run says | code | cure | holds |
| --- | --- | --- | --- | --- | --- |
${table.join('\n')}
`;
const pagePath = fileURLToPath(new URL('../docs/environment-faults.md', import.meta.url));
writeFileSync(pagePath, page);
execFileSync('npx', ['--no-install', 'prettier', '--write', pagePath], { stdio: 'ignore' });
rmSync(work, { recursive: true });
const failed = rows.filter(({ holds }) => !holds).length;
console.log(`${rows.length - failed} of ${rows.length} hold`);
process.exitCode = failed ? 1 : 0;
