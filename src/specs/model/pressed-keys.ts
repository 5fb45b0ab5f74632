import { keysNamed } from '../../components/keys.js';
import type { StepOf } from './steps.js';
import { textOfValue } from './values.js';

/** Any key, where it can't be told which. */
export const ANY_KEY = '*';

/** The keys that an act presses, as `KeyboardEvent.key` names them; none where it presses no key. */
export function pressedKeys(step: StepOf<'act'>): string[] {
  const { name, args } = step;
  switch (name.toLowerCase()) {
    case 'keyboard':
    case 'type':
      return typed(args.findLast((each) => textOfValue(each) !== undefined || each.is === 'text'));
    case 'tab':
      return ['Tab'];
    case 'keydown':
    case 'keyup':
    case 'keypress':
    case 'simulate':
    case 'trigger':
    case 'triggereventhandler':
      return ofEvent(step);
    default:
      return [ANY_KEY];
  }
}

// Words of the libraries of users’ actions: `{Enter}`, `{arrowdown}`, `{Shift>}A{/Shift}`, `[Enter]` for a key by its code.
const IN_BRACES = /\{\/?([\w ]+)[>\d/]*\}|\[(\w+)[>\d/]*\]|([^])/g;
const NAMED =
  'Enter Escape Tab ArrowDown ArrowUp ArrowLeft ArrowRight Home End PageUp PageDown Backspace Delete Shift Control Alt Meta';
const SPELT: Readonly<Record<string, string>> = {
  ...Object.fromEntries(NAMED.split(' ').map((name) => [name.toLowerCase(), name])),
  esc: 'Escape',
  space: ' ',
  del: 'Delete',
  selectall: '',
};

function typed(value: StepOf<'act'>['args'][number] | undefined): string[] {
  const text = textOfValue(value);
  if (text === undefined) return [ANY_KEY];
  return [...text.matchAll(IN_BRACES)].map(([, named, code, letter]) => {
    const word = named ?? code ?? letter ?? '';
    return SPELT[word.toLowerCase()] ?? word;
  });
}

// `fireEvent.keyDown(lid, { key: 'Enter' })`, `trigger('keydown.enter')`, `trigger('keydown', { key: 'Enter' })`
function ofEvent({ args }: StepOf<'act'>): string[] {
  const words = keysNamed(textOfValue(args[0])?.split('.').slice(1) ?? []);
  const init = args.find((each) => each.is === 'object');
  if (init?.is !== 'object') return words.length > 0 ? words : args.length > 1 ? [ANY_KEY] : [];
  const keys = ['key', 'code', 'keyCode', 'which'].flatMap((name) => init.entries.get(name) ?? []);
  const known = keys.map(textOfValue);
  return init.open || known.includes(undefined)
    ? [ANY_KEY]
    : [...words, ...known.filter((key) => key !== undefined)];
}
