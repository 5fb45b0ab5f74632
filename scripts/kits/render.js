// Renders every component of cases.jsx in a document, and writes down what is there. Bundled by verify-kits.js.
import { writeFileSync } from 'node:fs';
import { JSDOM } from 'jsdom';

const { window } = new JSDOM('<!doctype html><body></body>', {
  pretendToBeVisual: true,
  url: 'http://localhost/',
});
const everywhere = globalThis;
const page = window;
for (const key of Object.getOwnPropertyNames(window)) if (!(key in everywhere)) everywhere[key] = page[key];
Object.assign(everywhere, { window, document: window.document, IS_REACT_ACT_ENVIRONMENT: true });
Object.defineProperty(everywhere, 'navigator', { value: window.navigator, configurable: true });
const nothing = () => {};
page.matchMedia = () => ({
  matches: false,
  addListener: nothing,
  removeListener: nothing,
  addEventListener: nothing,
  removeEventListener: nothing,
});
page.ResizeObserver = everywhere.ResizeObserver = class {
  observe = nothing;
  unobserve = nothing;
  disconnect = nothing;
};

const { createElement, act } = await import('react');
const { createRoot } = await import('react-dom/client');
const { getRoles } = await import('@testing-library/dom');
const { computeAccessibleName } = await import('dom-accessibility-api');
const cases = await import('./cases.jsx');

const found = {};
for (const [name, Case] of Object.entries(cases)) {
  document.body.innerHTML = '';
  const host = document.body.appendChild(document.createElement('div'));
  const root = createRoot(host);
  await act(async () => root.render(createElement(Case)));
  const roles = new Map();
  for (const [role, elements] of Object.entries(getRoles(document.body, { hidden: true })))
    if (role !== 'generic') for (const element of elements) roles.set(element, role);
  found[name] = [...document.body.querySelectorAll('*')]
    .filter((element) => element !== host)
    .map((element) => ({
      tag: element.tagName.toLowerCase(),
      role: roles.get(element) ?? null,
      name: computeAccessibleName(element),
      attributes: Object.fromEntries(
        [...element.attributes].map(({ name, value }) => [name.toLowerCase(), value]),
      ),
    }));
  await act(async () => root.unmount());
}
writeFileSync(process.argv[2], JSON.stringify(found));
process.exit(0);
