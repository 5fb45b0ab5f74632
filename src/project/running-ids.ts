import type { Node } from 'oxc-parser';
import { isFunction, literalText, memberName, propertyName, unwrapped, walkTree } from '../syntax/tree.js';
import type { Script } from '../syntax/script.js';
import type { Span } from '../finding.js';
import { namesIn, type ModuleFacts } from '../syntax/module-facts.js';

/** A number that a module counts up for as long as the process runs, and that ends up in ids. */
export interface RunningId {
  place: Span;
  /** What ids made from it start with; undefined where the framework makes the whole of them. */
  prefix: string | undefined;
  /** The first number in an id. */
  start: number;
  /** The package that counts, as it is imported. */
  from?: string;
}

// What packages export that counts for as long as the process runs, and takes what the id starts with.
const COUNTING_EXPORTS: ReadonlySet<string> = new Set(
  ['lodash', 'lodash-es', 'underscore']
    .map((each) => `${each} uniqueId`)
    .concat(
      ['lodash/uniqueId', 'lodash-es/uniqueId', 'lodash.uniqueid', 'lodash/fp/uniqueId'].map(
        (each) => `${each} default`,
      ),
    ),
);

// The number of a component's instance in Vue 2.
const INSTANCE_NUMBER = '_uid';

/** Ids that React makes by `useId`, in the forms of its releases: counted per process. */
export const FRAMEWORK_ID = /(?::r[0-9a-z]+:|«r[0-9a-z]+»|_r_[0-9a-z]+_)/;

/** Whether an id has the first number that there is: nothing was counted before it. */
export function isFirst(id: string, { prefix, start }: RunningId): boolean {
  const number = prefix === undefined ? /_r_([0-9a-z]+)_|[:«]r([0-9a-z]+)[:»]/.exec(id) : /(\d+)$/.exec(id);
  const text = number?.[1] ?? number?.[2];
  return text !== undefined && parseInt(text, prefix === undefined ? 36 : 10) <= start;
}

/** Reads the running numbers of a module: its own counters, and the framework's. */
export function runningIds({ source, program }: Script, facts: ModuleFacts): RunningId[] {
  // Most modules have none: the text tells without a walk.
  const { text } = source;
  const hasCounter = /\+\+|\+= ?1\b|uniqueid|\b_uid\b/i.test(text);
  if (!hasCounter && !text.includes('useId')) return [];
  return [...frameworkIds(facts), ...(hasCounter ? ownIds(program.body as readonly Node[], facts) : [])];
}

// The package that a call counts by: `uniqueId('lid-')`, `_.uniqueId('lid-')`.
function countingPackage(node: Node, facts: ModuleFacts): string | undefined {
  if (node.type !== 'CallExpression') return undefined;
  const callee = unwrapped(node.callee);
  const whole = callee.type === 'MemberExpression' ? unwrapped(callee.object) : callee;
  const from = whole.type === 'Identifier' ? facts.imports.get(whole.name) : undefined;
  if (!from) return undefined;
  const name = callee.type === 'MemberExpression' ? memberName(callee) : from.name;
  return COUNTING_EXPORTS.has(`${from.specifier} ${name ?? ''}`) ? from.specifier : undefined;
}

const frameworkIds = (facts: ModuleFacts): RunningId[] =>
  [...facts.imports.values()]
    .filter(({ specifier, name, typeOnly }) => specifier === 'react' && name === 'useId' && !typeOnly)
    .map(({ start, end }) => ({ place: { start, end }, prefix: undefined, start: 0 }));

function ownIds(statements: readonly Node[], facts: ModuleFacts): RunningId[] {
  const found: (Omit<RunningId, 'start'> & Partial<RunningId>)[] = [];
  const counters = countersOf(statements);
  let start = 0;
  // Names that hold a number taken from a counter.
  const taken = new Set<string>();
  const counts = (node: Node): boolean => {
    let does = false;
    walkTree(node, (each) => {
      const counted = countedBy(each);
      does ||=
        (counted !== undefined && counters.has(counted)) ||
        (each.type === 'Identifier' && taken.has(each.name)) ||
        memberName(each) === INSTANCE_NUMBER ||
        countingPackage(each, facts) !== undefined;
      return !does;
    });
    return does;
  };
  for (const statement of statements)
    walkTree(statement, (node) => {
      if (
        node.type === 'VariableDeclarator' &&
        node.init &&
        !isFunction(unwrapped(node.init)) &&
        counts(node.init)
      )
        namesIn(node.id).forEach((name) => taken.add(name));
      const from = countingPackage(node, facts);
      const [given] = node.type === 'CallExpression' ? node.arguments : [];
      const own = from && given && constantText(given, facts);
      if (own && own.length > 1)
        found.push({ place: { start: node.start, end: node.end }, prefix: own, start: 1, from });
      const prefix = leading(node, facts, counts);
      if (prefix !== undefined && prefix.length > 1)
        found.push({ place: { start: node.start, end: node.end }, prefix });
      // `++count` gives the number after the first one, `count++` the first one itself.
      const counted = countedBy(node);
      const first = counted === undefined ? undefined : counters.get(counted);
      if (first !== undefined) start = node.type === 'UpdateExpression' && !node.prefix ? first : first + 1;
    });
  return found.map((each) => ({ start, ...each }));
}

// Numbers at the top level of a module, and static ones of its classes, that start from a literal.
function countersOf(statements: readonly Node[]): Map<string, number> {
  const names = new Map<string, number>();
  for (const statement of statements) {
    const node =
      statement.type === 'ExportNamedDeclaration' || statement.type === 'ExportDefaultDeclaration'
        ? (statement.declaration as Node | null)
        : statement;
    if (node?.type === 'VariableDeclaration' && node.kind !== 'const') {
      for (const { id, init } of node.declarations)
        if (id.type === 'Identifier' && init?.type === 'Literal' && typeof init.value === 'number')
          names.set(id.name, init.value);
    } else if (node?.type === 'ClassDeclaration') {
      for (const each of node.body.body) {
        if (each.type !== 'PropertyDefinition' || !each.static || each.value?.type !== 'Literal') continue;
        const name = propertyName(each.key, each.computed);
        if (name !== undefined && typeof each.value.value === 'number')
          names.set(`.${name}`, each.value.value);
      }
    }
  }
  return names;
}

// What `count++` or `count += 1` counts; a static field goes by its name with a dot.
function countedBy(node: Node): string | undefined {
  const target =
    node.type === 'UpdateExpression' && node.operator === '++'
      ? node.argument
      : node.type === 'AssignmentExpression' && node.operator === '+='
        ? node.left
        : undefined;
  if (!target) return undefined;
  if (target.type === 'Identifier') return target.name;
  const name = memberName(target);
  return name === undefined ? undefined : `.${name}`;
}

// The literal start of a text that a counted number is put into.
function leading(node: Node, facts: ModuleFacts, counts: (node: Node) => boolean): string | undefined {
  if (node.type === 'BinaryExpression' && node.operator === '+')
    return counts(node.right) ? constantText(node.left, facts) : undefined;
  if (node.type !== 'TemplateLiteral' || !node.expressions.some(counts)) return undefined;
  const first = node.quasis[0]?.value.cooked ?? '';
  const [hole] = node.expressions;
  return first === '' && hole ? constantText(hole, facts) : first;
}

function constantText(node: Node, facts: ModuleFacts): string | undefined {
  const inner = unwrapped(node);
  if (inner.type !== 'Identifier') return literalText(inner);
  const declared = facts.declarations.get(inner.name);
  return declared?.type === 'VariableDeclarator' && declared.init ? literalText(declared.init) : undefined;
}
