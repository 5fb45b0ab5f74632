import { constant, type Expr } from '../../components/expr.js';
import { ownText } from '../../rendering/user-queries.js';
import { eventOf } from '../../specs/model/acts.js';
import { pressedKeys } from '../../specs/model/pressed-keys.js';
import type { StepOf } from '../../specs/model/steps.js';
import { textOfValue, type Value } from '../../specs/model/values.js';
import type { EventValue } from '../../coverage/state-values.js';
import { literal } from '../../rendering/name.js';
import type { RenderedElement } from '../../rendering/rendered-tree.js';

/** What the events of one act carry. */
export interface Carried extends EventValue {
  events: ReadonlySet<string>;
}

const EITHER: Expr = { is: 'choice', options: [constant(true), constant(false)] };
const NOT_TOLD = /^(?:Backspace|Delete|Home|End|Arrow\w+|\*|)$/;

/** What was typed in a spec so far, by the element; by none, where that can't be told. */
export type Typed = Map<RenderedElement | undefined, string>;

/** What an act lets the events carry that it fires on elements; what it types is added to what was `typed` there. */
export function carriedBy(
  step: StepOf<'act'>,
  elements: readonly RenderedElement[],
  typed: Typed,
): EventValue {
  switch (eventOf(step).toLowerCase()) {
    case 'type':
    case 'keyboard':
    case 'paste': {
      const text = typedText(step);
      if (text === undefined) return {};
      const [first] = elements;
      const whole = (typed.get(first) ?? '') + text;
      typed.set(first, whole);
      return { values: withBeginnings([text, whole]), appends: true };
    }
    case 'clear':
      return { values: [constant('')] };
    case 'fill': {
      const text = textOfValue(step.args.at(-1));
      return text === undefined ? {} : { values: [constant(text)] };
    }
    case 'selectoptions': {
      const values = chosenOf(step, elements);
      return values ? { values } : {};
    }
    case 'click':
      return { checked: EITHER, ...valueOf(elements) };
    default:
      return ofTarget(step.args);
  }
}

// The text that an act types; undefined where it is no plain text.
function typedText(step: StepOf<'act'>): string | undefined {
  if (eventOf(step).toLowerCase() === 'paste') return textOfValue(step.args.at(-1));
  const keys = pressedKeys(step);
  return keys.some((key) => NOT_TOLD.test(key))
    ? undefined
    : keys.filter((key) => [...key].length === 1).join('');
}

// A field holds each beginning of a text while that is typed.
const withBeginnings = (texts: readonly string[]): Expr[] =>
  [...new Set(texts.flatMap((text) => [...text].map((_, i, all) => all.slice(0, i + 1).join(''))))].map(
    constant,
  );

// `fireEvent.change(field, { target: { value: '8' } })`
function ofTarget(args: readonly Value[]): EventValue {
  const init = args.find((each) => each.is === 'object');
  const target = init?.is === 'object' ? init.entries.get('target') : undefined;
  if (target?.is !== 'object') return {};
  const [value, checked] = ['value', 'checked'].map((name) => target.entries.get(name));
  return {
    ...(value?.is === 'constant' ? { values: [constant(value.value)] } : {}),
    ...(checked?.is === 'constant' ? { checked: constant(checked.value) } : {}),
  };
}

// What a radio button or check box stands for.
function valueOf(elements: readonly RenderedElement[]): EventValue {
  const values = elements.map(({ attributes }) => attributes.get('value'));
  const known = values.flatMap((each) => (each?.is === 'constant' ? [each] : []));
  return values.length > 0 && known.length === values.length ? { values: known } : {};
}

// An option is chosen by its value, or by its words.
function chosenOf(step: StepOf<'act'>, elements: readonly RenderedElement[]): readonly Expr[] | undefined {
  const wanted = textOfValue(step.args.at(-1));
  if (wanted === undefined) return undefined;
  const options = elements.flatMap(optionsIn);
  const found = options.filter(({ value, text }) => value === wanted || text === wanted);
  return found.length > 0 ? found.map(({ value }) => constant(value)) : undefined;
}

interface Option {
  value: string;
  text: string;
}

// The options below an element whose values are known.
function optionsIn(element: RenderedElement): Option[] {
  const below = element.children.flatMap((child) => (child.kind === 'element' ? optionsIn(child) : []));
  if (element.tag !== 'option') return below;
  const text = literal(ownText(element));
  const value = element.attributes.get('value') ?? (text === undefined ? undefined : constant(text));
  return value?.is === 'constant' && text !== undefined ? [{ value: String(value.value), text }] : [];
}
