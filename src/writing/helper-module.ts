import type { Beginning } from '../checks/questions/beginning.js';
import { indentAt } from './edits/style.js';
import type { Block } from '../specs/model/blocks.js';
import type { Slot, Statement } from '../specs/model/body.js';
import { stands } from '../specs/model/rounds.js';
import { extname } from '../util/paths.js';
import { grouped } from '../util/grouped.js';
import { plural } from '../util/plural.js';
import type { Finding } from '../finding.js';
import {
  fileFact,
  inSpecFile,
  type FileContext,
  type ProjectContext,
  type SpecFileFacts,
} from '../checks/questions/context.js';
import { runningSpecs } from '../checks/questions/order.js';
import { codeKey, outlineKey, projectNames } from '../checks/questions/outlined.js';
import { arrangingIn, beginning, FEWEST_STATEMENTS } from './arrangement.js';
import { columnsOf } from './table.js';

const message = (count: number, files: number): string =>
  `The same ${count} statements stand at the start of specs in ${plural(files, 'file')}.`;
const messageAlike = (where: string, files: number, differ: string): string =>
  `${where} of ${plural(files, 'file')} do the same, but for ${differ}.`;
const advice = (module: string): string =>
  `Write them once, in a helper module next to the specs, as ${module}.`;
const adviceAlike = (taken: string): string =>
  `Write it once, in a helper module next to the specs that takes ${taken}.`;

const FEWEST_FILES = 3;
const FEWEST_ALIKE = 5;
const MOST_TAKEN = 3;

/** The ways in which the specs of a file and their hooks begin, as far as a helper in another module could do the same. */
function beginningsIn(context: FileContext): Beginning[] {
  const { file } = context;
  const found = new Map<string, Beginning>();
  const own = new Set(file.bindings.filter(({ kind }) => kind !== 'import').map(({ name }) => name));
  const nouns = projectNames(context);
  const hooks = file.blocks.filter(({ hook }) => hook === 'before-each');
  for (const block of [...runningSpecs(file), ...hooks]) {
    const isHook = block.kind === 'hook';
    const statements = isHook ? block.statements : arrangingIn(block).slice(0, FEWEST_STATEMENTS);
    const code = beginning(statements, isHook ? Math.max(FEWEST_STATEMENTS, statements.length) : undefined);
    if (code === undefined || statements.every((each) => onlyMakesStandIn(each, block))) continue;
    const key = codeKey(code);
    const each = found.has(key) ? undefined : beginningOf(key, statements, isHook, nouns, own);
    if (each) found.set(key, each);
  }
  return [...found.values()];
}

// `const onFire = vi.fn();` is as short as any helper for it.
const onlyMakesStandIn = (statement: Statement, { steps }: Block): boolean => {
  const own = steps.filter((step) => stands(step, statement) && step.kind !== 'use');
  return own.length > 0 && own.every(({ kind }) => kind === 'stand-in');
};

function beginningOf(
  key: string,
  statements: readonly Statement[],
  isHook: boolean,
  nouns: ReadonlySet<string>,
  own: ReadonlySet<string>,
): Beginning | undefined {
  const [first] = statements;
  const last = statements.at(-1);
  if (!first || !last || statements.some(({ returns }) => returns)) return undefined;
  const declares = statements.flatMap((statement) => statement.declares);
  const uses = [...new Set(statements.flatMap((statement) => [...statement.uses]))].filter(
    (name) => !declares.includes(name),
  );
  return {
    key,
    outline: outlineKey(statements, nouns),
    slots: statements.flatMap((statement) => statement.slots(nouns)),
    isHook,
    start: first.start,
    end: last.end,
    declares,
    uses,
    isBound: uses.some((name) => own.has(name)),
    awaits: statements.some((statement) => statement.awaits),
  };
}

/** How its specs and hooks begin, for arrangement that several files repeat. */
export const BEGINNINGS = fileFact('beginnings', beginningsIn);

interface Use {
  facts: SpecFileFacts;
  beginning: Beginning;
}

/** Arrangement that specs of several files repeat. */
export function acrossFiles(context: ProjectContext): Finding[] {
  const all = context.specFiles.flatMap((facts) =>
    facts.get(BEGINNINGS).map((each): Use => ({ facts, beginning: each })),
  );
  const free = all.filter(({ beginning: { isHook, isBound } }) => !isHook && !isBound);
  const same = [...grouped(free, (each) => each.beginning.key).values()].filter(
    (uses) => uses.length >= FEWEST_FILES,
  );
  const told = new Set(same.flat());
  // What a spec takes from its own file, no helper of another one has.
  const others = all.filter((use) => !told.has(use) && (use.beginning.isHook || !use.beginning.isBound));
  const alike = [...grouped(others, ({ beginning: { outline, isHook } }) => `${isHook} ${outline}`).values()];
  return [...same.flatMap((uses) => sameIn(uses, context)), ...alike.flatMap((uses) => alikeIn(uses))];
}

function sameIn([first, ...others]: readonly Use[], context: ProjectContext): Finding[] {
  const source = first && context.sourceOf(first.facts.path);
  if (!source) return [];
  const { facts, beginning: at } = first;
  return [
    {
      place: inSpecFile(facts, at),
      certainty: 'sure',
      message: message(FEWEST_STATEMENTS, others.length + 1),
      advice: advice(`arrange${extname(facts.path)}`),
      suggestion: moduleText(at, source.text, context.project.tree(facts.path)?.facts.imports),
      evidence: others.map((each) => ({ ...inSpecFile(each.facts, each.beginning), note: 'the same' })),
    },
  ];
}

// What differs is what a helper would take: names of the project, and values by what they are given to.
function alikeIn(uses: readonly Use[]): Finding[] {
  const files = new Map(uses.map((use) => [use.facts.path, use] as const));
  const [first, ...others] = files.values();
  if (!first || files.size < FEWEST_ALIKE) return [];
  const columns = columnsOf(
    [...files.values()].map(({ beginning }) => beginning.slots),
    (slot) => slot?.text ?? '',
  );
  if (columns.length === 0 || columns.length > MOST_TAKEN) return [];
  const taken = [...new Set(columns.map(({ slots }) => takenAs(first.beginning.slots[slots.at(-1) ?? 0])))];
  const list = taken.join(taken.length > 2 ? ', ' : ' and ');
  const { facts, beginning: at } = first;
  return [
    {
      place: inSpecFile(facts, at),
      certainty: 'sure',
      message: messageAlike(
        at.isHook ? 'The before-each hooks' : 'The first statements of specs',
        files.size,
        list,
      ),
      advice: adviceAlike(list),
      evidence: others.map((each) => ({ ...inSpecFile(each.facts, each.beginning), note: 'alike' })),
    },
  ];
}

const takenAs = (slot: Slot | undefined): string => {
  if (slot?.as === 'name') return 'what is tested';
  return slot?.of === undefined ? 'a value' : `what ${slot.of} is given`;
};

type Imports = ReadonlyMap<string, { specifier: string; name: string }>;

// The helper module, whole: its imports, and the function that hands out what the statements declare.
function moduleText(
  { start, end, declares, uses, awaits }: Beginning,
  text: string,
  imports: Imports = new Map(),
): string {
  const lines = uses.flatMap((name) => {
    const from = imports.get(name);
    return from ? [importLine(name, from)] : [];
  });
  const margin = indentAt(text, start);
  const body = text
    .slice(start, end)
    .split(/\r?\n/)
    .map((line) => `  ${line.startsWith(margin) ? line.slice(margin.length) : line}`);
  const returned = declares.length > 0 ? [`  return { ${declares.join(', ')} };`] : [];
  return [...lines, '', `export ${awaits ? 'async ' : ''}function arrange() {`, ...body, ...returned, '}']
    .join('\n')
    .trim();
}

/** The import of one name; `name`: what it is exported by, `default` and `*` included. */
export function importLine(local: string, { specifier, name }: { specifier: string; name: string }): string {
  if (name === 'default') return `import ${local} from '${specifier}';`;
  if (name === '*') return `import * as ${local} from '${specifier}';`;
  return `import { ${name === local ? name : `${name} as ${local}`} } from '${specifier}';`;
}
