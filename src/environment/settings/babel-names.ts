import type { Place } from '../../finding.js';
import { resolve } from '../../util/paths.js';
import { escaped } from '../../util/pattern.js';
import { NO_LEADS, type AliasRule, type Leads } from '../../host/leads.js';
import { known, settingAt, textOf, textsFact, UNKNOWN_FACT, type Known, type Setting } from './setting.js';

/** A preset or plugin of Babel's settings: its package by its whole name, and its options. */
export interface BabelPart {
  name: string;
  options: Setting | undefined;
  at: Place;
}

/** Where plugins of Babel send imports, as far as it can be read. */
export interface BabelNames {
  leads: Leads;
  /** All of their rules; unknown where a plugin may have others. */
  rules: Known<readonly AliasRule[]>;
}

// By what they are for: these compile, and send no import of the project anywhere else.
const LEAVES_NAMES =
  /^(?:@babel\/|(?:@emotion|@loadable|@stylexjs|@compiled)\/babel-plugin$|@lingui\/babel-plugin-|@vue\/babel-|babel-plugin-(?:macros|relay|lodash|preval|rewire|dev-expression|istanbul|styled-components|react-compiler|dynamic-import-node|transform-(?:react|es2015|class|object|async|decorators|runtime|regenerator|export|typescript)|syntax-|jsx-control-statements|add-module-exports|polyfill-corejs\d|named-asset-import|angularjs-annotate|formatjs|graphql-tag|ramda)|babel-plugin-emotion$|react-refresh\/babel$|react-native-reanimated\/plugin$)/;

/** Where plugins send the imports of a package; `folder`: that of their settings. */
export function namesBy(plugins: readonly BabelPart[], folder: string): BabelNames {
  const all = plugins.flatMap(({ name, options, at }): (BabelNames | undefined)[] => {
    if (name === 'babel-plugin-module-resolver') return [byModuleResolver(options, folder, at)];
    if (name === 'babel-plugin-root-import') return [byRootImport(options, folder, at)];
    return LEAVES_NAMES.test(name) ? [] : [undefined];
  });
  const read = all.filter((each) => each !== undefined);
  const rules = read.flatMap(({ leads }) => leads.rules);
  const isWhole = read.length === all.length && read.every((each) => each.rules.known);
  return {
    leads: { rules, folders: read.flatMap(({ leads }) => leads.folders) },
    rules: isWhole ? known(rules) : UNKNOWN_FACT,
  };
}

// babel-plugin-module-resolver 3 to 5, normalizeOptions.js: the folder is that of the run, where none is given.
function byModuleResolver(options: Setting | undefined, run: string, at: Place): BabelNames {
  const cwd = textOf(settingAt(options, 'cwd'));
  const folder = cwd === undefined || /^(?:babelrc|packagejson)$/.test(cwd) ? run : resolve(run, cwd);
  const alias = settingAt(options, 'alias');
  const tables = alias === undefined ? [] : alias.is === 'list' ? alias.items : [alias];
  const roots = textsFact(settingAt(options, 'root'), [], at);
  const endings = textsFact(settingAt(options, 'extensions'), MODULE_RESOLVER_ENDINGS, at);
  const rules = tables.flatMap((table) =>
    table.is !== 'object'
      ? []
      : [...table.entries].map(([name, value]): AliasRule => {
          const text = textOf(value);
          const isPattern = name.startsWith('^') || name.endsWith('$');
          const to = text?.replace(/\\(\d)/g, '$$$1');
          return {
            pattern: isPattern ? name : `^${escaped(name)}(/.*|)$`,
            to: to && `${to.startsWith('.') ? resolve(folder, to) : to}${isPattern ? '' : '$1'}`,
            at: value.at,
          };
        }),
  );
  const isOpen =
    tables.some((table) => table.is !== 'object' || table.open) ||
    settingAt(options, 'resolvePath') !== undefined ||
    !roots.known ||
    !endings.known ||
    roots.value.some(({ text }) => /[*?[{]/.test(text));
  const folders = !roots.known
    ? []
    : roots.value.map(({ text }) => ({
        folder: resolve(folder, text),
        endings: endings.known ? endings.value.map((each) => each.text) : undefined,
      }));
  return { leads: { rules, folders }, rules: isOpen ? UNKNOWN_FACT : known(rules) };
}

const MODULE_RESOLVER_ENDINGS = ['.js', '.jsx', '.es', '.es6', '.mjs'];

// babel-plugin-root-import 5 and 6, index.js and helper.js: `~` is the folder of the run, where nothing is said.
function byRootImport(options: Setting | undefined, run: string, at: Place): BabelNames {
  const paths = settingAt(options, 'paths') ?? options;
  const items = paths?.is === 'list' ? paths.items : [paths];
  if (items.some((item) => item !== undefined && (item.is !== 'object' || item.entries.has('root'))))
    return { leads: NO_LEADS, rules: UNKNOWN_FACT };
  const rules = items.map((item): AliasRule => {
    const prefix = textOf(settingAt(item, 'rootPathPrefix')) ?? '~';
    const suffix = textOf(settingAt(item, 'rootPathSuffix')) ?? './';
    return { pattern: `^${escaped(prefix)}/?(.*)$`, to: `${resolve(run, suffix)}/$1`, at: item?.at ?? at };
  });
  return { leads: { rules, folders: [] }, rules: known(rules) };
}
