import { memberName, propertyName, unwrapped, walkTree } from '../syntax/tree.js';
import { isMatcherExtension } from '../libraries/matchers.js';
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
  // Most modules add none: the text tells without a walk.
  if (!ADDERS.test(source.text)) return NO_MATCHERS;
  const names: string[] = [];
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
      // What a known package hands out is told by its being loaded.
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
