import type { Node } from 'oxc-parser';
import { isFunction, literalText, propertyName, returnedFrom, unwrapped } from '../../parse/tree.js';
import type { VueFile } from '../../parse/vue.js';
import type { ModuleFacts } from '../code/module-facts.js';
import type { Expr } from './expr.js';
import { exprOf } from './expressions.js';
import { inner, propsOf, type Bound, type Scope } from './scope.js';
import type { ComponentRef } from './view.js';

/** Whether the options say `inheritAttrs: false`. */
export const inheritsNone = (options: OptionsObject): boolean =>
  entriesOf(options).some(
    ([key, value]) => key === 'inheritAttrs' && value.type === 'Literal' && value.value === false,
  );

/** The object handed to a macro of script setup: `defineOptions({ … })`, `defineExpose({ … })`. */
export function macroObjects({ scripts }: VueFile, name: string): OptionsObject[] {
  return scripts.flatMap(({ setup, script }) =>
    setup
      ? (script.program.body as readonly Node[]).flatMap((statement) => {
          const call = statement.type === 'ExpressionStatement' ? unwrapped(statement.expression) : undefined;
          if (
            call?.type !== 'CallExpression' ||
            call.callee.type !== 'Identifier' ||
            call.callee.name !== name
          )
            return [];
          const [first] = call.arguments;
          return first?.type === 'ObjectExpression' ? [first] : [];
        })
      : [],
  );
}

/** Where mixins or a base bring more, only what stands in the options itself is known to be the component's own. */
export function ownMembers(options: OptionsObject): Set<string> | undefined {
  const entries = entriesOf(options);
  if (!entries.some(([key]) => key === 'mixins' || key === 'extends')) return undefined;
  const names = entries.flatMap(([key, value]) => {
    const body = key === 'data' && isFunction(value) ? returnedFrom(value)[0] : value;
    const isMembers = key === 'data' || key === 'computed' || key === 'methods';
    const object = body && unwrapped(body);
    return isMembers && object?.type === 'ObjectExpression' ? entriesOf(object).map(([name]) => name) : [];
  });
  return new Set(names);
}

/** What a component lets others use, by its options or by `defineExpose`. */
export function exposedBy(file: VueFile, options: OptionsObject | undefined): Set<string> {
  const listed = options && entriesOf(options).find(([key]) => key === 'expose')?.[1];
  const names =
    listed?.type === 'ArrayExpression' ? listed.elements.map((each) => each && literalText(each)) : [];
  const given = macroObjects(file, 'defineExpose').flatMap((each) => entriesOf(each).map(([name]) => name));
  return new Set([...names, ...given].filter((name) => typeof name === 'string'));
}

/** What a statement of script setup gives the template: props, computed values, constants. */
export function setupNames(
  statement: Node,
  outer: Scope,
  names: Map<string, Bound>,
  props: Map<string, Expr | undefined>,
): void {
  const declarations = statement.type === 'VariableDeclaration' ? statement.declarations : [];
  if (statement.type === 'ExpressionStatement') defineProps(statement.expression, outer, props);
  for (const { id, init } of declarations) {
    if (!init) continue;
    if (defineProps(init, outer, props)) {
      if (id.type === 'Identifier') names.set(id.name, { is: 'props' });
      else for (const [name, bound] of propsOf(id)) names.set(name, bound);
    } else if (id.type === 'Identifier') {
      const scope = inner(outer, names);
      const node =
        computedValue(init) ??
        (statement.type === 'VariableDeclaration' && statement.kind === 'const' && isPlain(init)
          ? init
          : undefined);
      names.set(id.name, node ? { is: 'node', node, scope } : { is: 'unknown' });
    }
  }
}

const isPlain = (node: Node): boolean =>
  ['Literal', 'TemplateLiteral', 'ObjectExpression', 'ArrayExpression'].includes(unwrapped(node).type);

// computed(() => expression)
function computedValue(node: Node): Node | undefined {
  const call = unwrapped(node);
  if (call.type !== 'CallExpression' || call.callee.type !== 'Identifier' || call.callee.name !== 'computed')
    return undefined;
  const [fn] = call.arguments;
  const returns = fn && isFunction(fn) ? returnedFrom(fn) : [];
  return returns.length === 1 ? returns[0] : undefined;
}

function defineProps(node: Node, scope: Scope, props: Map<string, Expr | undefined>): boolean {
  const call = unwrapped(node);
  if (call.type !== 'CallExpression' || call.callee.type !== 'Identifier') return false;
  const [first, second] = call.arguments;
  if (call.callee.name === 'withDefaults' && first) {
    const found = defineProps(first, scope, props);
    if (second?.type === 'ObjectExpression') {
      for (const [name, value] of entriesOf(second)) props.set(name, exprOf(value, scope));
    }
    return found;
  }
  if (call.callee.name !== 'defineProps') return false;
  if (first) readProps(first, scope, props);
  const type = call.typeArguments?.params[0];
  if (type?.type === 'TSTypeLiteral') {
    for (const member of type.members) {
      const name =
        member.type === 'TSPropertySignature' ? propertyName(member.key, member.computed) : undefined;
      if (name) props.set(name, undefined);
    }
  }
  return true;
}

function readProps(node: Node, scope: Scope, props: Map<string, Expr | undefined>): void {
  const given = unwrapped(node);
  if (given.type === 'ArrayExpression') {
    for (const each of given.elements) {
      const name = each && literalText(each);
      if (name) props.set(name, undefined);
    }
  }
  if (given.type !== 'ObjectExpression') return;
  for (const [name, value] of entriesOf(given)) {
    const fallback =
      value.type === 'ObjectExpression'
        ? entriesOf(value).find(([key]) => key === 'default')?.[1]
        : undefined;
    props.set(name, fallback && exprOf(fallback, scope));
  }
}

/** An object of component options. */
export type OptionsObject = Extract<Node, { type: 'ObjectExpression' }>;

const entriesOf = (node: OptionsObject): [string, Node][] =>
  node.properties.flatMap((each): [string, Node][] => {
    const name = each.type === 'Property' ? propertyName(each.key, each.computed) : undefined;
    return each.type === 'Property' && name !== undefined ? [[name, each.value]] : [];
  });

/** The object of options that a module gives out by default, bare or inside `defineComponent` or `extend`. */
export function optionsOf(facts: ModuleFacts): OptionsObject | undefined {
  const found = facts.exports.get('default');
  const node =
    found &&
    ('node' in found ? found.node : 'local' in found ? facts.declarations.get(found.local) : undefined);
  return node && optionsIn(node);
}

/** The object of options that an expression is, or hands to `defineComponent` or `extend`. */
export function optionsIn(node: Node): OptionsObject | undefined {
  const value = unwrapped(node.type === 'VariableDeclarator' && node.init ? node.init : node);
  if (value.type === 'ObjectExpression') return value;
  const [first] = value.type === 'CallExpression' ? value.arguments : [];
  return first?.type === 'ObjectExpression' ? first : undefined;
}

/** Adds the props and the registered components that the options declare. */
export function readOptions(
  options: OptionsObject,
  scope: Scope,
  props: Map<string, Expr | undefined>,
  registered: Map<string, ComponentRef>,
): void {
  for (const [key, value] of entriesOf(options)) {
    if (key === 'props') readProps(value, scope, props);
    if (key !== 'components' || value.type !== 'ObjectExpression') continue;
    for (const [name, component] of entriesOf(value)) {
      const ref = component.type === 'Identifier' ? scope.ref(component.name) : undefined;
      if (ref) registered.set(name, ref);
    }
  }
}
