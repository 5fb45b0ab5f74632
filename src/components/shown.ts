import type { Constant, Data } from '../language/operations.js';

export type Framework = 'react' | 'vue' | 'angular';

/** Where a value is shown: in braces of markup, or as an attribute by its HTML name. `property`: set on the object of the element. */
export interface Showing {
  framework: Framework;
  attribute?: string;
  property?: boolean;
}

/**
 * What a framework shows for a value: the text, or for an attribute `undefined` where it is left out. No result where
 * that can't be told. Read from react-dom 19.2 (`ReactDOMComponent`, `CSSProperty`), @vue/shared and runtime-dom 3.5
 * (`toDisplayString`, `patchProp`), and @angular/core 21 (`renderStringify`, `elementAttributeInternal`).
 */
export function shownData(value: Data, { framework, attribute, property }: Showing): Text | undefined {
  if (attribute === undefined) return TEXTS[framework](value);
  if (value === null || value === undefined) return property ? undefined : ABSENT;
  if (typeof value === 'object') return undefined;
  if (framework === 'angular' && !property) return { value: String(value) };
  if (property && !isReflected(attribute)) return undefined;
  if (BOOLEAN.has(attribute)) return ofBoolean(value, framework, attribute);
  if (typeof value === 'boolean') return ofTruth(value, framework, attribute);
  return framework === 'react' && value === '' && ADDRESSES.has(attribute)
    ? undefined
    : { value: String(value) };
}

/** Whether a text is shown there as it is: most are. */
export const showsTextAsItIs = ({ attribute }: Showing): boolean =>
  attribute === undefined || !(BOOLEAN.has(attribute) || ADDRESSES.has(attribute));

interface Text {
  value: Constant;
}

const ABSENT: Text = { value: undefined };

const TEXTS: Readonly<Record<Framework, (value: Data) => Text | undefined>> = {
  react: reactText,
  vue: (value) => ({ value: vueText(value) }),
  angular: (value) => ({ value: value === null || value === undefined ? '' : String(value) }),
};

// Nothing for what is no text or number; lists item by item; an object can't be a child.
function reactText(value: Data): Text | undefined {
  if (value === null || value === undefined || typeof value === 'boolean') return { value: '' };
  if (!Array.isArray(value)) return typeof value === 'object' ? undefined : { value: String(value) };
  const items = (value as readonly Data[]).map(reactText);
  return items.includes(undefined) ? undefined : { value: items.map((item) => String(item?.value)).join('') };
}

// Lists and objects as JSON, two spaces deep.
function vueText(value: Data): string {
  if (value === null || value === undefined) return '';
  return typeof value === 'object' ? JSON.stringify(value, null, 2) : String(value);
}

// Properties that the document gives back as an attribute of the same text, or that count as what the element holds.
const isReflected = (attribute: string): boolean =>
  BOOLEAN.has(attribute) || attribute.startsWith('aria-') || REFLECTED.has(attribute);

const REFLECTED: ReadonlySet<string> = new Set(
  'alt cite class dir for href id label lang name placeholder role src target title type value'.split(' '),
);

// Where versions differ there is no answer: Vue 2 takes zero for a value, and leaves out what Vue 3 writes as “false”;
// React 18 knows no `inert`, and keeps addresses without a text. React selects an option without its attribute.
function ofBoolean(value: Constant, framework: Framework, attribute: string): Text | undefined {
  if (framework === 'vue' && !value && value !== '' && value !== false) return undefined;
  if (framework === 'react' && (attribute === 'inert' || attribute === 'selected')) return undefined;
  const on = framework === 'vue' && value === '' ? true : Boolean(value);
  return { value: on ? '' : undefined };
}

function ofTruth(value: boolean, framework: Framework, attribute: string): Text | undefined {
  if (framework === 'angular') return { value: String(value) };
  if (framework === 'vue') return value ? { value: 'true' } : undefined;
  if (/^(?:aria|data)-/.test(attribute) || SPELT_OUT.has(attribute)) return { value: String(value) };
  if (attribute === 'value') return undefined;
  return attribute === 'download' && value ? { value: '' } : ABSENT;
}

/** Attributes whose being there is what counts (HTML, boolean attributes). */
const BOOLEAN: ReadonlySet<string> = new Set(
  'allowfullscreen async autofocus autoplay checked controls default defer disabled formnovalidate hidden inert ismap itemscope loop multiple nomodule novalidate open playsinline readonly required reversed selected'.split(
    ' ',
  ),
);

// Attributes whose values are the words “true” and “false”.
const SPELT_OUT: ReadonlySet<string> = new Set(['contenteditable', 'draggable', 'spellcheck']);

const ADDRESSES: ReadonlySet<string> = new Set(['href', 'src']);
