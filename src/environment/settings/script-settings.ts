import type { Node } from 'oxc-parser';
import type { Place } from '../../finding.js';
import { parseScript, type Script } from '../../syntax/script.js';
import type { Problem, Source } from '../../syntax/source.js';
import {
  isFunction,
  literalText,
  memberName,
  propertyName,
  returnedFrom,
  unwrapped,
  walkTree,
  type FunctionNode,
} from '../../syntax/tree.js';
import { dirname, resolve } from '../../util/paths.js';
import type { Setting } from './setting.js';
import { exportedDefault, joinedText, merged, negated, opened, pathSetting, text } from './setting-values.js';
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

class Settings {
  readonly #script: Script;
  readonly #readOther: ReadOther;
  readonly #names: ReadonlyMap<string, Setting | Node>;
  readonly #modules: ReadonlyMap<string, { module: string; name: string }>;

  constructor(script: Script, readOther: ReadOther) {
    this.#script = script;
    this.#readOther = readOther;
    const { names, modules } = settingsScope(script, readOther);
    this.#names = names;
    this.#modules = modules;
  }

  exported(): Setting {
    for (const statement of this.#script.program.body) {
      if (statement.type === 'ExportDefaultDeclaration') return this.#value(statement.declaration, 0);
      if (statement.type === 'TSExportAssignment') return this.#value(statement.expression, 0);
      if (statement.type !== 'ExpressionStatement') continue;
      const { expression } = statement;
      if (expression.type !== 'AssignmentExpression' || expression.left.type !== 'MemberExpression') continue;
      const { left, right } = expression;
      const whole =
        left.object.type === 'Identifier' && left.object.name === 'module' && memberName(left) === 'exports';
      if (whole || memberName(left) === 'default') return this.#value(right, 0);
    }
    return { is: 'unknown', at: this.#at(this.#script.program as Node) };
  }

  /** An export by its name. */
  named(name: string): Setting {
    const at = this.#at(this.#script.program as Node);
    const exported = this.#script.program.body.some(
      (each) => each.type === 'ExportNamedDeclaration' && !each.source,
    );
    return exported ? this.#named(name, 0, this.#names, at) : { is: 'unknown', at };
  }

  #at(node: Node): Place {
    return { file: this.#script.source.path, start: node.start, end: node.end };
  }

  #value(node: Node, depth: number, locals: Names = this.#names): Setting {
    const inner = unwrapped(node);
    const at = this.#at(inner);
    if (depth > DEEPEST) return { is: 'unknown', at };
    const sub = (each: Node): Setting => this.#value(each, depth + 1, locals);
    switch (inner.type) {
      case 'Literal':
        if ('regex' in inner)
          return { is: 'pattern', source: inner.regex.pattern, flags: inner.regex.flags, at };
        return typeof inner.value === 'bigint'
          ? { is: 'unknown', at }
          : { is: 'value', value: inner.value as string, at };
      case 'TemplateLiteral':
        return joinedText(
          [
            ...inner.quasis.flatMap((quasi, i) => [
              text(quasi.value.cooked ?? '', at),
              ...(inner.expressions[i] ? [sub(inner.expressions[i])] : []),
            ]),
          ],
          at,
        );
      case 'BinaryExpression':
        return inner.operator === '+'
          ? joinedText([sub(inner.left), sub(inner.right)], at)
          : { is: 'unknown', at };
      case 'ObjectExpression':
        return this.#object(inner, depth, locals);
      case 'ArrayExpression':
        return this.#list(inner, depth, locals);
      case 'ConditionalExpression':
        return { is: 'either', options: [sub(inner.consequent), sub(inner.alternate)], at };
      case 'LogicalExpression':
        return { is: 'either', options: [sub(inner.left), sub(inner.right)], at };
      case 'UnaryExpression':
        return negated(inner.operator, sub(inner.argument), at);
      case 'Identifier':
        return this.#named(inner.name, depth, locals, at);
      case 'MemberExpression':
        return this.#member(inner, depth, locals, at);
      case 'CallExpression':
        return this.#call(inner, depth, locals, at);
      case 'NewExpression':
        return inner.callee.type === 'Identifier' && inner.callee.name === 'URL'
          ? this.#url(inner.arguments, depth, locals, at)
          : { is: 'unknown', at };
      case 'AwaitExpression':
        return sub(inner.argument);
      case 'ArrowFunctionExpression':
      case 'FunctionExpression':
      case 'FunctionDeclaration':
        return this.#returned(inner, depth, locals, at);
      default:
        return { is: 'unknown', at };
    }
  }

  #named(name: string, depth: number, locals: Names, at: Place): Setting {
    if (name === 'undefined') return { is: 'value', value: undefined, at };
    if (name === '__dirname') return text(dirname(this.#script.source.path), at);
    if (name === '__filename') return text(this.#script.source.path, at);
    const found = locals.get(name);
    if (!found) return exportedDefault(this.#modules.get(name), at);
    return 'is' in found ? found : this.#value(found, depth + 1, locals);
  }

  #member(
    node: Extract<Node, { type: 'MemberExpression' }>,
    depth: number,
    locals: Names,
    at: Place,
  ): Setting {
    const name = memberName(node);
    if (node.object.type === 'MetaProperty') {
      if (name === 'dirname') return text(dirname(this.#script.source.path), at);
      if (name === 'url') return text(`file://${this.#script.source.path}`, at);
    }
    const object = this.#value(node.object, depth + 1, locals);
    const url =
      object.is === 'value' && typeof object.value === 'string' && object.value.startsWith('file://');
    if (url && (name === 'pathname' || name === 'href'))
      return name === 'pathname' ? text(String(object.value).slice('file://'.length), at) : object;
    if (object.is !== 'object' || name === undefined) return { is: 'unknown', at };
    return (
      object.entries.get(name) ??
      (object.open ? { is: 'unknown', at } : { is: 'value', value: undefined, at })
    );
  }

  #object(node: Extract<Node, { type: 'ObjectExpression' }>, depth: number, locals: Names): Setting {
    const entries = new Map<string, Setting>();
    let open = false;
    for (const each of node.properties) {
      if (each.type === 'SpreadElement') {
        const spread = this.#value(each.argument, depth + 1, locals);
        if (spread.is === 'object') for (const [key, value] of spread.entries) entries.set(key, value);
        if (spread.is !== 'object' || spread.open) {
          // What an unreadable spread sets may win over all that stands before it.
          open = true;
          for (const [key, value] of entries) entries.set(key, { is: 'unknown', at: value.at });
        }
        continue;
      }
      const key = propertyName(each.key, each.computed);
      if (key === undefined) open = true;
      else entries.set(key, this.#value(each.value, depth + 1, locals));
    }
    return { is: 'object', entries, open, at: this.#at(node) };
  }

  #list(node: Extract<Node, { type: 'ArrayExpression' }>, depth: number, locals: Names): Setting {
    const items: Setting[] = [];
    let open = false;
    for (const each of node.elements) {
      if (!each) continue;
      const spread = each.type === 'SpreadElement';
      const value = this.#value(spread ? each.argument : each, depth + 1, locals);
      if (!spread) items.push(value);
      else if (value.is === 'list') {
        items.push(...value.items);
        open ||= value.open;
      } else open = true;
    }
    return { is: 'list', items, open, at: this.#at(node) };
  }

  // path.join, path.resolve, fileURLToPath, a merge of two settings, and helpers that hand on what they get.
  #call(node: Extract<Node, { type: 'CallExpression' }>, depth: number, locals: Names, at: Place): Setting {
    const callee = unwrapped(node.callee);
    const name = callee.type === 'Identifier' ? callee.name : (memberName(callee) ?? '');
    const args = node.arguments.map((each) => this.#value(each, depth + 1, locals));
    const owner = callee.type === 'MemberExpression' ? callee.object : undefined;
    // `require.resolve('x')` is where the package lies: as a setting, as good as its name.
    const resolves =
      owner?.type === 'MetaProperty' || (owner?.type === 'Identifier' && owner.name === 'require');
    if (name === 'resolve' && resolves) return this.#located(args[0], at);
    // `['a', 'b'].join('/')` is no path helper.
    const isPath = owner === undefined || owner.type === 'Identifier';
    const path = isPath ? pathSetting(name, args, dirname(this.#script.source.path), at) : undefined;
    if (path) return path;
    if (name === 'require') {
      const specifier = node.arguments[0] && literalText(node.arguments[0]);
      return (
        (specifier && this.#readOther(this.#script.source.path, specifier, 'default')) || {
          is: 'unknown',
          at,
        }
      );
    }
    if (/^merge/i.test(name) && args.length >= 2)
      return args.reduce((left, right) => merged(left, right, at));
    const local = callee.type === 'Identifier' ? locals.get(callee.name) : undefined;
    if (local && !('is' in local) && isFunction(local))
      return this.#returned(local, depth + 1, locals, at, args);
    const [first] = args;
    const by = callee.type === 'Identifier' ? this.#modules.get(callee.name)?.module : undefined;
    if (first?.is === 'list') return first;
    // `defineConfig({…})` of a bundler or runner gives back what it gets; others may add what can't be read.
    if (first?.is === 'object') return by && HANDS_BACK.has(by) ? first : { ...opened(first), by };
    return by && !by.startsWith('.') ? { is: 'made', by, at } : { is: 'unknown', at };
  }

  #located(specifier: Setting | undefined, at: Place): Setting {
    const isRelative = specifier?.is === 'value' && String(specifier.value).startsWith('.');
    if (!isRelative) return specifier ?? { is: 'unknown', at };
    return text(resolve(dirname(this.#script.source.path), String(specifier.value)), at);
  }

  #url(args: readonly Node[], depth: number, locals: Names, at: Place): Setting {
    const [path, base] = args.map((each) => this.#value(each, depth + 1, locals));
    if (path?.is !== 'value' || base?.is !== 'value') return { is: 'unknown', at };
    return text(`file://${resolve(dirname(this.#script.source.path), String(path.value))}`, at);
  }

  // A function of settings: what it returns, or what it hands to `config.set`.
  #returned(
    fn: FunctionNode,
    depth: number,
    locals: Names,
    at: Place,
    args: readonly Setting[] = [],
  ): Setting {
    const names = new Map(locals);
    for (const [i, param] of fn.params.entries())
      if (param.type === 'Identifier') names.set(param.name, args[i] ?? { is: 'unknown', at });
    if (fn.body?.type === 'BlockStatement') {
      for (const statement of fn.body.body) {
        if (statement.type !== 'VariableDeclaration' || statement.kind !== 'const') continue;
        for (const { id, init } of statement.declarations)
          if (id.type === 'Identifier' && init) names.set(id.name, init);
      }
    }
    const returns = returnedFrom(fn).map((each) => this.#value(each, depth + 1, names));
    const [only] = returns;
    if (only) return returns.length === 1 ? only : { is: 'either', options: returns, at };
    return this.#handedToSet(fn, depth, names) ?? { is: 'unknown', at };
  }

  #handedToSet(fn: FunctionNode, depth: number, names: Names): Setting | undefined {
    let found: Setting | undefined;
    if (fn.body) {
      walkTree(fn.body, (node) => {
        const [first] =
          node.type === 'CallExpression' && memberName(unwrapped(node.callee)) === 'set'
            ? node.arguments
            : [];
        if (first?.type === 'ObjectExpression') found = this.#value(first, depth + 1, names);
      });
    }
    return found;
  }
}

const HANDS_BACK: ReadonlySet<string> = new Set(['vite', 'vitest/config', 'vite-plus', 'vitest/config.js']);
