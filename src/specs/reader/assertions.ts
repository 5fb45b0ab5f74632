import type { Node } from 'oxc-parser';
import { namesOnTheWay, unwrapped } from '../../syntax/tree.js';
import { READ_MATCHERS } from '../../libraries/expectations.js';
import type { Emptiness } from '../../libraries/meaning.js';
import { askedWhole, asksWhether } from '../model/asked.js';
import { TYPES } from '../../libraries/types.js';
import type { Span } from '../../finding.js';
import type { SpecReading } from './spec-reading.js';
import type { Assertion, Either } from '../model/steps.js';
import { libraryObjectOf, type LibraryObject, type Value } from '../model/values.js';

/** The start of an assertion about a value: `expect(value)`, `value.should`. */
export function startExpectation(
  run: SpecReading,
  subject: Value,
  node: Span,
  path: readonly string[] = [],
  optional = false,
  either?: Either,
): LibraryObject {
  return {
    either,
    is: 'thing',
    type: 'expectation',
    subject,
    subjectText: run.tree.script.source.text.slice(node.start, node.end),
    subjectAt: node.start,
    subjectPath: path,
    optional,
    not: false,
  };
}

/** The sides of `lid || shelf`; a literal on the right only stands in for what is not there. */
export function eitherIn(node: Node, text: string): Either | undefined {
  const inner = unwrapped(node);
  if (inner.type !== 'LogicalExpression' || inner.operator !== '||') return undefined;
  const [left, right] = [unwrapped(inner.left), unwrapped(inner.right)];
  if (/^(?:Literal|ObjectExpression|ArrayExpression|TemplateLiteral)$/.test(right.type)) return undefined;
  return {
    left: text.slice(left.start, left.end),
    right: text.slice(right.start, right.end),
    compares: [left, right].every(({ type }) => type === 'BinaryExpression'),
  };
}

/** A word of the chain behind an expectation: it turns it round, hands it on, or is a matcher. */
export function expectationMember(thing: LibraryObject, name: string): Value {
  const { members, rest } = TYPES.expectation;
  const meaning = Object.hasOwn(members, name) ? members[name] : rest;
  if (!meaning) return thing;
  if (meaning.kind === 'expectation-chain')
    return {
      ...thing,
      not: meaning.not ? !thing.not : thing.not,
      promised: thing.promised ?? meaning.promised,
    };
  return { is: 'library', meaning, module: '', name, of: thing };
}

/** A matcher that is called: `toBe(3)`. The expectation comes back, for chains. */
export function assertBy(
  run: SpecReading,
  matcher: Extract<Value, { is: 'library' }>,
  args: readonly Value[],
  node: Extract<Node, { type: 'CallExpression' }>,
): Value {
  const thing = matcher.of?.is === 'thing' ? matcher.of : undefined;
  if (!thing) return { is: 'unknown' };
  const text = run.tree.script.source.text;
  const [first] = node.arguments;
  const argText = first ? text.slice(first.start, node.arguments.at(-1)?.end ?? first.end) : '';
  emit(run, thing, matcher, { args, argText, uncalled: false }, node);
  return { ...thing, not: false };
}

/** An expectation that is left at the end of a statement, with no matcher or one that was not called. */
export function leftExpectation(run: SpecReading, value: Value, node: Node): void {
  if (value.is === 'library' && value.meaning.kind === 'matcher' && value.of?.is === 'thing') {
    if (value.of.type !== 'expectation') return;
    const read = READ_MATCHERS.has(value.name);
    emit(run, value.of, value, { args: [], argText: '', uncalled: !read }, node);
  } else if (value.is === 'thing' && value.type === 'expectation' && isBare(node, value)) {
    emit(run, value, undefined, { args: [], argText: '', uncalled: true }, node);
  }
}

// `expect(x)` by itself, or with a word of the chain. A matcher gives the expectation back, too, and so may a callback.
function isBare(node: Node, { subjectAt }: LibraryObject): boolean {
  let at = unwrapped(node);
  while (at.type === 'MemberExpression') at = unwrapped(at.object);
  return at.type === 'CallExpression' && at.arguments[0]?.start === subjectAt;
}

// `toBe(null)` asks what `toBeNull()` asks.
function asked(asks: Emptiness | undefined, [first, ...more]: readonly Value[]): Emptiness | undefined {
  if (asks !== 'equal' || first?.is !== 'constant' || more.length > 0) return asks;
  return first.value === null ? 'null' : first.value === undefined ? 'undefined' : asks;
}

function emit(
  run: SpecReading,
  thing: LibraryObject,
  matcher: Extract<Value, { is: 'library' }> | undefined,
  rest: Pick<Assertion, 'args' | 'argText' | 'uncalled'>,
  node: Span,
): void {
  const asks = matcher?.meaning.kind === 'matcher' ? asked(matcher.meaning.empty, rest.args) : undefined;
  const assertion: Assertion = {
    style: 'expect',
    subject: thing.subject ?? { is: 'unknown' },
    subjectText: thing.subjectText ?? '',
    subjectPath: thing.subjectPath ?? [],
    subjectEnd:
      run.site === undefined && thing.subjectAt !== undefined
        ? thing.subjectAt + (thing.subjectText ?? '').length
        : undefined,
    not: thing.not ?? false,
    promised: thing.promised ?? false,
    optional: thing.optional ?? false,
    either: thing.either,
    matcher: matcher?.name,
    asks,
    place: run.placeOf(node),
    ...rest,
  };
  emitAssertion(run, assertion, node);
}

function emitAssertion(run: SpecReading, assertion: Assertion, node: Span): void {
  for (const each of [assertion.subject, ...assertion.args]) {
    const standIn = libraryObjectOf(each)?.standIn;
    if (standIn && asksWhether(assertion) && each === assertion.subject) standIn.asked = true;
    else if (standIn) askedWhole(standIn);
  }
  run.emit({ kind: 'assert', assertion }, node);
}

/** An assertion made by a call of its own: `assert.equal(a, b)`, `fail()`. */
export function assertByCall(
  run: SpecReading,
  name: string,
  args: readonly Value[],
  node: Extract<Node, { type: 'CallExpression' }>,
  asks?: Assertion['asks'],
): void {
  const text = run.tree.script.source.text;
  const [first, second] = node.arguments;
  const assertion: Assertion = {
    style: 'call',
    ...(asks ? { asks } : {}),
    subject: args[0] ?? { is: 'unknown' },
    subjectText: first ? text.slice(first.start, first.end) : '',
    subjectPath: first ? namesOnTheWay(first) : [],
    not: false,
    matcher: name,
    args: args.slice(1),
    argText: second ? text.slice(second.start, second.end) : '',
    uncalled: false,
    promised: false,
    optional: false,
    place: run.placeOf(node),
  };
  emitAssertion(run, assertion, node);
}
