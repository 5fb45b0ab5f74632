import type { Node, Program } from 'oxc-parser';
import {
  isFunction,
  literalText,
  memberName,
  pathOf,
  requiredModule,
  requiredNode,
  unwrapped,
  walkTree,
} from './tree.js';

/** Where an imported name comes from. `name` is `default`, `*` for the whole module, or the export's name. */
export interface Import {
  specifier: string;
  name: string;
  typeOnly: boolean;
  /** The local name, in UTF-16 offsets. */
  start: number;
  end: number;
}

/** A module by the name that it is imported by; the place is that of the quoted name. */
export interface ImportedModule {
  specifier: string;
  start: number;
  end: number;
  /** It is asked for by `require`. */
  required?: true;
}

/** What an exported name stands for: a declaration of this module, or an export of another. */
type Export = { local: string } | { node: Node } | { specifier: string; name: string };

/** The names that a module declares, takes in and gives out. */
export interface ModuleFacts {
  imports: ReadonlyMap<string, Import>;
  exports: ReadonlyMap<string, Export>;
  /** Modules that are loaded for what they do, with no name taken from them. */
  loads: readonly string[];
  /** Every module that is imported, handed on or required for more than its types. */
  modules: readonly ImportedModule[];
  /** Modules whose exports are all handed on. */
  stars: readonly string[];
  /** Top-level declarations by name: declarators, functions, classes. */
  declarations: ReadonlyMap<string, Node>;
}

/** What a name of a module is declared as at its top level; of `default` and others without a name, what is exported. */
export function declarationOf({ declarations, exports }: ModuleFacts, name: string): Node | undefined {
  const exported = exports.get(name);
  return declarations.get(name) ?? (exported && 'node' in exported ? exported.node : undefined);
}

/** Reads imports, exports and top-level declarations, of ECMAScript modules and of plain CommonJS ones. */
export function moduleFacts(program: Program): ModuleFacts {
  const imports = new Map<string, Import>();
  const exports = new Map<string, Export>();
  const declarations = new Map<string, Node>();
  const stars: string[] = [];
  const loads: string[] = [];
  const asked = new Map<string, Import>();
  for (const statement of program.body) {
    switch (statement.type) {
      case 'ImportDeclaration':
        if (statement.specifiers.length === 0) loads.push(statement.source.value);
        for (const each of statement.specifiers) {
          const name =
            each.type === 'ImportSpecifier'
              ? nameOf(each.imported)
              : each.type === 'ImportDefaultSpecifier'
                ? 'default'
                : '*';
          const typeOnly =
            statement.importKind === 'type' || ('importKind' in each && each.importKind === 'type');
          const { start, end } = each.local;
          imports.set(each.local.name, { specifier: statement.source.value, name, typeOnly, start, end });
        }
        break;
      case 'ExportAllDeclaration':
        if (statement.exported)
          exports.set(nameOf(statement.exported), { specifier: statement.source.value, name: '*' });
        else stars.push(statement.source.value);
        break;
      case 'ExportDefaultDeclaration':
        exportDefault(statement.declaration, exports, declarations);
        break;
      case 'ExportNamedDeclaration':
        if (statement.declaration) {
          for (const name of declare(statement.declaration, declarations)) exports.set(name, { local: name });
        }
        for (const each of statement.specifiers) {
          const local = nameOf(each.local);
          exports.set(
            nameOf(each.exported),
            statement.source ? { specifier: statement.source.value, name: local } : { local },
          );
        }
        break;
      case 'ExpressionStatement':
        commonJs(statement.expression, exports);
        break;
      default:
        declare(statement, declarations);
        requires(statement, asked);
    }
  }
  // What a module declares as well, it imports as a type, and means its own by that name.
  for (const name of declarations.keys()) imports.delete(name);
  for (const [name, each] of asked) imports.set(name, each);
  return {
    imports,
    exports: handedOn(exports, imports, declarations),
    loads,
    modules: program.body.flatMap(modulesIn),
    stars,
    declarations,
  };
}

// `import`, `export … from` and `require`, at the top level.
function modulesIn(statement: Node): ImportedModule[] {
  const from = (source: Node | null | undefined): ImportedModule[] => {
    const specifier = source && literalText(source);
    return source && specifier !== undefined && specifier !== null
      ? [{ specifier, start: source.start, end: source.end }]
      : [];
  };
  switch (statement.type) {
    case 'ImportDeclaration': {
      const onlyTypes = statement.specifiers.length > 0 && statement.specifiers.every(isTypeOnly);
      return statement.importKind === 'type' || onlyTypes ? [] : from(statement.source);
    }
    case 'ExportAllDeclaration':
    case 'ExportNamedDeclaration':
      return statement.exportKind === 'type' ? [] : from(statement.source);
    case 'ExpressionStatement':
    case 'VariableDeclaration':
      return requiredIn(statement)
        .flatMap(from)
        .map((each) => ({ ...each, required: true }));
    default:
      return [];
  }
}

// `require` wherever it is called as the statement runs: `hook(require('x'))` and `require('x')({…})` too.
function requiredIn(statement: Node): Node[] {
  const found: Node[] = [];
  walkTree(statement, (node) => {
    if (isFunction(node)) return false;
    const module = requiredNode(node);
    if (module) found.push(module);
    return true;
  });
  return found;
}

const isTypeOnly = (each: Node): boolean => 'importKind' in each && each.importKind === 'type';

const nameOf = (node: Node): string =>
  'name' in node && typeof node.name === 'string' ? node.name : (literalText(node) ?? '');

function exportDefault(node: Node, exports: Map<string, Export>, declarations: Map<string, Node>): void {
  const [name] = declare(node, declarations);
  const inner = unwrapped(node);
  if (name) exports.set('default', { local: name });
  else exports.set('default', plainName(inner) ?? { node });
}

// A name, also one that is only given more members: `Object.assign(Lid, { Handle })`.
function plainName(node: Node): { local: string } | undefined {
  if (node.type === 'Identifier') return { local: node.name };
  if (node.type !== 'CallExpression' || pathOf(node.callee) !== 'Object.assign') return undefined;
  const [first] = node.arguments;
  return first?.type === 'Identifier' ? { local: first.name } : undefined;
}

function declare(node: Node, declarations: Map<string, Node>): string[] {
  const names: string[] = [];
  const add = (name: string, at: Node): void => {
    declarations.set(name, at);
    names.push(name);
  };
  if (node.type === 'VariableDeclaration') {
    for (const each of node.declarations) for (const name of namesIn(each.id)) add(name, each);
  } else if ((node.type === 'FunctionDeclaration' || node.type === 'ClassDeclaration') && node.id) {
    add(node.id.name, node);
  } else if (node.type === 'TSEnumDeclaration') add(node.id.name, node);
  else if (node.type === 'TSModuleDeclaration' && node.id.type === 'Identifier') {
    // It may only add to what goes by the same name.
    add(node.id.name, declarations.get(node.id.name) ?? node);
  } else if (node.type === 'TSImportEqualsDeclaration') add(node.id.name, node);
  return names;
}

/** The names that a pattern of a declaration or parameter binds. */
export function namesIn(pattern: Node): string[] {
  switch (pattern.type) {
    case 'Identifier':
      return [pattern.name];
    case 'ObjectPattern':
      return pattern.properties.flatMap((property) =>
        namesIn(property.type === 'RestElement' ? property.argument : property.value),
      );
    case 'ArrayPattern':
      return pattern.elements.flatMap((element) => (element ? namesIn(element) : []));
    case 'AssignmentPattern':
      return namesIn(pattern.left);
    case 'RestElement':
      return namesIn(pattern.argument);
    case 'TSParameterProperty':
      return namesIn(pattern.parameter);
    default:
      return [];
  }
}

function commonJs(node: Node, exports: Map<string, Export>): void {
  if (node.type !== 'AssignmentExpression') return;
  const { left, right } = node;
  if (left.type !== 'MemberExpression') return;
  const name = memberName(left) ?? '';
  const whole = left.object.type === 'Identifier' && left.object.name === 'module' && name === 'exports';
  const part =
    left.object.type === 'Identifier'
      ? left.object.name === 'exports'
      : memberName(left.object) === 'exports';
  if (whole) exports.set('default', right.type === 'Identifier' ? { local: right.name } : { node: right });
  else if (part) exports.set(name, right.type === 'Identifier' ? { local: right.name } : { node: right });
}

// `const x = require('y')` and `const { a } = require('y')` are imports by another name.
function requires(statement: Node, imports: Map<string, Import>): void {
  if (statement.type !== 'VariableDeclaration') return;
  for (const { id, init } of statement.declarations) {
    const specifier = init && requiredModule(init);
    if (!specifier) continue;
    if (id.type === 'Identifier')
      imports.set(id.name, { specifier, name: 'default', typeOnly: false, start: id.start, end: id.end });
    if (id.type !== 'ObjectPattern') continue;
    for (const each of id.properties) {
      if (each.type === 'Property' && each.value.type === 'Identifier' && each.key.type === 'Identifier') {
        const { name, start, end } = each.value;
        imports.set(name, { specifier, name: each.key.name, typeOnly: false, start, end });
      }
    }
  }
}

// A name that is imported and then exported is an export of the other module, and one that only stands for another is that.
function handedOn(
  exports: Map<string, Export>,
  imports: ReadonlyMap<string, Import>,
  declarations: ReadonlyMap<string, Node>,
): Map<string, Export> {
  for (const [name, found] of exports) {
    if (!('local' in found)) continue;
    const local = standsFor(found.local, imports, declarations);
    const from = imports.get(local);
    if (from) exports.set(name, { specifier: from.specifier, name: from.name });
    else if (local !== found.local) exports.set(name, { local });
  }
  return exports;
}

// `var Lid_default = Lid;`
function standsFor(
  name: string,
  imports: ReadonlyMap<string, Import>,
  declarations: ReadonlyMap<string, Node>,
): string {
  const node = declarations.get(name);
  const init = node?.type === 'VariableDeclarator' && node.id.type === 'Identifier' ? node.init : undefined;
  const isKnown = init?.type === 'Identifier' && (imports.has(init.name) || declarations.has(init.name));
  return isKnown && init.name !== name ? init.name : name;
}
