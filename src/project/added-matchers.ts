import type { Node } from 'oxc-parser';
import { memberName, propertyName, unwrapped, walkTree } from '../syntax/tree.js';
import { handedOut, isMatcherExtension } from '../libraries/matchers.js';
import type { ModuleFacts } from '../syntax/module-facts.js';
import type { Script } from '../syntax/script.js';

/** Matchers that a module registers by itself; `open`: also some whose names can't be read. */
export interface AddedMatchers {
  names: readonly string[];
  open: boolean;
}

/** A module that adds none. */
export const NO_MATCHERS: AddedMatchers = { names: [], open: false };
const ADDERS = /\.(?:extend|addMatchers|use)\s*\(/;

/** Reads `expect.extend({…})`, `jasmine.addMatchers({…})` and plugins of assertion libraries. */
export function addedMatchers({ source, program }: Script, { imports }: ModuleFacts): AddedMatchers {
  const handed = [...imports].flatMap(([local, { specifier, name }]) => {
    const extension = handedOut(specifier, name);
    return extension && isUsed(program, local) ? [...extension.matchers] : [];
  });
  // Most modules add none: the text tells without a walk.
  if (!ADDERS.test(source.text)) return handed.length > 0 ? { names: handed, open: false } : NO_MATCHERS;
  const names = handed;
  let open = false;
  for (const statement of program.body) {
    walkTree(statement, (node) => {
      if (node.type !== 'CallExpression' || node.callee.type !== 'MemberExpression') return;
      const name = memberName(node.callee);
      const owner = unwrapped(node.callee.object);
      const from = owner.type === 'Identifier' ? owner.name : '';
      const adds =
        (name === 'extend' && from === 'expect') ||
        name === 'addMatchers' ||
        (name === 'use' && from === 'chai');
      if (!adds) return;
      const [given] = node.arguments;
      // What a known package hands out, or does by being loaded, is known.
      const module = given?.type === 'Identifier' ? imports.get(given.name)?.specifier : undefined;
      if (module !== undefined && isMatcherExtension(module)) return;
      if (given?.type !== 'ObjectExpression') open = true;
      else
        for (const each of given.properties) {
          const key = each.type === 'Property' ? propertyName(each.key, each.computed) : undefined;
          if (key === undefined) open = true;
          else names.push(key);
        }
    });
  }
  return { names, open };
}

// Whether a name that is imported, or required, is spoken of again: what hands it on may be written in many ways.
function isUsed({ body }: Script['program'], local: string): boolean {
  let isFound = false;
  const visit = (node: Node): boolean => {
    isFound ||= node.type === 'Identifier' && node.name === local;
    // The name that a `require` gives is no use of it.
    if (node.type === 'VariableDeclarator' && node.init) walkTree(node.init, visit);
    return node.type !== 'VariableDeclarator';
  };
  for (const statement of body) if (statement.type !== 'ImportDeclaration') walkTree(statement, visit);
  return isFound;
}
