import { literal, nameOf } from '../rendering/name.js';
import { roleOf } from '../rendering/role.js';
import type { Subject } from '../rendering/subjects.js';
import type { Reach } from '../specs/model/steps.js';
import { nameAsked } from '../specs/model/asked.js';
import { textOfValue, type Value } from '../specs/model/values.js';
import { inShort } from '../util/printable.js';
import { wordsOf } from '../util/words.js';
import type { FileContext } from '../checks/questions/context.js';

/** An element in words: those that the spec asks by, and else its name and role in its component. */
export function elementWords(subject: Subject, { rendering }: FileContext): string | undefined {
  if (!('reach' in subject)) return undefined;
  const { reach } = subject;
  const asked = askedWords(reach);
  if (asked) return asked;
  if (subject.is !== 'element') return undefined;
  const role = roleOf(subject.element) ?? undefined;
  const text = accessibleName(subject, rendering);
  return text && role
    ? `the ${named(text)} ${roleWord(role)}`
    : role && role !== 'generic'
      ? `the ${roleWord(role)}`
      : undefined;
}

/** The accessible name of an element that a reach finds, where it is literal. */
export function accessibleName(
  { element, reach }: Extract<Subject, { is: 'element' }>,
  rendering: FileContext['rendering'],
): string | undefined {
  const scope = rendering.scope(reach);
  const name = scope && nameOf(element, scope.tree);
  return name && literal(name);
}

function askedWords(reach: Reach): string | undefined {
  const {
    by,
    args: [first],
    pickedFrom,
    position,
  } = reach;
  const text = textOfValue(first);
  if (pickedFrom && position !== 0) return undefined;
  if (text === undefined || text === '') return undefined;
  switch (by) {
    case 'role': {
      const name = nameAsked(reach);
      return `the ${name === undefined ? '' : `${named(name)} `}${roleWord(text)}`;
    }
    case 'label':
      return `"${inShort(text, 40)}"`;
    case 'text':
    case 'value':
      return `"${inShort(text, 40)}"`;
    case 'testId':
    case 'id':
    case 'class':
      return `the ${wordsOf(text).join(' ')}`;
    case 'selector': {
      const words = wordsOf(text);
      return words.length > 0 && words.length < 4 && !/[>:\s]/.test(text)
        ? `the ${words.join(' ')}`
        : undefined;
    }
    default:
      return undefined;
  }
}

// A name of several words needs quotes to be told from the words around it.
const named = (name: string): string => (/\s/.test(name) ? `"${inShort(name, 30)}"` : inShort(name, 30));

const ROLE_WORDS: Readonly<Record<string, string>> = {
  textbox: 'field',
  searchbox: 'search field',
  combobox: 'list',
  spinbutton: 'field',
  listitem: 'item',
  img: 'image',
};
/** A role as people say it. */
export const roleWord = (role: string): string => ROLE_WORDS[role] ?? role;

/** A value in a title: as it is, texts in quotes; undefined where it is not known or too long. */
export function valueWords(value: Value | undefined): string | undefined {
  if (value?.is !== 'constant') return undefined;
  if (typeof value.value !== 'string') return String(value.value);
  return value.value !== '' && value.value.length <= 40 && !value.value.includes('\n')
    ? `"${value.value}"`
    : undefined;
}

/** A form of words with the element and the value in it; undefined where it needs one that is not known. */
export function filledTemplate(
  form: string,
  element: string | undefined,
  value: string | undefined,
): string | undefined {
  if ((form.includes('{element}') && !element) || (form.includes('{value}') && value === undefined))
    return undefined;
  return form.replace('{element}', () => element ?? '').replace('{value}', () => value ?? '');
}
