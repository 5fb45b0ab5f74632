import { prefixRule, type AliasRule } from '../../host/leads.js';
import { allKnown } from '../../util/all-known.js';
import { resolve } from '../../util/paths.js';
import { escaped } from '../../util/pattern.js';
import { babelSettings } from '../settings/babel-settings.js';
import {
  known,
  madeBy,
  settingAt,
  textOf,
  textsFact,
  UNKNOWN_FACT,
  type Known,
  type Setting,
} from '../settings/setting.js';
import type { TransformRule, Transforms } from './environment.js';
import type { Facts, RunnerSources } from './found.js';

/** What becomes of the files that karma's specs load (karma-webpack 4 and 5): by webpack's settings within its own. */
export function bundled(asked: RunnerSources): Pick<Facts, 'transforms'> & Partial<Facts> {
  const { setting, folder } = asked.found;
  const webpack = settingAt(setting, 'webpack');
  // What nothing works on is taken as it is written, by a browser that may well understand it.
  if (webpack === undefined && settingAt(setting, 'preprocessors') === undefined)
    return { transforms: known({ by: 'nothing', at: setting.at }) };
  // karma-webpack 5 makes nothing of them where its framework is not named as well; 4 had none.
  const frameworks = textsFact(settingAt(setting, 'frameworks'), [], setting.at);
  const isNamed = frameworks.known && frameworks.value.some(({ text }) => text === 'webpack');
  return webpack?.is === 'object' && !webpack.open && isNamed
    ? { transforms: loaders(webpack, asked), ...names(webpack, folder) }
    : { transforms: UNKNOWN_FACT };
}

// webpack 4 and 5, resolve.alias: a name before a path, or with `$` the name alone. Plugins may resolve names of their own.
function names(webpack: Setting, folder: string): Partial<Facts> {
  const alias = settingAt(webpack, 'resolve', 'alias');
  if (settingAt(webpack, 'resolve', 'plugins')) return {};
  if (alias === undefined) return { aliases: known([]) };
  if (alias.is !== 'object' || alias.open) return {};
  const rules = [...alias.entries].map(([name, to]): AliasRule => {
    const text = textOf(to);
    const target = text?.startsWith('.') ? resolve(folder, text) : text;
    return name.endsWith('$')
      ? { pattern: `^${escaped(name.slice(0, -1))}$`, to: target, at: to.at }
      : prefixRule(name, target, to.at);
  });
  return { aliases: known(rules), leads: { rules, folders: [] } };
}

// webpack 4 and 5, module.rules: all of them with a plain pattern, and loaders by their names.
function loaders(webpack: Setting, { found: { folder }, exists, setting }: RunnerSources): Known<Transforms> {
  const list = settingAt(webpack, 'module', 'rules');
  if (list !== undefined && (list.is !== 'list' || list.open)) return UNKNOWN_FACT;
  const rules = allKnown((list?.items ?? []).map(ruleOf));
  const babel = babelSettings(folder, exists, setting);
  return rules ? known({ by: 'loaders', rules, babel, at: list?.at ?? webpack.at }) : UNKNOWN_FACT;
}

const PLAIN: ReadonlySet<string> = new Set([
  'test',
  'exclude',
  'use',
  'loader',
  'options',
  'type',
  'enforce',
]);

function ruleOf(rule: Setting): TransformRule | undefined {
  const test = settingAt(rule, 'test');
  if (rule.is !== 'object' || rule.open || test?.is !== 'pattern' || test.flags !== '') return undefined;
  if ([...rule.entries.keys()].some((key) => !PLAIN.has(key))) return undefined;
  const use = settingAt(rule, 'use') ?? settingAt(rule, 'loader');
  const used = use?.is === 'list' ? use.items : use ? [use] : [];
  const by = used.map((each) => textOf(each) ?? textOf(settingAt(each, 'loader')) ?? madeBy(each));
  const names = allKnown(by);
  if (!names) return undefined;
  const own = used.findIndex((_, i) => names[i] === 'babel-loader');
  const options = settingAt(used[own], 'options') ?? settingAt(rule, 'options');
  return { pattern: test.source, by: names[own] ?? names.at(-1) ?? 'type', options, at: rule.at };
}
