import type { Node } from 'oxc-parser';
import { memberName, propertyName, unwrapped, walkTree, type FunctionNode } from '../syntax/tree.js';

/** Names of keys (UI Events, `KeyboardEvent.key`) by what templates and specs call them: words, older names, `keyCode`. */
const KEYS: Readonly<Record<string, string>> = {
  enter: 'Enter',
  esc: 'Escape',
  escape: 'Escape',
  tab: 'Tab',
  space: ' ',
  spacebar: ' ',
  up: 'ArrowUp',
  down: 'ArrowDown',
  left: 'ArrowLeft',
  right: 'ArrowRight',
  arrowup: 'ArrowUp',
  arrowdown: 'ArrowDown',
  arrowleft: 'ArrowLeft',
  arrowright: 'ArrowRight',
  del: 'Delete',
  delete: 'Delete',
  backspace: 'Backspace',
  home: 'Home',
  end: 'End',
  pageup: 'PageUp',
  pagedown: 'PageDown',
  '8': 'Backspace',
  '9': 'Tab',
  '13': 'Enter',
  '27': 'Escape',
  '32': ' ',
  '37': 'ArrowLeft',
  '38': 'ArrowUp',
  '39': 'ArrowRight',
  '40': 'ArrowDown',
  '46': 'Delete',
};

/** The keys that the words behind an event name, as `enter` in `@keydown.enter`; other words are left out. */
export const keysNamed = (words: readonly string[]): string[] =>
  words.flatMap((word) => KEYS[word.toLowerCase().replace(/-/g, '')] ?? []);

/** The keys that a handler of an event tells apart by its `key`; `textOf` gives what an expression is, where that is a text. */
export function keysIn(fn: FunctionNode, textOf: (node: Node) => string | undefined): string[] {
  const [param] = fn.params;
  const isKey = keyOf(param);
  const found = new Set<string>();
  const add = (node: Node | null): void => {
    const text = node && textOf(node);
    if (text) found.add(text);
  };
  if (fn.body && isKey)
    walkTree(fn.body, (node) => {
      if (node.type === 'BinaryExpression' && /^[!=]==?$/.test(node.operator)) {
        if (isKey(node.left)) add(node.right);
        if (isKey(node.right)) add(node.left);
      } else if (node.type === 'SwitchStatement' && isKey(node.discriminant))
        for (const { test } of node.cases) add(test);
      else if (node.type === 'CallExpression' && memberName(unwrapped(node.callee)) === 'includes')
        addListed(node, isKey, add);
      return undefined;
    });
  return [...found];
}

// `[' ', 'Enter'].includes(event.key)`
function addListed(
  { callee, arguments: [asked] }: Extract<Node, { type: 'CallExpression' }>,
  isKey: (node: Node) => boolean,
  add: (node: Node | null) => void,
): void {
  const list = callee.type === 'MemberExpression' ? unwrapped(callee.object) : undefined;
  if (asked && isKey(asked) && list?.type === 'ArrayExpression') for (const each of list.elements) add(each);
}

// `event.key`, of the event that the handler takes, or `key` itself, where it is taken from that.
function keyOf(param: Node | undefined): ((node: Node) => boolean) | undefined {
  if (param?.type === 'Identifier')
    return (node) => {
      const inner = unwrapped(node);
      return (
        inner.type === 'MemberExpression' &&
        memberName(inner) === 'key' &&
        inner.object.type === 'Identifier' &&
        inner.object.name === param.name
      );
    };
  if (param?.type !== 'ObjectPattern') return undefined;
  const taken = param.properties.find(
    (each) => each.type === 'Property' && propertyName(each.key, each.computed) === 'key',
  );
  const local =
    taken?.type === 'Property' && taken.value.type === 'Identifier' ? taken.value.name : undefined;
  return (node) => {
    const inner = unwrapped(node);
    return inner.type === 'Identifier' && inner.name === local;
  };
}
