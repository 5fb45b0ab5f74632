import type { Node, Program } from 'oxc-parser';
import {
  hasNode,
  isFunction,
  literalText,
  memberName,
  pathOf,
  propertyName,
  moduleIn,
  unwrapped,
  walkTree,
} from './tree.js';

/** What a CommonJS module gives by name, and the modules that it hands on whole, as they are written. */
interface CommonExports {
  names: ReadonlySet<string>;
  stars: readonly string[];
}

/**
 * Reads what a CommonJS module sets on `exports`, in the forms of hand-written modules, of Babel, TypeScript, swc and
 * esbuild; undefined where `exports` is used in any other way, so that it may give more.
 */
export function commonExports({ body }: Program): CommonExports | undefined {
  const reading = new Reading();
  for (const statement of body) reading.declare(statement);
  for (const statement of body) reading.read(statement);
  return reading.isOpen ? undefined : reading;
}

class Reading implements CommonExports {
  readonly names = new Set<string>();
  readonly stars: string[] = [];
  isOpen = false;
  /** The modules that names of the top level stand for: `_pure` is `require('./pure')`. */
  readonly #modules = new Map<string, string>();

  declare(statement: Node): void {
    if (statement.type !== 'VariableDeclaration') return;
    for (const { id, init } of statement.declarations) {
      const module = init && moduleIn(init);
      if (id.type === 'Identifier' && module) this.#modules.set(id.name, module);
    }
  }

  read(node: Node): void {
    walkTree(node, (each) => this.#visit(each));
  }

  // Whether to look further inside.
  #visit(node: Node): boolean {
    if (node.type === 'Identifier' && (node.name === 'exports' || node.name === 'module')) this.isOpen = true;
    if (node.type === 'AssignmentExpression') return this.#assigned(node.left, node.right);
    if (node.type === 'CallExpression') return this.#called(node);
    // What is only asked about: `typeof exports`, `module && module[name]`, `exports.lid`.
    if (node.type === 'UnaryExpression') return node.operator !== 'typeof';
    if (node.type === 'LogicalExpression' && pathOf(node.left) === 'module') {
      this.read(node.right);
      return false;
    }
    if (node.type === 'MemberExpression' && pathOf(node.object) === 'module' && !isExports(node)) {
      if (node.computed) this.read(node.property);
      return false;
    }
    if (node.type === 'MemberExpression' && !node.computed) {
      if (!isOfExports(node)) this.read(node.object);
      return false;
    }
    if (isOfExports(node)) return false;
    // What a name is called elsewhere: a key, a parameter of a wrapper.
    if (node.type === 'Property' && !node.computed && !node.shorthand) {
      this.read(node.value);
      return false;
    }
    return !(
      isFunction(node) && node.params.some((each) => 'name' in each && /^(?:exports|module)$/.test(each.name))
    );
  }

  #assigned(left: Node, right: Node): boolean {
    if (left.type !== 'MemberExpression') return true;
    if (pathOf(left) === 'module.exports') {
      this.#whole(unwrapped(right));
      return false;
    }
    if (!isOfExports(left)) return true;
    this.#add(memberName(left));
    this.read(right);
    return false;
  }

  // `module.exports = …`
  #whole(node: Node): void {
    const module = moduleIn(node);
    if (module) this.stars.push(module);
    else if (node.type === 'Identifier' && this.#modules.has(node.name))
      this.stars.push(this.#modules.get(node.name) ?? '');
    else if (node.type !== 'ObjectExpression') this.isOpen = !isToCommon(node) || this.isOpen;
    else
      for (const each of node.properties) {
        if (each.type === 'SpreadElement') this.#whole(unwrapped(each.argument));
        else this.#add(propertyName(each.key, each.computed));
      }
  }

  #called({ callee, arguments: args }: Extract<Node, { type: 'CallExpression' }>): boolean {
    const path = pathOf(callee) ?? '';
    const [first, second] = args;
    if (path === 'Object.defineProperty' && first && isExports(first)) {
      // `Symbol.toStringTag` is no name that anybody imports.
      if (!second || !/^Symbol\./.test(pathOf(second) ?? ''))
        this.#add(second && (literalText(second) ?? undefined));
      return false;
    }
    // `__exportStar(require('./lid'), exports)` and `__export(require('./lid'))` of TypeScript, `_export_star` of swc.
    if (/(?:^|\.)_{1,2}export_?star$|^__export$/i.test(path) && first && args.length < 3) {
      const module = this.#moduleOf(first);
      if (module) this.stars.push(module);
      else if (second?.type === 'ObjectExpression') this.#whole(second);
      else this.isOpen = true;
      return false;
    }
    // `_export(exports, { lid: function () {…} })` of swc.
    if (path === '_export' && first && isExports(first) && second?.type === 'ObjectExpression') {
      this.#whole(second);
      return false;
    }
    // `Object.keys(_lid).forEach(function (key) {…})` of Babel, where each key is set.
    const keys =
      callee.type === 'MemberExpression' && memberName(callee) === 'forEach'
        ? unwrapped(callee.object)
        : undefined;
    if (keys?.type === 'CallExpression' && pathOf(keys.callee) === 'Object.keys' && mentionsExports(args)) {
      const module = keys.arguments[0] && this.#moduleOf(keys.arguments[0]);
      if (module) this.stars.push(module);
      else this.isOpen = true;
      return false;
    }
    return true;
  }

  #moduleOf(node: Node): string | undefined {
    return moduleIn(node) ?? (node.type === 'Identifier' ? this.#modules.get(node.name) : undefined);
  }

  #add(name: string | undefined): void {
    if (name === undefined) this.isOpen = true;
    else this.names.add(name);
  }
}

// esbuild's `module.exports = __toCommonJS(lid_exports)`: what it gives is listed beside it.
const isToCommon = (node: Node): boolean =>
  node.type === 'CallExpression' && pathOf(node.callee) === '__toCommonJS';

const isExports = (node: Node): boolean =>
  (node.type === 'Identifier' && node.name === 'exports') || pathOf(node) === 'module.exports';

const isOfExports = (node: Node): boolean =>
  node.type === 'MemberExpression' && isExports(node.object) && memberName(node) !== undefined;

const mentionsExports = (nodes: readonly Node[]): boolean => nodes.some((node) => hasNode(node, isExports));
