import type { Mark, Meaning } from '../../libraries/meaning.js';
import type { Node } from 'oxc-parser';
import { literalText, memberName, unwrapped } from '../../syntax/tree.js';
import type { Span } from '../../finding.js';
import type { Block, Title } from '../model/blocks.js';
import { statementsOf, type Statement } from '../model/body.js';
import { takeEarly } from './uses.js';
import type { CallNode, SpecReading } from './spec-reading.js';
import type { Env } from '../model/env.js';
import { UNKNOWN_VALUE, type Value } from '../model/values.js';

type Library = Extract<Value, { is: 'library' }>;

/** A call that makes a group, a spec or a hook. Groups are read at once; specs and hooks wait for the end of the file. */
export function registerBlock(run: SpecReading, env: Env, node: CallNode, callee: Library): Value {
  const { meaning, name } = callee;
  // The first call of `it.each(rows)(title, fn)` and of `it.skipIf(condition)(title, fn)` makes nothing yet.
  if (name === 'each' && 'table' in meaning) {
    node.arguments.forEach((argument) => run.evaluate(env, argument));
    const [rows] = node.arguments;
    if (rows) takeEarly(run, env, rows, node);
    return { ...callee, name: 'rows' };
  }
  if (name === 'condition') {
    node.arguments.forEach((argument) => run.evaluate(env, argument));
    return { ...callee, name: 'it' };
  }
  if (run.inSpecOrHook) return UNKNOWN_VALUE;
  const args = node.arguments.map((argument) => run.evaluate(env, argument));
  const fn = args.map((each) => run.declaredValue(each)).findLast((each) => each.is === 'function');
  const block = blockOf(run, node, callee, args, fn);
  run.file.usesSuiteStyle ||= run.site === undefined && callee.name === 'suite' && callee.module === '';
  run.block.children.push(block);
  run.file.blocks.push(block);
  if (block.kind === 'group') {
    if (fn?.is === 'function') readGroup(run, block, fn);
  } else run.waiting.push({ block, fn: fn ?? bodyOf(args, meaning) });
  return UNKNOWN_VALUE;
}

// A body that is not a function that can be read: something runs all the same.
const bodyOf = (args: readonly Value[], meaning: Meaning): Value | undefined =>
  meaning.kind === 'hook' ? args[0] : args[1];

function readGroup(run: SpecReading, block: Block, fn: Extract<Value, { is: 'function' }>): void {
  const { site } = run;
  run.inside(block, () => {
    run.site = site;
    return run.callFunction(fn, [], fn.node);
  });
}

function blockOf(
  run: SpecReading,
  node: CallNode,
  { meaning, name }: Library,
  args: readonly Value[],
  fn: Value | undefined,
): Block {
  const kind = meaning.kind === 'hook' ? 'hook' : meaning.kind === 'group' ? 'group' : 'spec';
  const repeated = name === 'rows' || run.loops > 0;
  const mark = 'mark' in meaning ? meaning.mark : undefined;
  const body = fn?.is === 'function' ? fn.node.body : undefined;
  const first = fn?.is === 'function' ? fn.node.params[0] : undefined;
  const own = fn?.is === 'function' && run.site === undefined && fn.tree === run.tree ? fn : undefined;
  const [title] = node.arguments;
  let statements: readonly Statement[] | undefined;
  return {
    kind,
    hook: meaning.kind === 'hook' ? meaning.when : undefined,
    title: kind === 'hook' ? { text: '', exact: true } : titleOf(args[0], run, node),
    markPlace: run.site === undefined && mark ? markIn(node.callee, mark) : undefined,
    mark: mark ?? optionMark(args) ?? (kind === 'spec' && args.length < 2 ? 'todo' : undefined),
    place: run.placeOf(node),
    callee: run.placeOf(node.callee),
    body: body ? { start: body.start, end: body.end } : undefined,
    fn:
      fn?.is === 'function' && run.site === undefined
        ? { start: fn.node.start, async: fn.node.async }
        : undefined,
    names: new Set(),
    waitsForAll: fn?.is === 'function' && run.deferred.has(fn.node),
    empty: body?.type === 'BlockStatement' && body.body.length === 0,
    get statements() {
      return (statements ??=
        own && body?.type === 'BlockStatement' ? statementsOf(body.body, own.tree.script.source.text) : []);
    },
    titlePlace:
      title && run.site === undefined && literalText(title) !== undefined
        ? { start: title.start, end: title.end }
        : undefined,
    lists: [],
    locals: [],
    maybe: run.flags.maybe,
    repeated,
    waitsForCallback: !repeated && first?.type === 'Identifier',
    parent: run.block,
    children: [],
    steps: [],
    uses: new Map(),
  };
}

function titleOf(value: Value | undefined, run: SpecReading, node: CallNode): Title {
  if (value?.is === 'constant')
    return { text: String(value.value), exact: !/%[sdifjoOp#]|\$\w/.test(String(value.value)) };
  if (value?.is === 'text') return { text: value.pieces.map((piece) => piece ?? '…').join(''), exact: false };
  const [first] = node.arguments;
  const inner = first && unwrapped(first);
  const named =
    inner?.type === 'Identifier' || (inner?.type === 'MemberExpression' && inner.end - inner.start < 40);
  return {
    text: first && named ? run.tree.script.source.text.slice(first.start, first.end) : '…',
    exact: false,
  };
}

// Where the mark stands: a word of the chain, or the first letter of the name.
function markIn(callee: Node, mark: Mark): Span | undefined {
  const node = unwrapped(callee);
  switch (node.type) {
    case 'MemberExpression':
      return memberName(node) === mark
        ? { start: node.object.end, end: node.end }
        : markIn(node.object, mark);
    case 'CallExpression':
      return markIn(node.callee, mark);
    case 'TaggedTemplateExpression':
      return markIn(node.tag, mark);
    case 'Identifier':
      return LETTERS[mark] === node.name[0] ? { start: node.start, end: node.start + 1 } : undefined;
    default:
      return undefined;
  }
}

const LETTERS: Readonly<Partial<Record<Mark, string>>> = { only: 'f', skip: 'x' };

// `{ skip: true }` among the arguments.
function optionMark(args: readonly Value[]): Mark | undefined {
  const options = args.find((each) => each.is === 'object');
  if (options?.is !== 'object') return undefined;
  const names: readonly Mark[] = ['only', 'skip', 'todo', 'fails'];
  return names.find((name) => {
    const value = options.entries.get(name);
    return value?.is === 'constant' && Boolean(value.value);
  });
}
