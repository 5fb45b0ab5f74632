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
function typed(value: StepOf<'act'>['args'][number] | undefined): string[] {
  const text = textOfValue(value);
  if (text === undefined) return [ANY_KEY];
  return [...text.matchAll(IN_BRACES)].map(([, named, code, letter]) => {
    if (letter !== undefined) return letter;
    const word = named ?? code ?? '';
    return keysNamed([word])[0] ?? (word.toLowerCase() === 'selectall' ? '' : word);
  });
}

// `fireEvent.keyDown(lid, { key: 'Enter' })`, `trigger('keydown.enter')`, `trigger('keydown', { key: 'Enter' })`
function ofEvent({ args }: StepOf<'act'>): string[] {
  const words = keysNamed(textOfValue(args[0])?.split('.').slice(1) ?? []);
  const init = args.find((each) => each.is === 'object');
  if (init?.is !== 'object') return words.length > 0 ? words : args.length > 1 ? [ANY_KEY] : [];
  const known = ['key', 'code', 'keyCode', 'which'].flatMap((name) => {
    const value = init.entries.get(name);
    if (!value) return [];
    const text = textOfValue(value);
    // A figure is the key of that figure, or a number that stands for another one.
    return [name === 'key' && text?.length === 1 ? text : text && (keysNamed([text])[0] ?? text)];
  });
  return init.open || known.includes(undefined)
    ? [ANY_KEY]
    : [...words, ...known.filter((key) => key !== undefined)];
}
