import '@angular/compiler';
import { expect } from 'chai';
import { JSDOM } from 'jsdom';
import { type Framework, shownData } from '#src/components/shown.js';
import type { Constant, Data } from '#src/language/operations.js';

const CONSTANTS: Constant[] = [
  '',
  'Cone',
  ' 6 ',
  'true',
  0,
  -0,
  1,
  2.5,
  1e21,
  NaN,
  true,
  false,
  null,
  undefined,
];
const LISTS: Data[] = [[], [1, 2], ['a', null, true], [['a'], 'b'], { a: 1 }, {}, { a: [1, 'b'] }];
const ATTRIBUTES = [
  ...[
    'aria-label',
    'aria-hidden',
    'data-cone',
    'title',
    'alt',
    'href',
    'role',
    'id',
    'for',
    'placeholder',
    'value',
    'type',
  ],
  ...[
    'disabled',
    'hidden',
    'checked',
    'required',
    'multiple',
    'readonly',
    'open',
    'selected',
    'draggable',
    'tabindex',
  ],
];
const ELEMENT: Record<string, string> = {
  ...{ alt: 'img', href: 'a', for: 'label', open: 'details', selected: 'option' },
  ...Object.fromEntries(
    ['value', 'type', 'disabled', 'checked', 'required', 'readonly', 'placeholder'].map((name) => [
      name,
      'input',
    ]),
  ),
  multiple: 'select',
};
const elementOf = (attribute: string): string => ELEMENT[attribute] ?? 'div';

/** What a framework puts into a document for a value; `error` where it refuses. */
type Show = (value: Data, attribute?: string) => Promise<string | null | 'error'>;

const { window } = new JSDOM('<body></body>', { pretendToBeVisual: true });
const { document } = window;
const PLACES = [
  'window',
  'navigator',
  'document',
  'Node',
  'Element',
  'HTMLElement',
  'HTMLIFrameElement',
  'SVGElement',
  'Event',
  'ShadowRoot',
  'MathMLElement',
  'CSSStyleSheet',
];

async function react(): Promise<Show> {
  const { createElement } = await import('react');
  const { createRoot } = await import('react-dom/client');
  const { flushSync } = await import('react-dom');
  const NAMES: Record<string, string> = { for: 'htmlFor', tabindex: 'tabIndex', readonly: 'readOnly' };
  return (value, attribute) => {
    const host = document.createElement('main');
    const root = createRoot(host, { onUncaughtError: () => undefined });
    const tag = attribute ? elementOf(attribute) : 'p';
    const props = attribute ? { [NAMES[attribute] ?? attribute]: value } : {};
    flushSync(() => root.render(createElement(tag, props, ...(attribute ? [] : [value as string]))));
    const found = host.querySelector(tag);
    const result = !found ? 'error' : attribute ? found.getAttribute(attribute) : found.textContent;
    root.unmount();
    return Promise.resolve(result);
  };
}

async function vue(): Promise<Show> {
  const { createApp } = await import('vue');
  return (value, attribute) => {
    const host = document.createElement('main');
    const tag = attribute ? elementOf(attribute) : 'p';
    const template = attribute ? `<${tag} :${attribute}="value" />` : '<p>{{ value }}</p>';
    const app = createApp({ template, setup: () => ({ value }) });
    app.config.warnHandler = () => undefined;
    app.mount(host);
    const found = host.querySelector(tag);
    const result = attribute ? (found?.getAttribute(attribute) ?? null) : (found?.textContent ?? null);
    app.unmount();
    return Promise.resolve(result);
  };
}

async function angular(property: boolean): Promise<Show> {
  const { Component, createComponent, provideZonelessChangeDetection } = await import('@angular/core');
  const { createApplication } = await import('@angular/platform-browser');
  const app = await createApplication({ providers: [provideZonelessChangeDetection()] });
  return (value, attribute) => {
    const tag = attribute ? elementOf(attribute) : 'p';
    const bound = attribute && (property ? `[${attribute}]` : `[attr.${attribute}]`);
    const template = bound
      ? `<${tag} ${bound}="value">${['img', 'input'].includes(tag) ? '' : `</${tag}>`}`
      : '<p>{{ value }}</p>';
    const Shown = Component({ template, standalone: true })(
      class {
        value = value;
      },
    ) as unknown as new () => object;
    const host = document.createElement('main');
    const made = createComponent(Shown, { environmentInjector: app.injector, hostElement: host });
    made.changeDetectorRef.detectChanges();
    const found = host.querySelector(tag);
    const result = attribute ? (found?.getAttribute(attribute) ?? null) : (found?.textContent ?? null);
    made.destroy();
    return Promise.resolve(result);
  };
}

async function wrong(
  show: Show,
  framework: Framework,
  property = false,
): Promise<{ wrong: string[]; known: number }> {
  const found: string[] = [];
  let known = 0;
  for (const attribute of property ? [] : [undefined])
    for (const value of [...CONSTANTS, ...LISTS]) await hold(value, attribute);
  // What an element holds is no attribute.
  const held = property ? ['value', 'checked', 'selected'] : [];
  for (const attribute of ATTRIBUTES.filter((each) => !held.includes(each)))
    for (const value of CONSTANTS) await hold(value, attribute);
  return { wrong: found, known };

  async function hold(value: Data, attribute: string | undefined): Promise<void> {
    const answer = shownData(value, { framework, attribute, property });
    if (!answer) return;
    known++;
    const real = await show(value, attribute);
    if (real !== (answer.value ?? null))
      found.push(
        `${attribute ?? 'text'} ${JSON.stringify(value) ?? 'undefined'}: ${real}, not ${answer.value}`,
      );
  }
}

describe('what frameworks show, beside the frameworks themselves', () => {
  const before = new Map<string, PropertyDescriptor | undefined>();
  const warn = { error: console.error, warn: console.warn };

  beforeEach(() => {
    console.error = console.warn = () => undefined;
    for (const name of PLACES) {
      before.set(name, Object.getOwnPropertyDescriptor(globalThis, name));
      const value: unknown = name === 'window' ? window : Reflect.get(window, name);
      Object.defineProperty(globalThis, name, { value, configurable: true, writable: true });
    }
  });
  afterEach(async () => {
    // A framework may have put work off: it needs the document until it is done.
    await new Promise((done) => setTimeout(done, 30));
    Object.assign(console, warn);
    for (const [name, descriptor] of before) {
      if (descriptor) Object.defineProperty(globalThis, name, descriptor);
      else Reflect.deleteProperty(globalThis, name);
    }
  });

  it('React', async () => {
    const { wrong: found, known } = await wrong(await react(), 'react');
    expect(found).to.deep.equal([]);
    expect(known).to.be.above(280);
  });
  it('Vue', async () => {
    const { wrong: found, known } = await wrong(await vue(), 'vue');
    expect(found).to.deep.equal([]);
    expect(known).to.be.above(250);
  });
  it('Angular', async () => {
    const { wrong: found, known } = await wrong(await angular(false), 'angular');
    expect(found).to.deep.equal([]);
    expect(known).to.be.above(300);
  });
  it('Angular, set as properties', async () => {
    const { wrong: found } = await wrong(await angular(true), 'angular', true);
    expect(found).to.deep.equal([]);
  });
});
