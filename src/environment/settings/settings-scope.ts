import type { Node } from 'oxc-parser';
import type { Script } from '../../syntax/script.js';
import { moduleIn, propertyName } from '../../syntax/tree.js';
import { settingAt, type Setting } from './setting.js';

/** Reads another settings file that one imports: one of its exports; undefined where it can't be. */
export type ReadOther = (from: string, specifier: string, name: string) => Setting | undefined;

/** The names at the top of a settings file. */
interface SettingsScope {
  /** What stands for a name: a value that was read, or the node to read. */
  names: ReadonlyMap<string, Setting | Node>;
  /** Where imported and required names come from. */
  modules: ReadonlyMap<string, { module: string; name: string }>;
}

/** The constants, functions and imports of a settings file. */
export function settingsScope({ program, source }: Script, readOther: ReadOther): SettingsScope {
  const names = new Map<string, Setting | Node>();
  const modules = new Map<string, { module: string; name: string }>();
  for (const statement of program.body) {
    const node =
      statement.type === 'ExportNamedDeclaration' && statement.declaration
        ? statement.declaration
        : (statement as Node);
    if (node.type === 'FunctionDeclaration' && node.id) names.set(node.id.name, node);
    if (node.type === 'VariableDeclaration') {
      for (const { id, init } of node.declarations) {
        const module = init ? moduleIn(init) : undefined;
        const isFixed = node.kind === 'const' || module !== undefined;
        if (id.type === 'Identifier' && init && isFixed) names.set(id.name, init);
        if (module === undefined) continue;
        // Parts of a file of settings: `const { compilerOptions } = require('./tsconfig.json')`.
        const whole = id.type === 'ObjectPattern' ? readOther(source.path, module, 'default') : undefined;
        for (const [local, name] of namesOf(id)) {
          modules.set(local, { module, name });
          const part = settingAt(whole, name);
          if (part) names.set(local, part);
        }
      }
    }
    if (node.type !== 'ImportDeclaration') continue;
    const module = node.source.value;
    for (const each of node.specifiers) {
      const name = importedName(each);
      modules.set(each.local.name, { module, name });
      const other = name === '*' ? undefined : readOther(source.path, module, name);
      if (other) names.set(each.local.name, other);
    }
  }
  return { names, modules };
}

function importedName(each: Extract<Node, { type: 'ImportDeclaration' }>['specifiers'][number]): string {
  if (each.type === 'ImportNamespaceSpecifier') return '*';
  return each.type === 'ImportSpecifier' && each.imported.type === 'Identifier'
    ? each.imported.name
    : 'default';
}

// `const a = require(…)` and `const { a, b: c } = require(…)`: each local name, and the export's.
function namesOf(id: Node): [string, string][] {
  if (id.type === 'Identifier') return [[id.name, 'default']];
  if (id.type !== 'ObjectPattern') return [];
  return id.properties.flatMap((property): [string, string][] =>
    property.type === 'Property' && property.value.type === 'Identifier'
      ? [[property.value.name, propertyName(property.key, property.computed) ?? '']]
      : [],
  );
}
