import { changeBy } from '../libraries/changes.js';
import { eventOf } from '../specs/model/acts.js';
import { reachedBy } from '../rendering/subjects.js';
import type { StepOf } from '../specs/model/steps.js';
import { textOfValue, type Value } from '../specs/model/values.js';
import { wordsOf } from '../util/words.js';
import type { FileContext } from '../checks/questions/context.js';
import { elementWords, filledTemplate, valueWords } from './element-words.js';

/** What is done, as `the Fire button is clicked`; undefined where that is not plain. */
export function actOf(step: StepOf<'act'>, context: FileContext): string | undefined {
  const { args, reach, name } = step;
  const [first] = args;
  if (changeBy(name, args.length) === 'rerenders')
    return first?.is === 'object' ? propsWords(first) : undefined;
  if (name === '$emit') return textOfValue(first) && `${textOfValue(first)} is emitted`;
  if (name === 'keyboard' || name === 'tab') {
    const key = name === 'tab' ? 'Tab' : textOfValue(first)?.replace(/[{}[\]]/g, '');
    return key && `${key} is pressed`;
  }
  const element = reach && elementWords(reachedBy(reach, context.rendering), context);
  const event = eventOf(step)
    .toLowerCase()
    .replace(/^(?:user|fire)/, '');
  const key = /^key/.test(event) ? keyOf(args) : undefined;
  if (key !== undefined) return `${key} is pressed`;
  const value = valueWords(writtenValue(args));
  const form = value === undefined ? undefined : WRITING[event];
  const done = DONE[event];
  if (!element) return undefined;
  if (form) return filledTemplate(form, element, value);
  return done && `${element} is ${done}`;
}

const WRITING: Readonly<Record<string, string>> = {
  type: '{value} is typed into {element}',
  change: '{element} is set to {value}',
  input: '{element} is set to {value}',
  setvalue: '{element} is set to {value}',
  selectoptions: '{value} is selected in {element}',
  paste: '{value} is pasted into {element}',
};

const DONE: Readonly<Record<string, string>> = {
  click: 'clicked',
  dblclick: 'double-clicked',
  clear: 'cleared',
  focus: 'focused',
  blur: 'left',
  hover: 'hovered',
  mouseenter: 'hovered',
  mouseover: 'hovered',
  unhover: 'left by the pointer',
  mouseleave: 'left by the pointer',
  submit: 'submitted',
  change: 'changed',
  input: 'changed',
  setchecked: 'checked',
  mousedown: 'pressed',
  pointerdown: 'pressed',
};

const writtenValue = (args: readonly Value[]): Value | undefined => {
  const [first] = args;
  if (first?.is !== 'object') return first;
  const target = first.entries.get('target');
  return target?.is === 'object' ? target.entries.get('value') : undefined;
};

function keyOf(args: readonly Value[]): string | undefined {
  const options = args.find((each) => each.is === 'object');
  const key = options?.is === 'object' ? textOfValue(options.entries.get('key')) : undefined;
  const suffix = textOfValue(args[0])?.split('.')[1];
  return key ?? suffix;
}

function propsWords({ entries }: Extract<Value, { is: 'object' }>): string | undefined {
  const parts = [...entries].map(([name, value]) => {
    const words = valueWords(value);
    return words && `${wordsOf(name).join(' ')} is ${words}`;
  });
  return parts.length > 0 && parts.length < 3 && parts.every((part) => part !== undefined)
    ? parts.join(' and ')
    : undefined;
}
