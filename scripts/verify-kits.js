// usage: npm run verify:kits                           installs kits of components in a temporary folder
//        node scripts/verify-kits.js --installs FOLDER  keeps what is installed there
// What Wexlet reads of the components of installed packages is held against what they render in a document: every
// element that is read as surely there must be there, with its constant attributes, its role and its name. Needs the registry.
import { execFileSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { DiskFiles } from '../dist/host/disk-files.js';
import { NO_LEADS } from '../dist/host/leads.js';
import { Project } from '../dist/project/project.js';
import { nameOf } from '../dist/rendering/name.js';
import { rendered } from '../dist/rendering/rendered.js';
import { roleOf } from '../dist/rendering/role.js';

const PACKAGES =
  'react@18 react-dom@18 @mui/material@7 @emotion/react @emotion/styled antd@5 react-bootstrap@2 @mantine/core@8 @mantine/hooks@8 @chakra-ui/react@2 framer-motion@11 reactstrap@9 @headlessui/react@2 @radix-ui/react-dialog @radix-ui/react-checkbox @radix-ui/react-tabs @radix-ui/react-switch @radix-ui/react-label semantic-ui-react@2 primereact@10 @fluentui/react-components@9 react-aria-components formik react-hook-form react-router-dom@6 @carbon/react @tanstack/react-query@5 react-redux@9 redux@5 styled-components@6 jsdom@26 esbuild @testing-library/dom@10'.split(
    ' ',
  );

const at = process.argv.indexOf('--installs');
const folder = at > 0 ? process.argv[at + 1] : mkdtempSync(join(tmpdir(), 'wexlet-kits-'));
const run = (command, args) =>
  execFileSync(command, args, {
    cwd: folder,
    stdio: ['ignore', 'ignore', 'ignore'],
    env: { ...process.env, NODE_ENV: 'test' },
  });

mkdirSync(folder, { recursive: true });
cpSync(fileURLToPath(new URL('./kits', import.meta.url)), folder, { recursive: true });
if (!existsSync(join(folder, 'node_modules/esbuild'))) {
  writeFileSync(join(folder, 'package.json'), '{ "name": "kits", "private": true, "type": "module" }');
  run('npm', ['install', '--no-audit', '--no-fund', '--legacy-peer-deps', '--ignore-scripts', ...PACKAGES]);
}
run('node_modules/.bin/esbuild', [
  'render.js',
  '--bundle',
  '--platform=node',
  '--format=esm',
  '--outfile=render.mjs',
  '--external:jsdom',
  '--loader:.css=empty',
  '--loader:.js=jsx',
  '--jsx=transform',
  '--define:process.env.NODE_ENV="test"',
  "--banner:js=import { createRequire } from 'module'; const require = createRequire(import.meta.url);",
]);
run(process.execPath, ['render.mjs', 'rendered.json']);
const real = JSON.parse(readFileSync(join(folder, 'rendered.json'), 'utf8'));

const file = join(folder, 'cases.jsx');
const project = new Project(new DiskFiles(), undefined, {
  sources: () => [],
  leads: () => ({ ...NO_LEADS, standIns: [] }),
});
const total = { components: 0, elements: 0, sure: 0, wrong: 0, roles: 0, known: 0 };
for (const component of project.summary(file)?.components ?? []) {
  const left = [...(real[component.name] ?? [])];
  if (left.length === 0) continue;
  const use = { name: component.name, ref: { local: component.name }, place: component.place };
  const view = [{ kind: 'component', ...use, props: new Map(), open: false, events: [], slots: new Map() }];
  const tree = rendered(project, { file, view });
  const roles = left.filter(({ role }) => role !== null && role !== 'presentation');
  const known = roles.filter(({ role, name }) =>
    tree.elements.some((each) => roleOf(each) === role && nameIn(each, tree) === name),
  );
  total.components++;
  total.elements += left.length;
  total.roles += roles.length;
  total.known += known.length;
  const sure = tree.elements.filter(
    ({ guards, repeated, tag }) => guards.length === 0 && !repeated && tag !== '?',
  );
  for (const element of sure) {
    total.sure++;
    const same = left.findIndex((each) => isSame(element, tree, each));
    if (same >= 0) left.splice(same, 1);
    else wrong(`${component.name}: no <${element.tag}> with ${[...constants(element)].join(' ')} is there`);
  }
  if (tree.complete && sure.length === tree.elements.length && left.length > 0)
    wrong(`${component.name}: read as a whole, and there is more: ${left.map(({ tag }) => tag).join(', ')}`);
  const share = `${known.length} of ${roles.length} roles with their names`;
  console.log(`${component.name.padEnd(18)} ${String(sure.length).padStart(3)} elements sure, ${share}`);
}

function wrong(message) {
  total.wrong++;
  console.log(`WRONG  ${message}`);
}

function nameIn(element, tree) {
  const pieces = nameOf(element, tree);
  return pieces?.every((piece) => typeof piece === 'string') ? pieces.join('') : undefined;
}

// What a document makes of a property is another matter, and so are the names of SVG.
function constants({ tag, attributes }) {
  const isDrawn = /^(?:svg|path|circle|line|rect|g)$/.test(tag);
  return new Map(
    [...attributes].flatMap(([name, expr]) =>
      expr.is !== 'constant' ||
      [undefined, null, false].includes(expr.value) ||
      isDrawn ||
      /^(?:checked|value)$/.test(name)
        ? []
        : [[name, expr.value === true ? '' : String(expr.value)]],
    ),
  );
}

function isSame(element, tree, { tag, role, name, attributes }) {
  const own = roleOf(element);
  const named = own ? nameIn(element, tree) : undefined;
  return (
    tag === element.tag &&
    [...constants(element)].every(([key, value]) => attributes[key] === value) &&
    (!own || own === role) &&
    (named === undefined || named === name)
  );
}

if (at < 0) rmSync(folder, { recursive: true, force: true });
console.log(total);
process.exitCode = total.wrong > 0 || total.components === 0 ? 1 : 0;
