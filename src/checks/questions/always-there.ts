import type { Block, SpecFile } from '../../specs/model/blocks.js';
import type { Assertion } from '../../specs/model/steps.js';
import { settled, type LibraryObject, type Value } from '../../specs/model/values.js';
import { asksNotUndefined } from './used-reaches.js';
import { asksPresence, type HollowAssertion } from './presence.js';

/** What is never missing: why, and, for what generators write into every new spec, that it only says what was created. */
interface Presence {
  what: string;
  advice?: string;
  generated?: boolean;
}

/** Presence asked of something that is there whatever the component does. */
export function alwaysThere(
  assertion: Assertion,
  spec: Block,
  { path }: SpecFile,
): HollowAssertion | undefined {
  const { subject, optional } = assertion;
  // What stands behind `?.` may be undefined.
  if (optional) return undefined;
  const present = asksPresence(assertion)
    ? (presenceOf(subject, path) ??
      ofImport(subject, assertion) ??
      ofQuery(subject, assertion) ??
      ofText(subject, assertion))
    : undefined;
  const found = present ?? existence(assertion, spec);
  if (!found) return undefined;
  const { what, advice, generated } = found;
  return { reason: what, advice, always: true, created: generated, level: generated ? 'hint' : undefined };
}

const GIVEN: Readonly<Partial<Record<LibraryObject['type'], string>>> = {
  wrapper: 'a wrapper is always there',
  'tree-wrapper': 'a wrapper is always there',
  'test-renderer': 'a renderer is always there',
  fixture: 'a fixture is always there',
  queries: 'the result of a render is always there',
  record: 'the record of events is always there',
  'debug-element': 'the debug element is always there',
  element: 'the container of a render is always there',
};

// What a render, or the spec file itself, always gives.
function presenceOf(subject: Value, path: string): Presence | undefined {
  switch (subject.is) {
    case 'thing':
      return ofThing(subject);
    case 'instance':
      return subject.of.is === 'class' ? { what: 'a new object is always there' } : undefined;
    case 'object':
    case 'list':
      return subject.file === path ? WRITTEN_OUT : undefined;
    case 'function':
      return { what: 'a function is always there, whatever it would give', advice: 'Call it.' };
    case 'jsx':
      return subject.tree.path === path ? WRITTEN_OUT : undefined;
    case 'read':
      return subject.name === 'typeof' ? { what: 'the type of a value is a text, never empty' } : undefined;
    default:
      return undefined;
  }
}

const IMPORTED: Presence = {
  what: 'what a module gives out is there once the file has loaded',
  advice: 'Use it, and assert on what comes of it.',
  generated: true,
};
const WRITTEN_OUT: Presence = { what: 'what is written out in the spec is always there' };

function ofThing({ reach, render, type, standIn, part }: LibraryObject): Presence | undefined {
  if (standIn) return type === 'stand-in' ? { what: 'a stand-in is always there' } : undefined;
  if (part === 'body' || part === 'head' || part === 'documentElement')
    return { what: `the ${part} of the page is always there` };
  if (type === 'chain' && render?.gives !== 'chain' && reach?.gives !== 'chain')
    return { what: 'what an injector gives is always there', generated: true };
  if (reach || !render) return undefined;
  if (type === 'instance') return { what: 'the instance of a component is always there', generated: true };
  const what = GIVEN[type];
  return what === undefined ? undefined : { what };
}

// A value may well be false; that there is none, the loader would have said.
const ofImport = (subject: Value, assertion: Assertion): Presence | undefined =>
  subject.is === 'project' && subject.declared.name !== '*' && asksNotUndefined(assertion)
    ? IMPORTED
    : undefined;

// What a query gives where it finds nothing.
function ofQuery(subject: Value, assertion: Assertion): Presence | undefined {
  // Plugins of the chained style ask a list of elements whether it has any.
  if (assertion.matcher === 'exist') return undefined;
  const reach = subject.is === 'thing' && subject.type === subject.reach?.gives ? subject.reach : undefined;
  if (!reach || reach.pickedFrom) return undefined;
  const { name } = reach;
  if (reach.missing === 'void')
    return { what: `${name} gives an object even where it finds nothing`, advice: 'Ask whether it exists.' };
  if (reach.missing === 'many')
    return { what: `${name} gives a list even where it finds nothing`, advice: 'Ask how many there are.' };
  return reach.missing === 'null' && asksNotUndefined(assertion) && reach.by !== 'hop'
    ? {
        what: `${name} gives null where it finds nothing, and null is not undefined`,
        advice: 'Ask whether it is in the document.',
      }
    : undefined;
}

const TEXTS: ReadonlySet<string> = new Set(['text', 'html', 'classes']);

// The text and the classes of what is rendered may be empty; they are never undefined.
function ofText(subject: Value, { asks, not }: Assertion): Presence | undefined {
  const at = settled(subject);
  if (at.is !== 'read' || at.of.is !== 'thing' || at.of.reach || !at.of.render || !TEXTS.has(at.name))
    return undefined;
  const isNotUndefined = not ? asks === 'undefined' || asks === 'null' : asks === 'defined';
  return isNotUndefined ? { what: `${at.name} is never undefined` } : undefined;
}

// `wrapper.exists()` holds until the wrapper is unmounted, and so long the container is in the document.
function existence(assertion: Assertion, spec: Block): Presence | undefined {
  const { subject, not, asks } = assertion;
  if (not || spec.steps.some(({ kind }) => kind === 'unmount')) return undefined;
  if (asks === 'there')
    return subject.is === 'thing' && subject.type === 'element' && isOfRender(subject, 'queries')
      ? { what: 'the container of a render is in the document' }
      : undefined;
  const [first] = assertion.args;
  const isTrue = asks === 'truthy' || (asks === 'equal' && first?.is === 'constant' && first.value === true);
  return isTrue &&
    subject.is === 'read' &&
    subject.name === 'exists' &&
    subject.of.is === 'thing' &&
    isOfRender(subject.of, 'wrapper')
    ? { what: 'a wrapper exists until it is unmounted', generated: true }
    : undefined;
}

const isOfRender = ({ reach, render }: LibraryObject, gives: LibraryObject['type']): boolean =>
  reach === undefined && render?.gives === gives;
