import type { Node } from 'oxc-parser';
import { onlyReturned, resultOf } from '../../components/calls.js';
import { constant, type Expr } from '../../components/expr.js';
import { exprOf } from '../../components/read-expr.js';
import type { ComponentScope } from '../../components/scope.js';
import { TYPES } from '../../libraries/types.js';
import {
  calledName,
  isFunction,
  literalText,
  memberName,
  propertyName,
  unwrapped,
  type FunctionNode,
} from '../../syntax/tree.js';
import type { SpecReading } from './spec-reading.js';
import { specScope } from './spec-scope.js';

/** What the object holds that the factory of a module gives back, by name. */
export function entriesOf(factory: FunctionNode): Map<string, Node> {
  const made = madeBy(factory);
  const found = new Map<string, Node>();
  if (made?.type !== 'ObjectExpression') return found;
  for (const each of made.properties) {
    const name = each.type === 'Property' ? propertyName(each.key, each.computed) : undefined;
    if (name !== undefined && each.type === 'Property') found.set(name, unwrapped(each.value));
  }
  return found;
}

/** The names that the factory of a module gives back; undefined where they are not all written out. */
export function namesGivenBy(factory: FunctionNode): ReadonlySet<string> | undefined {
  const made = madeBy(factory);
  const entries = entriesOf(factory);
  return made?.type === 'ObjectExpression' && entries.size === made.properties.length
    ? new Set(entries.keys())
    : undefined;
}

/** The functions of runners that give the real module. */
export const ACTUAL: ReadonlySet<string | undefined> = new Set([
  'importActual',
  'requireActual',
  'importOriginal',
]);

/**
 * The names that the factory of a module gives of its own, where it gives all others as the real module does:
 * `async () => ({ ...(await vi.importActual('./kiln')), load: vi.fn() })`; undefined where that is not so, or can't be told.
 */
export function namesOverridden(factory: FunctionNode, specifier: string): ReadonlySet<string> | undefined {
  const made = madeBy(factory);
  if (made?.type !== 'ObjectExpression') return undefined;
  const [first, ...own] = made.properties;
  const names = entriesOf(factory);
  if (first?.type !== 'SpreadElement' || names.size !== own.length) return undefined;
  return isActual(first.argument, factory, specifier) ? new Set(names.keys()) : undefined;
}

function isActual(node: Node, factory: FunctionNode, specifier: string): boolean {
  const value = unwrapped(node);
  if (value.type === 'AwaitExpression') return isActual(value.argument, factory, specifier);
  if (value.type === 'Identifier') {
    const init = factory.body?.type === 'BlockStatement' ? keptAs(value.name, factory.body.body) : undefined;
    return init !== undefined && isActual(init, factory, specifier);
  }
  if (value.type !== 'CallExpression') return false;
  const { callee, arguments: given } = value;
  const [asked] = given;
  const [param] = factory.params;
  const isParam = param?.type === 'Identifier' && callee.type === 'Identifier' && callee.name === param.name;
  return (isParam || ACTUAL.has(calledName(value))) && (!asked || literalText(asked) === specifier);
}

// What `const actual = …` keeps under a name.
function keptAs(name: string, statements: readonly Node[]): Node | undefined {
  for (const each of statements)
    if (each.type === 'VariableDeclaration' && each.kind === 'const')
      for (const { id, init } of each.declarations)
        if (id.type === 'Identifier' && id.name === name && init) return init;
  return undefined;
}

function madeBy({ body }: FunctionNode): Node | undefined {
  const last = body?.type === 'BlockStatement' ? body.body.at(-1) : undefined;
  const returned = last?.type === 'ReturnStatement' ? last.argument : last ? undefined : body;
  return returned ? unwrapped(returned as Node) : undefined;
}

/** Keeps what the functions give that a spec file puts in the place of a module's own, as far as that can be read. */
export function keepFactoryAnswers({ file, moduleEnvs, moduleReplacements, tree }: SpecReading): void {
  const env = moduleEnvs.get(file.path);
  if (!env) return;
  const scope = specScope(env, tree);
  for (const replacement of file.replacements) {
    const by = moduleReplacements.get(replacement.specifier)?.by;
    if (by === undefined || by === 'automatic') continue;
    for (const [name, node] of entriesOf(by)) {
      const answer = answerOf(node, scope);
      if (answer) replacement.answers.set(name, answer);
      if (isPlain(node)) replacement.plain.add(name);
      const told = toldAs(node);
      if (told) replacement.told.set(name, { start: node.start, end: node.end, made: told === 'made' });
      const held = env.find(heldBy(node) ?? '')?.value;
      if (held?.is !== 'thing' || !held.standIn) continue;
      replacement.standIns.set(name, held.standIn);
      if (!held.standIn.answers) replacement.answers.set(name, constant(undefined));
    }
  }
}

// `vi.fn()`, with values given in a chain: a function that it were handed could keep what it is called with.
function isPlain(node: Node): boolean {
  if (node.type !== 'CallExpression' || node.callee.type !== 'MemberExpression') return false;
  if (node.arguments.some((each) => isFunction(unwrapped(each)) || each.type === 'Identifier')) return false;
  return memberName(node.callee) === 'fn' || isPlain(unwrapped(node.callee.object));
}

// `vi.fn(() => …)` is made with an answer, `vi.fn().mockReturnValue(…)` is told one.
function toldAs(node: Node): 'made' | 'told' | undefined {
  if (node.type !== 'CallExpression' || node.callee.type !== 'MemberExpression') return undefined;
  const name = memberName(node.callee) ?? '';
  if (name === 'fn') return node.arguments.length > 0 ? 'made' : undefined;
  const { members } = TYPES['stand-in'];
  const isAnswer = Object.hasOwn(members, name) && members[name]?.kind === 'answer';
  const inner = unwrapped(node.callee.object);
  return isAnswer && (toldAs(inner) ?? isPlain(inner)) ? 'told' : undefined;
}

// `load: load`, `load: (...all) => load(...all)`
function heldBy(node: Node): string | undefined {
  if (node.type === 'Identifier') return node.name;
  const called = isFunction(node) ? onlyReturned(node) : undefined;
  const callee = called?.type === 'CallExpression' ? unwrapped(called.callee) : undefined;
  return callee?.type === 'Identifier' ? callee.name : undefined;
}

// `() => ({ … })`, `vi.fn(() => ({ … }))`, `vi.fn().mockReturnValue({ … })`
function answerOf(node: Node, scope: ComponentScope): Expr | undefined {
  if (isFunction(node)) return resultOf(node, scope, [], 0);
  if (node.type !== 'CallExpression' || node.callee.type !== 'MemberExpression') return undefined;
  const [first] = node.arguments;
  const name = memberName(node.callee) ?? '';
  if (name === 'fn') return first ? answerOf(unwrapped(first), scope) : constant(undefined);
  const { members } = TYPES['stand-in'];
  const meaning = Object.hasOwn(members, name) ? members[name] : undefined;
  if (meaning?.kind !== 'answer' || meaning.once || !first) return undefined;
  return meaning.gives === 'value'
    ? exprOf(first, scope)
    : meaning.gives && answerOf(unwrapped(first), scope);
}
