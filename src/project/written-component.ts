import type { Node } from 'oxc-parser';
import { reactComponent } from '../components/frameworks/react/react.js';
import { declaresVue, vueOptionComponent } from '../components/frameworks/vue/vue-options.js';
import type { Component } from '../components/view.js';
import type { ModuleFacts } from '../syntax/module-facts.js';
import type { Script } from '../syntax/script.js';
import { childrenOf, isFunction, unwrapped } from '../syntax/tree.js';

const UNNAMED = 'a component of the spec';

/**
 * The component that a module makes for itself, inside a function or a call: the function, class or object of options
 * that starts at an offset. Undefined where that shows nothing.
 */
export function writtenComponent(script: Script, facts: ModuleFacts, at: number): Component | undefined {
  let name: string | undefined;
  let node: Node | undefined = script.program;
  while (node && !(node.start === at && isDeclaration(node))) {
    if (node.type === 'VariableDeclarator') name = node.id.type === 'Identifier' ? node.id.name : undefined;
    else if (isFunction(node)) name = undefined;
    node = childrenOf(node).find(({ start, end }) => start <= at && at < end);
  }
  if (!node) return undefined;
  const own = 'id' in node && node.id?.type === 'Identifier' ? node.id.name : undefined;
  const title = own ?? name ?? UNNAMED;
  if (node.type !== 'ObjectExpression') return reactComponent(title, node, script, facts);
  return declaresVue(node, node) ? vueOptionComponent(title, node, node, script, facts) : undefined;
}

const isDeclaration = (node: Node): boolean =>
  node.type === 'ObjectExpression' ||
  node.type === 'ClassDeclaration' ||
  node.type === 'ClassExpression' ||
  isFunction(unwrapped(node));
