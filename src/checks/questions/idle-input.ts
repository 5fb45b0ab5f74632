import { constant, type Constant, type Expr } from '../../components/expr.js';
import type { Component, ComponentNode } from '../../components/view.js';
import { type Block } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Assertion, Render, Step } from '../../specs/model/steps.js';
import type { RenderedElement, RenderedNode } from '../../rendering/rendered-tree.js';
import type { SpecRendering } from '../../rendering/spec-rendering.js';
import type { Target } from '../../rendering/target.js';
import { stemOf, stemsOf, wordsOf } from '../../util/words.js';
import type { FileContext } from './context.js';
import { withHooksBefore } from './order.js';
import { assertsAbsence, assertsPresence, reachOf } from './used-reaches.js';

/** A component that a spec renders by itself, and nothing else. */
interface OwnRender {
  spec: Block;
  render: Render;
  node: ComponentNode;
  component: Component;
}

/** The one render of a spec, where its component is known, and all that it is given. */
export function ownRender(spec: Block, { rendering }: FileContext): OwnRender | undefined {
  const [render, ...more] = rendering.rendersFor(spec);
  const [node, ...beside] = render?.view ?? [];
  if (!render || render.block !== spec || more.length > 0 || beside.length > 0) return undefined;
  const component = rendering.component(render);
  return node?.kind === 'component' && !node.open && component
    ? { spec, render, node, component }
    : undefined;
}

/** An input that a title speaks of, and a spec that renders the same component with another one, or without. */
interface IdleInput {
  input: string;
  /** None where it is a state, which no spec gives. */
  other: Block | undefined;
  /** All that the spec asserts is that something is missing. */
  isAbsent?: true;
}

/**
 * An input that the title of a spec speaks of, a prop, what a stand-in gives or a state, where all that the spec asserts
 * holds with another one as well; undefined where something does not, or where that can't be told.
 */
export function idleInput(
  own: OwnRender,
  all: readonly OwnRender[],
  { rendering }: FileContext,
): IdleInput | undefined {
  const { spec, render, component } = own;
  if (withHooksBefore(spec).some(({ steps }) => steps.some(mayChange))) return undefined;
  const assertions = spec.steps.filter(isAssert).map(({ assertion }) => assertion);
  if (assertions.length === 0) return undefined;
  const others = all.filter((each) => each !== own && each.component === component);
  if (assertions.every(assertsAbsence)) return idleForAbsence(own, others, assertions, rendering);
  if (LASTS.test(spec.title.text)) return undefined;
  const inputs = [...propsTold(own, others), ...answersTold(own, others, rendering), ...statesTold(own)];
  const idle = inputs.find(({ instead }) => {
    const given = instead.states ? rendering.untouched : rendering;
    const otherwise = rendering.given(instead, render);
    return assertions.every((each) => isSame(each, given, otherwise));
  });
  return idle && { input: idle.input, other: idle.other?.spec };
}

// What is not there for another reason, and would not be there if the input were what another spec makes it.
function idleForAbsence(
  { spec, render, node }: OwnRender,
  others: readonly OwnRender[],
  assertions: readonly Assertion[],
  rendering: SpecRendering,
): IdleInput | undefined {
  if (LASTS_ANYWAY.test(spec.title.text)) return undefined;
  const reaches = assertions.map(reachOf);
  const isNone = (by: SpecRendering): boolean =>
    reaches.every((reach) => reach !== undefined && by.target(reach).kind === 'none');
  if (!isNone(rendering)) return undefined;
  // Of several that the title speaks of, the others may decide.
  const all = new Set([node, ...others.map((each) => each.node)].flatMap(({ props }) => [...props.keys()]));
  const [prop, ...more] = [...all].filter(speaksOf(spec));
  if (prop === undefined || more.length > 0) return undefined;
  const given = constantOf(node.props.get(prop));
  const other = others.find((each) => {
    const theirs = constantOf(each.node.props.get(prop));
    return given !== undefined && theirs !== undefined && theirs !== given;
  });
  const instead = other?.node.props.get(prop);
  if (!other || !instead) return undefined;
  // Only what is found where another spec renders it is known to be missing here.
  const isFound = others.some((each) => {
    const theirs = rendering.given({ view: each.render.view ?? [] }, render);
    return reaches.every((reach) => reach && ['one', 'many'].includes(theirs.target(reach).kind));
  });
  if (!isFound) return undefined;
  const props = new Map([...node.props, [prop, instead] as const]);
  const otherwise = rendering.given({ view: [{ ...node, props }] }, render);
  // Of a component that shows nothing at all there is no doubt.
  const { children, complete } = otherwise.tree(render);
  return isNone(otherwise) && complete && children.length === 0
    ? { input: prop, other: other.spec, isAbsent: true }
    : undefined;
}

const constantOf = (prop: ReturnType<ComponentNode['props']['get']>): Constant | undefined =>
  prop && 'expr' in prop && prop.expr.is === 'constant' ? prop.expr.value : undefined;

interface Input {
  input: string;
  other?: OwnRender;
  instead: Parameters<SpecRendering['given']>[0];
}

// That an input changes nothing may be what a spec is about.
const LASTS_ANYWAY = /\b(?:still|even|also|regardless|whatever|always|keeps?|remains?|ignores?)\b/i;
/** Words of a title by which a spec may be about something that changes nothing. */
export const LASTS = new RegExp(`${LASTS_ANYWAY.source}|\\b(?:not?|without)\\b|n['’]t\\b`, 'i');
const HELPING: ReadonlySet<string> = new Set(['is', 'has', 'should']);

function speaksOf({ title }: Block): (name: string) => boolean {
  const told = new Set(stemsOf(title.text));
  return (name) => {
    const words = wordsOf(name).filter((word) => !HELPING.has(word));
    return words.length > 0 && words.every((word) => told.has(stemOf(word)));
  };
}

function propsTold({ spec, node }: OwnRender, others: readonly OwnRender[]): Input[] {
  const told = [...node.props.keys()].filter(speaksOf(spec));
  return told.flatMap((prop) => {
    const other = others.find((each) => !each.node.props.has(prop));
    const props = new Map([...node.props].filter(([name]) => name !== prop));
    return other ? [{ input: prop, other, instead: { view: [{ ...node, props }] } }] : [];
  });
}

// `isLoading` of what a hook gives, where another spec lets it give something else.
function answersTold(
  { spec, render }: OwnRender,
  others: readonly OwnRender[],
  { answers }: SpecRendering,
): Input[] {
  const own = answers.at(render);
  const isTold = speaksOf(spec);
  return [...own].flatMap(([key, expr]) =>
    entriesOf(expr).flatMap(([name, value]): Input[] => {
      const wanted = isTold(name) ? JSON.stringify(value) : undefined;
      const other = others.find((each) => {
        const theirs = entriesOf(answers.at(each.render).get(key));
        const entry = theirs.find(([their]) => their === name)?.[1];
        return wanted !== undefined && theirs.length > 0 && JSON.stringify(entry) !== wanted;
      });
      if (!other) return [];
      // All that give something of that name are told something else by the other spec.
      const theirs = answers.at(other.render);
      const instead = [...own].map(([each, given]) => {
        const isNamed = entriesOf(given).some(([their]) => their === name);
        return [each, (isNamed && theirs.get(each)) || given] as const;
      });
      return [{ input: name, other, instead: { answers: new Map(instead) } }];
    }),
  );
}

// A state that holds nothing at first, and could hold something.
function statesTold({ spec, component }: OwnRender): Input[] {
  const isTold = speaksOf(spec);
  return [...(component.firsts ?? [])].flatMap(([key, { name, value }]): Input[] => {
    const other = value.is === 'constant' ? OTHERWISE.get(value.value) : undefined;
    return other === undefined || !isTold(name)
      ? []
      : [{ input: name, instead: { states: new Map([[key, constant(other)]]) } }];
  });
}

const OTHERWISE: ReadonlyMap<unknown, Constant> = new Map<unknown, Constant>([
  ['', 'text'],
  [0, 1],
  [false, true],
  [true, false],
]);

const entriesOf = (expr: Expr | undefined): readonly (readonly [string, Expr])[] =>
  expr?.is === 'object' ? expr.entries : [];

const mayChange = ({ kind }: Step): boolean => CHANGING.has(kind);
const CHANGING: ReadonlySet<Step['kind']> = new Set([
  'act',
  'throw',
  'unknown-call',
  'lasting',
  'clock',
] as const);

// Whether an assertion is about the very same elements in both, as far as it asks.
function isSame(assertion: Assertion, given: SpecRendering, otherwise: SpecRendering): boolean {
  const reach = reachOf(assertion);
  // What is not there without an input is not there for want of it.
  if (!reach || assertsAbsence(assertion)) return false;
  const found = elementsOf(given.target(reach));
  const again = otherwise.target(reach);
  if (!found || (again.kind === 'one' && !again.proven)) return false;
  const others = elementsOf(again);
  const attribute = OF_ATTRIBUTE.get(assertion.matcher ?? '');
  const isEqual = assertsPresence(assertion)
    ? isSameTag
    : attribute === undefined
      ? isAllTheSame
      : (a: RenderedElement, b: RenderedElement | undefined): boolean =>
          b !== undefined && isSameTag(a, b) && isSameAttribute(a, b, attribute);
  return found.length === others?.length && found.every((element, i) => isEqual(element, others[i]));
}

function elementsOf(target: Target): readonly RenderedElement[] | undefined {
  if (target.kind === 'one') return [target.element];
  return target.kind === 'many' && target.complete ? target.elements : undefined;
}

const isAlways = ({ guards, repeated }: RenderedElement): boolean => guards.length === 0 && !repeated;

const isSameTag = (a: RenderedElement, b: RenderedElement | undefined): boolean =>
  b !== undefined && a.file === b.file && a.place.start === b.place.start && isAlways(a) && isAlways(b);

// Matchers that ask of one attribute, whatever else an element is: of such as the page does not change by itself.
const OF_ATTRIBUTE: ReadonlyMap<string, string> = new Map([
  ['toBeDisabled', 'disabled'],
  ['toBeEnabled', 'disabled'],
  ['toBeRequired', 'required'],
]);

function isSameAttribute(a: RenderedElement, b: RenderedElement, name: string): boolean {
  const [own, other] = [a, b].map(({ attributes }) => attributes.get(name));
  if (!own && !other) return ![a, b].some(({ open, lacks }) => open || lacks);
  return own?.is === 'constant' && other?.is === 'constant' && own.value === other.value;
}

function isAllTheSame(a: RenderedElement, b: RenderedElement | undefined): boolean {
  const whole = isSameTag(a, b) ? written(a) : undefined;
  return whole !== undefined && b !== undefined && whole === written(b);
}

// All that an element is, as a text; undefined where a part of it is not known.
function written(element: RenderedElement): string | undefined {
  const { tag, attributes, classes, open, lacks } = element;
  const children = element.children.map(writtenNode);
  if (open || lacks || !isAlways(element) || children.includes(undefined)) return undefined;
  const text = JSON.stringify([tag, [...attributes], classes, children]);
  return text.includes('"is":"unknown"') ? undefined : text;
}

function writtenNode(node: RenderedNode): string | undefined {
  if (node.kind === 'element') return written(node);
  return node.kind === 'text' && node.sure && !node.pieces.includes(undefined)
    ? JSON.stringify(node.pieces)
    : undefined;
}
