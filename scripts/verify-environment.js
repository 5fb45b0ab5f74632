// usage: npm run verify:environment -- [--only TEXT] [--installs FOLDER] [--said]: shows on real runners that each fault of the
// settings fails a run for the cause that Wexlet names before it, and that the mend or the advice makes the run pass.
// --only: projects and faults whose names hold the text; --installs: where packages are installed, to be kept;
// --said: what Wexlet says alone, no runner is started.
// Needs the registry; a whole run writes docs/environment-faults.md.
import { execFile, execFileSync } from 'node:child_process';
import {
  existsSync,
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
import { parseArgs } from 'node:util';
import { FAULTS } from './environment/faults.js';
import { PROJECTS } from './environment/projects.js';

const MAIN = fileURLToPath(new URL('../dist/cli/main.js', import.meta.url));
const LANES = 2;

const { values: asked } = parseArgs({
  options: { only: { type: 'string' }, installs: { type: 'string' }, said: { type: 'boolean' } },
});
const work = mkdtempSync(join(tmpdir(), 'wexlet-verify-'));
const installs = asked.installs ?? join(work, 'installs');

/** What a program says and whether it ended well; `folder`: where it runs. */
function started(program, args, folder) {
  const options = {
    cwd: folder,
    env: { ...process.env, CI: 'true', NO_COLOR: '1', FORCE_COLOR: '0', NG_CLI_ANALYTICS: 'false' },
    timeout: 180_000,
    maxBuffer: 1 << 26,
  };
  return new Promise((done) => {
    execFile(program, args, options, (error, stdout, stderr) =>
      done({ passes: !error, out: stdout, text: `${stdout}\n${stderr}` }),
    );
  });
}

/** Installs what the projects of one folder declare, once; gives its node_modules. */
async function installed(name, packages) {
  const folder = join(installs, name);
  const modules = join(folder, 'node_modules');
  if (existsSync(join(folder, 'done'))) return modules;
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'package.json'), JSON.stringify({ private: true, dependencies: packages }));
  const { passes, text } = await started(
    'npm',
    ['install', '--no-audit', '--no-fund', '--silent', '--legacy-peer-deps'],
    folder,
  );
  if (!passes) throw new Error(`npm install of ${name}: ${text}`);
  writeFileSync(join(folder, 'done'), '');
  return modules;
}

/** Writes a project; `lacks`: packages that are neither declared nor installed. */
function write(folder, { files, packages, lock = 'yarn.lock' }, modules, lacks = []) {
  rmSync(folder, { recursive: true, force: true });
  const devDependencies = Object.fromEntries(
    Object.entries(packages).filter(([name]) => !lacks.includes(name)),
  );
  const manifest = JSON.parse(files['package.json']);
  const declared = {
    ...files,
    'package.json': `${JSON.stringify({ ...manifest, devDependencies }, null, 2)}\n`,
    [lock]: lock.endsWith('.json') ? '{ "lockfileVersion": 3, "packages": {} }' : '',
  };
  for (const [path, text] of Object.entries(declared)) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), text);
  }
  symlinkSync(modules, join(folder, 'node_modules'));
  setAside(modules, lacks);
}

// What a case lacks is moved out of the install, and back for the next case.
function setAside(modules, lacks) {
  const aside = `${modules}-aside`;
  mkdirSync(aside, { recursive: true });
  for (const name of readdirSync(aside)) renameSync(join(aside, name), join(modules, name.replace('+', '/')));
  for (const name of lacks)
    if (existsSync(join(modules, name))) renameSync(join(modules, name), join(aside, name.replace('/', '+')));
}

/** A project with a fault in it: each edit is a new text, `null` for no file, or what to replace in the old text. */
function broken(project, { edit = {}, name }) {
  const files = { ...project.files };
  for (const [path, change] of Object.entries(edit)) {
    if (change === null) delete files[path];
    else if (typeof change === 'string') files[path] = change;
    else {
      const pairs = typeof change[0] === 'string' ? [change] : change;
      for (const [from, to] of pairs) {
        if (!files[path]?.includes(from))
          throw new Error(`${project.name}, ${name}: “${from}” is not in ${path}`);
        files[path] = files[path].replace(from, () => to);
      }
    }
  }
  return { ...project, files };
}

const run = (folder) =>
  asked.said ? { passes: true, text: '' } : started('npm', ['test', '--silent'], folder);

async function audit(folder) {
  const { out } = await started(
    process.execPath,
    // Two checks of other families name what stops a run.
    [MAIN, 'audit', '--format', 'json', '--only', 'environment,C14,S16'],
    folder,
  );
  return JSON.parse(out);
}

/** The line of a failed run that names the cause. */
function causeIn(text) {
  const lines = text
    .replace(/\u001b\[[0-9;]*m/g, '')
    .split('\n')
    .map((line) => line.trim());
  const words =
    /rror: .|Cannot find|not found|cannot be found|No tests? |not defined|MISSING|Multiple|Unknown|NG\d/;
  const line = lines.find((each) => words.test(each) && !/^at |^❯|^FAIL/.test(each)) ?? '';
  return line
    .replaceAll(work, '')
    .replaceAll(installs, '')
    .replace(/(?:\.\.\/)+(?=[^ ]*node_modules)[^ ]*?(?=node_modules)/g, '')
    .replaceAll('|', '\\|')
    .replaceAll('`', '')
    .slice(0, 110);
}

async function verify(fault, project, modules, folder) {
  const codes = [fault.code].flat();
  const faulty = broken(project, fault);
  write(folder, faulty, modules, fault.lacks);
  const failed = await run(folder);
  const { findings, verdict } = await audit(folder);
  const named = findings.filter(({ code }) => codes.includes(code));
  if (asked.said)
    return {
      fails: true,
      said: findings.map(({ code }) => code),
      verdict,
      code: named[0]?.code,
      cured: true,
      cause: '',
    };
  const hasMend = findings.some(({ mend }) => mend);
  if (hasMend)
    await started(process.execPath, [MAIN, 'mend', '--write', '--likely', '--only', 'environment'], folder);
  const mended = hasMend && (await run(folder)).passes;
  // What is advised is what was there before.
  if (!mended) write(folder, project, modules);
  const cured = mended ? { passes: true, text: '' } : await run(folder);
  const after = await audit(folder);
  setAside(modules, []);
  return {
    fails: !failed.passes,
    cause: causeIn(failed.text),
    said: findings.map(({ code }) => code),
    verdict,
    code: named[0]?.code,
    cure: mended ? 'mend' : 'advice',
    cured: cured.passes && !after.findings.some(({ code }) => code === named[0]?.code),
    text: failed.passes ? failed.text : cured.passes ? '' : cured.text,
  };
}

/** The rows of one install folder, one project after the other. */
async function rowsOf(name, projects) {
  const modules = await installed(name, Object.assign({}, ...projects.map(({ packages }) => packages)));
  const folder = join(work, name);
  const rows = [];
  for (const project of projects) {
    const faults = FAULTS.filter(({ on }) => [on].flat().includes(project.name)).filter(isAsked);
    if (faults.length === 0) continue;
    write(folder, project, modules);
    const sound = await run(folder);
    const { verdict, findings } = await audit(folder);
    if (!sound.passes || verdict !== 'ready' || findings.length > 0)
      console.log(
        'NOT SOUND',
        project.name,
        verdict,
        findings.map(({ code, message }) => `${code} ${message}`),
        sound.passes ? '' : sound.text,
      );
    for (const fault of faults) {
      const result = await verify(fault, project, modules, folder);
      rows.push({ project: project.name, name: fault.name, ...result });
      const holds = result.fails && result.code && result.cured;
      const state = holds
        ? 'holds'
        : !result.fails
          ? 'RUNS'
          : !result.code
            ? `${result.verdict.toUpperCase()} `
            : 'UNCURED';
      console.log(
        `${state}  ${project.name}  ${result.code ?? `${fault.code}?`}  ${fault.name}  [${[...new Set(result.said)]}]  ${result.cause}`,
      );
      if (process.env.WEXLET_SHOW && !holds) console.log(result.text.slice(0, 3000));
    }
  }
  return rows;
}

const isAsked = ({ on, name }) => !asked.only || `${on} ${name}`.includes(asked.only);

const byInstall = {};
for (const project of PROJECTS) (byInstall[project.install] ??= []).push(project);
const rows = [];
const queue = Object.entries(byInstall);
await Promise.all(
  Array.from({ length: LANES }, async () => {
    for (let next = queue.shift(); next; next = queue.shift()) rows.push(...(await rowsOf(...next)));
  }),
);
rmSync(work, { recursive: true });

const failing = rows.filter(({ fails }) => fails);
const share = (some) => `${some.length} of ${failing.length}`;
const named = failing.filter(({ code }) => code);
const ready = failing.filter(({ verdict }) => verdict === 'ready');
const summary = `${failing.length} faults fail their run; named: ${share(named)}; READY all the same: ${share(ready)}; cured: ${share(named.filter(({ cured }) => cured))}`;
console.log(summary);
if (!asked.only && !asked.said) {
  const order = (row) => PROJECTS.findIndex(({ name }) => name === row.project);
  const table = failing
    .sort((a, b) => order(a) - order(b))
    .map(
      ({ project, name, code, cause, cure, cured, verdict }) =>
        `| ${project} | ${name} | \`${cause}\` | ${code ?? `**none** (${verdict})`} | ${code ? cure : ''} | ${cured ? 'yes' : '**no**'} |`,
    );
  const page = `# Faults of settings, on real runners

Made by \`npm run verify:environment\`. Each project passes and is called ready; then one fault is put in, and the run fails; Wexlet names the cause before the run; with its mend, or what it advises, the run passes again and the finding is gone.

${summary}.

| project | fault | what the run says | code | cure | passes again |
| --- | --- | --- | --- | --- | --- |
${table.join('\n')}
`;
  const pagePath = fileURLToPath(new URL('../docs/environment-faults.md', import.meta.url));
  writeFileSync(pagePath, page);
  execFileSync('npx', ['--no-install', 'prettier', '--write', pagePath], { stdio: 'ignore' });
}
process.exitCode = rows.length === 0 || named.length < failing.length || failing.length < rows.length ? 1 : 0;
