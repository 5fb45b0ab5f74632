// usage: node run-in-order.js FILE written|reverse|alone [TITLE]: runs a spec file under Mocha, in a document, and prints
// the result of each spec by its full title, as one line of JSON.
import { JSDOM } from 'jsdom';
import Mocha from 'mocha';

const [, , file, order, title] = process.argv;
const { window } = new JSDOM('<!doctype html><body></body>', {
  url: 'http://kiln.test/',
  pretendToBeVisual: true,
});
const skipped = new Set(['undefined', 'NaN', 'Infinity', 'globalThis', 'navigator', 'performance', 'crypto']);
for (const name of Object.getOwnPropertyNames(window))
  if (!(name in globalThis) && !skipped.has(name)) globalThis[name] = window[name];
Object.assign(globalThis, {
  window,
  document: window.document,
  Event: window.Event,
  localStorage: window.localStorage,
  sessionStorage: window.sessionStorage,
});

const mocha = new Mocha({ reporter: class {}, timeout: 2000 });
mocha.addFile(file);
await mocha.loadFilesAsync();
if (order === 'alone') mocha.grep(new RegExp(`^${title.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}$`));
if (order === 'reverse') turn(mocha.suite);

function turn(suite) {
  suite.tests.reverse();
  suite.suites.reverse();
  suite.suites.forEach(turn);
}

const results = {};
const runner = mocha.run(() => {
  console.log(JSON.stringify(results));
  process.exit(0);
});
runner.on('pass', (spec) => (results[spec.fullTitle()] = 'passed'));
runner.on('fail', (spec) => (results[spec.fullTitle()] = 'failed'));
