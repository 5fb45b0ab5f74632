import { flagFact, settingAt, textOf, type Known, type Setting } from '../settings/setting.js';
import type { NamedModule } from './environment.js';

// vitest 1 to 3, @vitest/browser: the packages behind its providers, and the browsers that each of them knows.
const PROVIDERS: ReadonlyMap<string, readonly string[]> = new Map([
  ['playwright', ['chromium', 'firefox', 'webkit']],
  ['webdriverio', ['chrome', 'edge', 'firefox', 'safari']],
]);

/** Whether the settings have the specs run in a browser. */
export const inBrowser = (test: Setting | undefined): Known<boolean> =>
  flagFact(settingAt(test, 'browser', 'enabled'), false);

/** Whether they surely do. */
export function runsInBrowser(test: Setting | undefined): boolean {
  const enabled = inBrowser(test);
  return enabled.known && enabled.value;
}

/** What the settings of a run in a browser name: packages, and browsers that the provider has not. */
export function namedForBrowser(test: Setting | undefined, major: number | undefined): NamedModule[] {
  const browser = settingAt(test, 'browser');
  // From version 4 on, a provider is a module that the settings import.
  if (!browser || !runsInBrowser(test) || major === undefined || major < 1 || major > 3) return [];
  const provider = settingAt(browser, 'provider');
  const name = textOf(provider);
  const known = name === undefined ? undefined : PROVIDERS.get(name);
  const own: NamedModule = { text: '@vitest/browser', at: browser.at, key: 'browser', candidates: [] };
  if (!provider || name === undefined || !known) return [own];
  const instances = settingAt(browser, 'instances');
  const items = instances?.is === 'list' ? instances.items : [];
  const browsers = [settingAt(browser, 'name'), ...items.map((item) => settingAt(item, 'browser'))];
  const strange = browsers.flatMap((each): NamedModule[] => {
    const text = textOf(each);
    return each && text !== undefined && !known.includes(text)
      ? [{ text, at: each.at, key: `browser, for ${name}`, candidates: [], absent: true, among: known }]
      : [];
  });
  return [own, { text: name, at: provider.at, key: 'provider', candidates: [] }, ...strange];
}
