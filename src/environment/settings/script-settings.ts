import type { Node } from 'oxc-parser';
import type { Place } from '../../finding.js';
import { patternsTaken } from './taken-patterns.js';
import { parseScript, type Script } from '../../syntax/script.js';
import type { Problem, Source } from '../../syntax/source.js';
import {
  isFunction,
  literalText,
  memberName,
  pathOf,
  requiredModule,
  returnedFrom,
  unwrapped,
  walkTree,
  type FunctionNode,
  calledName,
  propertyChain,
} from '../../syntax/tree.js';
import { basename, dirname, resolve } from '../../util/paths.js';
import { madeBy, settingAt, type Setting } from './setting.js';
import { madeFrom, wrappedBy } from './wrappers.js';
import { bindPattern, type Parts } from '../../language/patterns.js';
import { memberOfData, type Data } from '../../language/operations.js';
import {
  calledOperation,
  operated,
  readExpression,
  type Algebra,
  type Choice,
  type Entry,
  type Item,
} from '../../language/reader.js';
import {
  dataOfSetting,
  exportedSetting,
  merged,
  openSetting,
  pathSetting,
  settingOf,
  text,
} from './setting-values.js';
import { settingsScope, type ReadOther } from './settings-scope.js';

const DEEPEST = 24;

/** What a settings file of JavaScript or TypeScript exports, worked out over its syntax tree and never run. */
export function scriptSettings(source: Source, readOther: ReadOther, name = 'default'): Setting | Problem {
  const script = parseScript(source);
  if ('reason' in script) return script;
  const settings = new Settings(script, readOther);
  return name === 'default' ? settings.exported() : settings.named(name);
}

type Names = ReadonlyMap<string, Setting | Node>;

/** The expressions of a settings file: what the language says of them, each with its place. */
class Settings implements Algebra<Setting> {
  readonly #script: Script;
  readonly #readOther: ReadOther;
  readonly #modules: ReadonlyMap<string, { module: string; name: string }>;
  /** What names stand for where the reader is: those of the file, and those of the functions around. */
  #names: Names;
  #depth = 0;

  constructor(script: Script, readOther: ReadOther) {
    this.#script = script;
    this.#readOther = readOther;
    const { names, modules } = settingsScope(script, readOther);
    this.#names = names;
    this.#modules = modules;
  }

  exported(): Setting {
    for (const statement of this.#script.program.body) {
      if (statement.type === 'ExportDefaultDeclaration') return this.read(statement.declaration);
      if (statement.type === 'TSExportAssignment') return this.read(statement.expression);
    }
    const given = this.#script.program.body.flatMap((each) => exportsIn(each as Node)).at(-1);
    return given ? this.read(given) : this.unknown(this.#script.program as Node);
  }

  /** An export by its name. */
  named(name: string): Setting {
    const program = this.#script.program as Node;
    const exported = this.#script.program.body.some(
      (each) => each.type === 'ExportNamedDeclaration' && !each.source,
    );
    return exported ? this.#named(name, program) : this.unknown(program);
  }

  #at(node: Node): Place {
    return { file: this.#script.source.path, start: node.start, end: node.end };
  }

  read(node: Node): Setting {
    if (this.#depth > DEEPEST) return this.unknown(node);
    this.#depth++;
    const setting = readExpression(node, this);
    this.#depth--;
    return setting;
  }

  unknown(node: Node): Setting {
    return { is: 'unknown', at: this.#at(node) };
  }

  data(value: Data, node: Node): Setting {
    return settingOf(value, this.#at(node));
  }

  readonly dataOf = dataOfSetting;

  pattern(source: string, flags: string, node: Node): Setting {
    return { is: 'pattern', source, flags, at: this.#at(node) };
  }

  operation(_by: string, _of: readonly Setting[], node: Node): Setting {
    return this.unknown(node);
  }

  choice({ taken, then, otherwise }: Choice<Setting>, node: Node): Setting {
    if (taken) return taken === 'then' ? then() : otherwise();
    return { is: 'either', options: [then(), otherwise()], at: this.#at(node) };
  }

  object(all: readonly Entry<Setting>[], node: Node): Setting {
    const entries = new Map<string, Setting>();
    let open = false;
    for (const each of all) {
      if (each.is === 'named') entries.set(each.key, each.value);
      const spread = each.is === 'spread' ? spreadOf(each.value) : undefined;
      for (const [key, value] of spread?.entries ?? []) entries.set(key, value);
      if (each.is === 'named' || (spread && !spread.open)) continue;
      // What an unreadable spread sets may win over all that stands before it.
      open = true;
      for (const [key, value] of entries) entries.set(key, { is: 'unknown', at: value.at });
    }
    return { is: 'object', entries, open, at: this.#at(node) };
  }

  list(all: readonly Item<Setting>[], node: Node): Setting {
    const items: Setting[] = [];
    let open = false;
    for (const { value, spread } of all) {
      if (!spread) items.push(value);
      else if (value.is === 'list') {
        items.push(...value.items);
        open ||= value.open;
      } else open = true;
    }
    return { is: 'list', items, open, at: this.#at(node) };
  }

  other(node: Node): Setting {
    switch (node.type) {
      case 'Identifier':
        return this.#named(node.name, node);
      case 'MemberExpression':
        return this.#member(node);
      case 'CallExpression':
        return this.#call(node);
      case 'NewExpression':
        return node.callee.type === 'Identifier' && node.callee.name === 'URL'
          ? this.#url(node)
          : this.unknown(node);
      case 'AwaitExpression':
        return this.read(node.argument);
      default:
        return isFunction(node)
          ? { ...this.#returned(node, node), takes: patternsTaken(node) }
          : this.unknown(node);
    }
  }

  #named(name: string, node: Node): Setting {
    const at = this.#at(node);
    if (name === 'undefined') return { is: 'value', value: undefined, at };
    if (name === '__dirname') return text(dirname(this.#script.source.path), at);
    if (name === '__filename') return text(this.#script.source.path, at);
    const found = this.#names.get(name);
    if (!found) return exportedSetting(this.#modules.get(name), at);
    return 'is' in found ? found : this.read(found);
  }

  #member(node: Extract<Node, { type: 'MemberExpression' }>): Setting {
    const at = this.#at(node);
    const key = node.computed ? dataOfSetting(this.read(node.property)) : undefined;
    const name = memberName(node) ?? (key && String(key.value));
    const variable = this.#variable(node);
    if (variable !== undefined) return text(variable, at);
    const module = requiredModule(node.object);
    const exported = module === undefined ? undefined : exportedSetting({ module, name: name ?? '' }, at);
    if (exported && exported.is !== 'unknown') return exported;
    if (node.object.type === 'MetaProperty') {
      if (name === 'dirname') return text(dirname(this.#script.source.path), at);
      if (name === 'url') return text(`file://${this.#script.source.path}`, at);
    }
    const object = this.read(node.object);
    const url =
      object.is === 'value' && typeof object.value === 'string' && object.value.startsWith('file://');
    if (url && (name === 'pathname' || name === 'href'))
      return name === 'pathname' ? text(String(object.value).slice('file://'.length), at) : object;
    if (name === undefined) return { is: 'unknown', at };
    if (node.optional && object.is === 'value' && (object.value === null || object.value === undefined))
      return { is: 'value', value: undefined, at };
    if (object.is === 'object' && object.entries.has(name)) return object.entries.get(name) ?? object;
    // What a whole object does not have is what any object has, or nothing.
    const whole = object.is !== 'object' ? dataOfSetting(object) : object.open ? undefined : { value: {} };
    const member = whole && memberOfData(whole.value, name);
    return member ? settingOf(member.value, at) : { is: 'unknown', at };
  }

  // Variables that the runner has set before it reads these settings.
  #variable(node: Node): string | undefined {
    const { root, path } = propertyChain(node);
    const [env, name = '', ...more] = path;
    const isRead =
      root.type === 'Identifier' && root.name === 'process' && env === 'env' && more.length === 0;
    if (!isRead || this.#names.has('process')) return undefined;
    const file = basename(this.#script.source.path);
    return VARIABLES.find(({ files }) => files.test(file))?.set[name];
  }

  // Path helpers, methods of data, a merge of two settings, and helpers that hand on what they get.
  #call(node: Extract<Node, { type: 'CallExpression' }>): Setting {
    const at = this.#at(node);
    const callee = unwrapped(node.callee);
    const name = calledName(node) ?? '';
    const args = node.arguments.map((argument) => this.read(argument));
    const owner = callee.type === 'MemberExpression' ? callee.object : undefined;
    // `require.resolve('x')` is where the package lies: as a setting, as good as its name.
    const resolves =
      owner?.type === 'MetaProperty' || (owner?.type === 'Identifier' && owner.name === 'require');
    if (name === 'resolve' && resolves) return this.#located(args[0], at);
    const path = this.#isPathHelper(callee)
      ? pathSetting(name, args, dirname(this.#script.source.path), at)
      : undefined;
    if (path) return path;
    if (name === 'require' && !owner) return this.#required(node);
    const known = this.#operated(callee, args);
    if (known) return settingOf(known.value, at);
    if (/^merge/i.test(name) && args.length >= 2)
      return args.reduce((left, right) => merged(left, right, at));
    const local = callee.type === 'Identifier' ? this.#names.get(callee.name) : undefined;
    if (local && !('is' in local) && isFunction(local)) return this.#returned(local, node, args);
    const [first] = args;
    // What a framework's function gives may be a function itself: `nextJest({…})(settings)`.
    const maker =
      callee.type === 'CallExpression'
        ? this.read(callee)
        : local && !('is' in local) && !isFunction(local) && requiredModule(local) === undefined
          ? this.read(local)
          : undefined;
    const wrapped = first?.is === 'object' ? wrappedBy(maker && madeBy(maker), first, at) : undefined;
    if (wrapped) return wrapped;
    const from = this.#exportOf(callee);
    const by = from?.module;
    const made = from && madeFrom(from, args, at);
    if (made) return made;
    if (first?.is === 'list' && !owner) return first;
    // `defineConfig({…})` of a bundler or runner gives back what it gets; others may add what can't be read.
    if (first?.is === 'object') return by && HANDS_BACK.has(by) ? first : { ...openSetting(first), by };
    return by && !by.startsWith('.') ? { is: 'made', by, at } : { is: 'unknown', at };
  }

  // The export that a call is of: by the name that is imported, or as a member of a module.
  #exportOf(callee: Node): { module: string; name: string } | undefined {
    if (callee.type === 'Identifier') return this.#modules.get(callee.name);
    const { root, path } = propertyChain(callee);
    const module = this.#moduleOf(root);
    const name = path.at(-1);
    return module !== undefined && name !== undefined ? { module, name } : undefined;
  }

  // The module that a name stands for, or a default of it: `const babelJest = require('babel-jest').default`.
  #moduleOf(root: Node): string | undefined {
    if (root.type !== 'Identifier') return requiredModule(root);
    const init = this.#names.get(root.name);
    return (
      this.#modules.get(root.name)?.module ??
      (init && !('is' in init) ? requiredModule(propertyChain(init).root) : undefined)
    );
  }

  #required({ arguments: [first], ...node }: Extract<Node, { type: 'CallExpression' }>): Setting {
    const specifier = first && literalText(first);
    const other = specifier && this.#readOther(this.#script.source.path, specifier, 'default');
    if (other) return other;
    // A part of a tool, as good as its name: `plugins: [require('babel-plugin-x')]`.
    const isPackage = specifier !== undefined && /^[^./]/.test(specifier);
    return isPackage ? { is: 'made', by: specifier, at: this.#at(node as Node) } : this.unknown(node as Node);
  }

  // `join(…)`, `path.join(…)` and `_path.default.join(…)` of a module of paths: `['a', 'b'].join('/')` is no path helper.
  #isPathHelper(callee: Node): boolean {
    const from = callee.type === 'MemberExpression' ? unwrapped(callee.object) : callee;
    const module = this.#moduleOf(propertyChain(from).root);
    return module !== undefined && PATH_MODULES.has(module.replace(/^node:/, ''));
  }

  #operated(callee: Node, args: readonly Setting[]): { value: Data } | undefined {
    const called = calledOperation(callee, (name) => this.#names.has(name));
    return called && operated(called.by, called.on ? [this.read(called.on), ...args] : args, this);
  }

  #located(specifier: Setting | undefined, at: Place): Setting {
    const isRelative = specifier?.is === 'value' && String(specifier.value).startsWith('.');
    if (!isRelative) return specifier ?? { is: 'unknown', at };
    return text(resolve(dirname(this.#script.source.path), String(specifier.value)), at);
  }

  #url(node: Extract<Node, { type: 'NewExpression' }>): Setting {
    const [path, base] = node.arguments.map((argument) => this.read(argument));
    if (path?.is !== 'value' || base?.is !== 'value') return this.unknown(node);
    const written = String(path.value);
    // A slash at the end stays: it makes a folder of what it names.
    const end = written.endsWith('/') ? '/' : '';
    return text(`file://${resolve(dirname(this.#script.source.path), written)}${end}`, this.#at(node));
  }

  // A function of settings: what it returns, or what it hands to `config.set`.
  #returned(fn: FunctionNode, node: Node, args: readonly Setting[] = []): Setting {
    const outer = this.#names;
    const names = new Map(outer);
    this.#names = names;
    const unknown = this.unknown(node);
    for (const [i, param] of fn.params.entries())
      bindPattern(param, args[i] ?? unknown, this.#parts, ({ name }, value) => names.set(name, value));
    if (fn.body?.type === 'BlockStatement') {
      for (const statement of fn.body.body) {
        if (statement.type !== 'VariableDeclaration') continue;
        for (const { id, init } of statement.declarations)
          if (id.type === 'Identifier' && init && (statement.kind === 'const' || isSetOnce(id.name, fn.body)))
            names.set(id.name, init);
      }
    }
    const returns = returnedFrom(fn).map((each) => this.read(each));
    const [only] = returns;
    const found =
      only && returns.length > 1
        ? { is: 'either' as const, options: returns, at: this.#at(node) }
        : (this.#handedToSet(fn) ?? only ?? unknown);
    this.#names = outer;
    return found;
  }

  readonly #parts: Parts<Setting> = {
    member: (of, key, node) => settingAt(of, key) ?? { is: 'value', value: undefined, at: this.#at(node) },
    item: (_, __, node) => this.unknown(node),
    rest: (_, __, node) => this.unknown(node),
    fallback: (value, otherwise) =>
      value.is === 'value' && value.value === undefined ? this.read(otherwise) : value,
    unknown: (_, node) => this.unknown(node),
  };

  // `config.set({…})`, of what the function is given.
  #handedToSet(fn: FunctionNode): Setting | undefined {
    let found: Setting | undefined;
    const [given] = fn.params;
    if (fn.body && given?.type === 'Identifier') {
      walkTree(fn.body, (node) => {
        if (node.type !== 'CallExpression' || keysOf(given.name, node.callee).at(-1) !== 'set') return;
        const [first] = node.arguments;
        if (first?.type === 'ObjectExpression') found = this.read(first);
        if (first?.type === 'Identifier') found = this.#changed(this.read(first), first.name, fn.body);
      });
    }
    return found;
  }

  // `settings.browsers = […]`: what is set by the way, often under a condition, is unknown.
  #changed(setting: Setting, name: string, body: Node | null): Setting {
    if (setting.is !== 'object' || !body) return setting;
    const entries = new Map(setting.entries);
    walkTree(body, (node) => {
      if (node.type !== 'AssignmentExpression' || node.left.type !== 'MemberExpression') return;
      const [key] = keysOf(name, node.left);
      if (key !== undefined) entries.set(key, this.unknown(node));
    });
    return { ...setting, entries };
  }
}

// `module.exports = …`, and as compilers write a default: `exports.default = void 0`, and later `var _default = exports.default = …`.
function exportsIn(statement: Node): Node[] {
  const values =
    statement.type === 'VariableDeclaration'
      ? statement.declarations.flatMap(({ init }) => init ?? [])
      : statement.type === 'ExpressionStatement'
        ? [statement.expression]
        : [];
  return values.flatMap((value): Node[] => {
    if (value.type !== 'AssignmentExpression' || value.left.type !== 'MemberExpression') return [];
    const { left, right } = value;
    const isWhole = pathOf(left) === 'module.exports';
    const isNothing = right.type === 'UnaryExpression' || pathOf(right) === 'exports.default';
    return (isWhole || memberName(left) === 'default') && !isNothing ? [right] : [];
  });
}

// What is spread in: an object, or one of several as a condition decides, of which each key may be another's or not there.
function spreadOf(value: Setting): Extract<Setting, { is: 'object' }> | undefined {
  if (value.is === 'object') return value;
  if (value.is !== 'either') return undefined;
  const options = value.options.map(spreadOf);
  if (!options.every((each) => each !== undefined)) return undefined;
  const keys = options.flatMap(({ entries }) => [...entries.keys()]);
  const entries = new Map(keys.map((key) => [key, { is: 'unknown' as const, at: value.at }]));
  return { is: 'object', entries, open: options.some(({ open }) => open), at: value.at };
}

// `settings.client.args`: the keys read of a named object; none where another one is meant.
function keysOf(name: string, node: Node): string[] {
  const { root, path } = propertyChain(node);
  return root.type === 'Identifier' && root.name === name ? path : [];
}

function isSetOnce(name: string, body: Node): boolean {
  let isSet = false;
  walkTree(body, (node) => {
    isSet ||=
      node.type === 'AssignmentExpression' && node.left.type === 'Identifier' && node.left.name === name;
    return !isSet;
  });
  return !isSet;
}

// vitest 1 to 4, startVitest; jest 27 to 30, bin/jest.js: unless a script sets it.
const VARIABLES: readonly { files: RegExp; set: Readonly<Record<string, string>> }[] = [
  {
    files: /^vite(?:st)?\.(?:config|workspace|projects)\./,
    set: { VITEST: 'true', TEST: 'true', NODE_ENV: 'test' },
  },
  { files: /^jest\.config\.|^(?:babel\.config|\.babelrc)\./, set: { NODE_ENV: 'test' } },
];

const PATH_MODULES: ReadonlySet<string> = new Set(['path', 'path/posix', 'pathe', 'upath', 'url']);
const HANDS_BACK: ReadonlySet<string> = new Set(['vite', 'vitest/config', 'vite-plus', 'vitest/config.js']);
