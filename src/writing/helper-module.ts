import type { Beginning } from '../checks/questions/beginning.js';
import { hash } from 'node:crypto';
import { indentAt } from './edits/style.js';
import type { SpecFile } from '../specs/model/blocks.js';
import type { Statement } from '../specs/model/body.js';
import { extname } from '../util/paths.js';
import { grouped } from '../util/grouped.js';
import { plural } from '../util/plural.js';
import type { Finding } from '../finding.js';
import { fileFact, inSpecFile, type ProjectContext } from '../checks/questions/context.js';
import { runningSpecs } from '../checks/questions/order.js';
import { arrangingIn, beginning, FEWEST_STATEMENTS } from './arrangement.js';

const message = (count: number, files: number): string =>
  `The same ${count} statements stand at the start of specs in ${plural(files, 'file')}.`;
const advice = (module: string): string =>
  `Write them once, in a helper module next to the specs, as ${module}.`;

const FEWEST_FILES = 3;

/** The ways in which the specs of a file begin, as far as a helper in another module could do the same. */
function beginningsIn(file: SpecFile): Beginning[] {
  const found = new Map<string, Beginning>();
  const ownNames = new Set(file.bindings.filter(({ kind }) => kind !== 'import').map(({ name }) => name));
  for (const spec of runningSpecs(file)) {
    const statements = arrangingIn(spec).slice(0, FEWEST_STATEMENTS);
    const code = beginning(statements);
    if (code === undefined) continue;
    const key = hash('sha256', code).slice(0, 24);
    const each = found.has(key) ? undefined : beginningOf(key, statements);
    if (each && !each.uses.some((name) => ownNames.has(name))) found.set(key, each);
  }
  return [...found.values()];
}

function beginningOf(key: string, statements: readonly Statement[]): Beginning | undefined {
  const [first] = statements;
  const last = statements.at(-1);
  if (!first || !last || statements.some(({ returns }) => returns)) return undefined;
  const declares = statements.flatMap((statement) => statement.declares);
  const uses = [...new Set(statements.flatMap((statement) => [...statement.uses]))].filter(
    (name) => !declares.includes(name),
  );
  return {
    key,
    start: first.start,
    end: last.end,
    declares,
    uses,
    awaits: statements.some((statement) => statement.awaits),
  };
}

/** How its specs begin, for arrangement that several files repeat. */
export const BEGINNINGS = fileFact('beginnings', ({ file }) => beginningsIn(file));

/** Arrangement that specs of several files repeat. */
export function acrossFiles(context: ProjectContext): Finding[] {
  const all = context.specFiles.flatMap((facts) =>
    facts.get(BEGINNINGS).map((each) => ({ facts, beginning: each })),
  );
  return [...grouped(all, (each) => each.beginning.key).values()]
    .filter((uses) => uses.length >= FEWEST_FILES)
    .flatMap(([first, ...others]) => {
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
        } satisfies Finding,
      ];
    });
}

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

function importLine(local: string, { specifier, name }: { specifier: string; name: string }): string {
  if (name === 'default') return `import ${local} from '${specifier}';`;
  if (name === '*') return `import * as ${local} from '${specifier}';`;
  return `import { ${name === local ? name : `${name} as ${local}`} } from '${specifier}';`;
}
