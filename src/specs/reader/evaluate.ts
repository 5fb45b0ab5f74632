import { importedValue, lookUp } from './names.js';
import type { Node } from 'oxc-parser';
import { assign, update } from './assign.js';
import { evaluateCall, evaluateNew, evaluateTagged } from './calls.js';
import type { Meaning, TypeName } from '../../libraries/meaning.js';
import { TYPES } from '../../libraries/types.js';
import type { Env } from '../model/env.js';
import type { Step } from '../model/steps.js';
import { guardOf, underGuard } from './guards.js';
import { readMarkup } from './markup.js';
import { evaluateMember, memberOfValue } from './members.js';
import type { SpecReading } from './spec-reading.js';
import { useName } from './uses.js';
import {
  constantValue,
  UNKNOWN_VALUE,
  oneOfRunners,
  settled,
  valueOfData,
  type LibraryObject,
  type Value,
} from '../model/values.js';
import { readExpression, type Algebra, type Choice, type Entry, type Item } from '../../language/reader.js';
import type { Data } from '../../language/operations.js';

/** What an expression gives; what running it does is added to the running block as steps. */
export const evaluate = (run: SpecReading, env: Env, node: Node): Value =>
  readExpression(node, new SpecExpressions(run, env));

/** Expressions of specs: what the language says of them, with what running them does. */
class SpecExpressions implements Algebra<Value> {
  readonly #run: SpecReading;
  readonly #env: Env;

  constructor(run: SpecReading, env: Env) {
    this.#run = run;
    this.#env = env;
  }

  read(node: Node): Value {
    return readExpression(node, this);
  }

  unknown(): Value {
    return UNKNOWN_VALUE;
  }

  data(value: Data, node: Node): Value {
    return valueOfData(value, node, this.#run.tree.path);
  }

  dataOf(value: Value): { value: Data } | undefined {
    return this.#run.dataOf(value);
  }

  pattern(source: string, flags: string): Value {
    return { is: 'pattern', source, flags };
  }

  operation(by: string, of: readonly Value[]): Value {
    const [left = UNKNOWN_VALUE, than] = of;
    const isText = (each: Value): boolean =>
      each.is === 'text' || (each.is === 'constant' && typeof each.value === 'string');
    if (by === 'template' || (by === '+' && of.some(isText))) return asText(of.flatMap(pieceOf));
    if (by === 'unary void') return constantValue(undefined);
    return { is: 'read', of: left, name: by.replace('unary ', ''), ...(than ? { than } : {}) };
  }

  choice(choice: Choice<Value>): Value {
    return choice.operator === '?:' ? this.#conditional(choice) : this.#logical(choice);
  }

  // Both arms are read, each under the condition: what the one that is not taken does is no step that surely runs.
  #conditional({ testNode, then, otherwise, taken }: Choice<Value>): Value {
    const guard = guardOf(this.#run, this.#env, 'if', testNode);
    let [left, right] = [UNKNOWN_VALUE, UNKNOWN_VALUE];
    const asserts = underGuard(this.#run, guard, () => (left = then()));
    const other = underGuard(this.#run, guard, () => (right = otherwise()));
    guard.covered = asserts && other;
    return taken ? (taken === 'then' ? left : right) : either(left, right);
  }

  #logical({ operator, test: left, testNode, then, otherwise, taken }: Choice<Value>): Value {
    let right = UNKNOWN_VALUE;
    const guard = guardOf(this.#run, this.#env, 'and', testNode);
    underGuard(this.#run, guard, () => (right = operator === '&&' ? then() : otherwise()));
    if (taken) return (taken === 'then') === (operator === '&&') ? right : left;
    // What is asked for a method or an element is there, or the spec stops; a plain value may as well be the left one.
    if (operator === '&&') return PLAIN.has(right.is) ? UNKNOWN_VALUE : right;
    // `found || true` is true whatever was found.
    if (operator === '||' && right.is === 'constant' && right.value === true)
      return { is: 'read', of: UNKNOWN_VALUE, name: '||', than: right };
    return either(left, right);
  }

  object(all: readonly Entry<Value>[], node: Node): Value {
    const entries = new Map<string, Value>();
    let open = false;
    for (const each of all) {
      if (each.is === 'named') entries.set(each.key, each.value);
      const spread = each.is === 'spread' ? this.#run.declaredValue(each.value) : undefined;
      if (spread?.is === 'object') for (const [key, value] of spread.entries) entries.set(key, value);
      const handed = spread?.is === 'thing' ? membersOf(this.#run, spread, node) : undefined;
      for (const [key, value] of handed ?? []) entries.set(key, value);
      if (each.is === 'named' || handed || (spread?.is === 'object' && !spread.open)) continue;
      open = true;
      // What can't be read may have set all that stands before it.
      for (const [key, value] of entries) if (PLAIN.has(value.is)) entries.set(key, UNKNOWN_VALUE);
    }
    return { is: 'object', node, entries, open, file: this.#run.tree.path };
  }

  list(all: readonly Item<Value>[], node: Node): Value {
    const { block, site, tree } = this.#run;
    const isKnown = ({ value, spread }: Item<Value>): boolean =>
      !spread || (value.is === 'list' && !value.open);
    const items = all.flatMap((each) =>
      each.spread && isKnown(each) && each.value.is === 'list' ? each.value.items : [each.value],
    );
    const open = !all.every(isKnown);
    if (all.every(({ spread }) => !spread) && block.kind !== 'hook' && site === undefined)
      block.lists.push({ length: items.length, start: node.start, end: node.end });
    return { is: 'list', items, open, file: tree.path };
  }

  other(node: Node): Value {
    const [run, env] = [this.#run, this.#env];
    switch (node.type) {
      case 'Identifier':
        return identifier(run, env, node);
      case 'MemberExpression':
        return evaluateMember(run, env, node, 'read');
      case 'CallExpression':
        return evaluateCall(run, env, node);
      case 'NewExpression':
        return evaluateNew(run, env, node);
      case 'TaggedTemplateExpression':
        return evaluateTagged(run, env, node);
      case 'FunctionExpression':
      case 'ArrowFunctionExpression':
        return { is: 'function', node, env, tree: run.tree };
      case 'ClassExpression':
        return { is: 'class', node, tree: run.tree, env };
      case 'ThisExpression':
        return env.find('this')?.value ?? UNKNOWN_VALUE;
      case 'JSXElement':
      case 'JSXFragment':
        readMarkup(run, env, node);
        return { is: 'jsx', node, env, tree: run.tree };
      case 'AssignmentExpression':
        return assign(run, env, node);
      case 'UpdateExpression':
        return update(run, env, node);
      case 'UnaryExpression':
        if (node.argument.type === 'MemberExpression') evaluateMember(run, env, node.argument, 'write');
        return UNKNOWN_VALUE;
      case 'AwaitExpression':
        return awaited(run, env, node);
      case 'SpreadElement':
      case 'YieldExpression':
        return node.argument ? this.read(node.argument) : UNKNOWN_VALUE;
      case 'ImportExpression':
        return imported(run, node.source);
      default:
        return UNKNOWN_VALUE;
    }
  }
}

// `...render(<Lid />)`: what a render hands out, taken apart. Only what does nothing by being taken.
function membersOf(run: SpecReading, thing: LibraryObject, node: Node): Map<string, Value> | undefined {
  if (!thing.render || thing.reach) return undefined;
  const taken = Object.entries(TYPES[thing.type].members).filter(([, { kind }]) => TAKEN.has(kind));
  return new Map(taken.map(([name]) => [name, memberOfValue(run, thing, name, node)]));
}

const TAKEN: ReadonlySet<Meaning['kind']> = new Set([
  'query',
  'object',
  'gives',
  'rerender',
  'unmount',
  'act',
  'prints',
]);

// Values that may be one of two as they are written: nothing is done with them but what they say.
const PLAIN: ReadonlySet<Value['is']> = new Set(['constant', 'text', 'object', 'list', 'pattern']);

// What is found in the document is there when it is asked for; a locator asks later.
const AT_ONCE: ReadonlySet<TypeName> = new Set(['element', 'elements'] as const);

const NO_WAIT: ReadonlySet<Step['kind']> = new Set(['use', 'delay', 'first-look']);

function awaited(run: SpecReading, env: Env, node: Extract<Node, { type: 'AwaitExpression' }>): Value {
  const before = run.block.steps.length;
  const given = run.under({ awaited: true }, () => evaluate(run, env, node.argument));
  const value = settled(given);
  if (value === given && value.is !== 'unknown') run.awaitedAtOnce.add(node);
  else run.awaitedAtOnce.delete(node);
  // A step that is awaited says so by itself.
  const done = run.block.steps.slice(before);
  if (done.every(({ kind }) => NO_WAIT.has(kind))) run.emit({ kind: 'waited' }, node);
  const query = value === given && value.is === 'thing' && AT_ONCE.has(value.type) ? value.reach : undefined;
  if (query?.asUser && !query.waits && done.at(-1)?.kind === 'reach')
    run.emit({ kind: 'first-look', name: 'await', query: query.name, atOnce: true }, node);
  return value;
}

function imported(run: SpecReading, source: Node): Value {
  const specifier = source.type === 'Literal' && typeof source.value === 'string' ? source.value : undefined;
  if (specifier === undefined) return UNKNOWN_VALUE;
  const file = run.project.resolve(run.tree.path, specifier);
  if (!file) return importedValue(run, run.tree.path, specifier, '*');
  return run.replaced.has(file) ? UNKNOWN_VALUE : { is: 'project', declared: { file, name: '*' } };
}

const either = (left: Value, right: Value): Value => {
  if (left.is === 'constant' && right.is === 'constant' && left.value === right.value) return left;
  if (left.is === 'thing' && right.is === 'thing' && left.type === right.type) return left;
  return oneOfRunners([left, right]) ?? UNKNOWN_VALUE;
};

const pieceOf = (value: Value): readonly (string | undefined)[] =>
  value.is === 'constant' ? [String(value.value)] : value.is === 'text' ? value.pieces : [undefined];

const asText = (pieces: readonly (string | undefined)[]): Value =>
  pieces.every((piece) => piece !== undefined) ? constantValue(pieces.join('')) : { is: 'text', pieces };

function identifier(run: SpecReading, env: Env, node: Extract<Node, { type: 'Identifier' }>): Value {
  if (node.name === 'undefined') return constantValue(undefined);
  const value = lookUp(run, env, node.name);
  if (value.is === 'thing' && value.standIn && !run.judging) value.standIn.used = true;
  useName(run, env, node.name, node, 'read', []);
  return value;
}
