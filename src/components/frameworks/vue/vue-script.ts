import type { Node } from 'oxc-parser';
import {
  isFunction,
  literalText,
  memberName,
  propertyName,
  returnedFrom,
  unwrapped,
  walkTree,
} from '../../../syntax/tree.js';
import type { VueFile } from '../../../syntax/vue.js';
import type { ModuleFacts } from '../../../syntax/module-facts.js';
import type { Expr } from '../../expr.js';
import type { Span } from '../../../finding.js';
import { ANYTHING, kindOnly, unionOf, type Domain } from '../../domain.js';
import { exprOf } from '../../read-expr.js';
import { constructedDomain, domainOf, membersOf, type DeclaredTypes } from '../../prop-types.js';
import { inner, propsOf, type NameBinding, type ComponentScope } from '../../scope.js';
import type { ComponentRef } from '../../view.js';
import { withWhatComes, type Output } from '../../outputs.js';

/** Whether the options say `inheritAttrs: false`. */
export const inheritsNone = (options: OptionsObject): boolean =>
  namedEntries(options).some(
    ([key, value]) => key === 'inheritAttrs' && value.type === 'Literal' && value.value === false,
  );

/** The object handed to a macro of script setup: `defineOptions({ … })`, `defineExpose({ … })`. */
export const macroObjects = (file: VueFile, name: string): OptionsObject[] =>
  handedToMacro(file, name).flatMap((given) => (given.type === 'ObjectExpression' ? [given] : []));

// What is handed to a macro of script setup first, where that stands by itself or gives a name its value.
const handedToMacro = ({ scripts }: VueFile, name: string): Node[] =>
  scripts.flatMap(({ setup, script }) =>
    (setup ? (script.program.body as readonly Node[]) : []).flatMap((statement) => {
      const expressions =
        statement.type === 'ExpressionStatement'
          ? [statement.expression]
          : statement.type === 'VariableDeclaration'
            ? statement.declarations.map(({ init }) => init)
            : [];
      return expressions.flatMap((each) => {
        const call = each && unwrapped(each);
        const isMacro =
          call?.type === 'CallExpression' && call.callee.type === 'Identifier' && call.callee.name === name;
        return isMacro ? call.arguments.slice(0, 1) : [];
      });
    }),
  );

/** Where mixins or a base bring more, only what stands in the options itself is known to be the component's own. */
export function ownMembers(options: OptionsObject): Set<string> | undefined {
  const entries = namedEntries(options);
  if (!entries.some(([key]) => key === 'mixins' || key === 'extends')) return undefined;
  const names = entries.flatMap(([key, value]) => {
    const body = key === 'data' && isFunction(value) ? returnedFrom(value)[0] : value;
    const isMembers = key === 'data' || key === 'computed' || key === 'methods';
    const object = body && unwrapped(body);
    return isMembers && object?.type === 'ObjectExpression' ? namedEntries(object).map(([name]) => name) : [];
  });
  return new Set(names);
}

/** What a component lets others use, by its options or by `defineExpose`. */
export function exposedBy(file: VueFile, options: OptionsObject | undefined): Set<string> {
  const listed = options && namedEntries(options).find(([key]) => key === 'expose')?.[1];
  const names =
    listed?.type === 'ArrayExpression'
      ? listed.elements.map((element) => element && literalText(element))
      : [];
  const given = macroObjects(file, 'defineExpose').flatMap((each) =>
    namedEntries(each).map(([name]) => name),
  );
  return new Set([...names, ...given].filter((name) => typeof name === 'string'));
}

/** The events that a component declares to send, by its options or by `defineEmits`. */
export function emittedBy(file: VueFile, options: OptionsObject | undefined): Map<string, Output> {
  const listed = options ? namedEntries(options).find(([key]) => key === 'emits')?.[1] : undefined;
  const declared = [...(listed ? [listed] : []), ...handedToMacro(file, 'defineEmits')];
  const events = new Map<string, Span>();
  for (const each of declared.flatMap(eventNodes)) {
    const name = literalText(each) ?? (each.type === 'Identifier' ? each.name : undefined);
    if (name !== undefined) events.set(name, { start: each.start, end: each.end });
  }
  // What is sent need not be declared: `this.$emit('fired')`.
  if (options)
    walkTree(options, (node) => {
      const [first] = node.type === 'CallExpression' ? node.arguments : [];
      if (node.type !== 'CallExpression' || !first || memberName(unwrapped(node.callee)) !== '$emit') return;
      const name = literalText(first);
      if (name !== undefined && !events.has(name)) events.set(name, { start: first.start, end: first.end });
    });
  const programs = file.scripts.map(({ script }) => script.program);
  return withWhatComes(events, programs, (node) => {
    const callee = node.type === 'CallExpression' ? unwrapped(node.callee) : undefined;
    const by = callee?.type === 'Identifier' ? callee.name : callee && memberName(callee);
    if (node.type !== 'CallExpression' || (by !== '$emit' && by !== 'emit')) return undefined;
    const [first, ...args] = node.arguments;
    const event = first && literalText(first);
    return event === undefined ? undefined : { event, args };
  });
}

// `['fired']` and `{ fired: null }`: the nodes that name the events.
function eventNodes(list: Node): Node[] {
  const given = unwrapped(list);
  if (given.type === 'ArrayExpression') return given.elements.filter((each) => each !== null);
  if (given.type !== 'ObjectExpression') return [];
  return given.properties.flatMap((each) => (each.type === 'Property' && !each.computed ? [each.key] : []));
}

/** What a statement of script setup gives the template: props, computed values, constants. */
export function setupNames(
  statement: Node,
  outer: ComponentScope,
  names: Map<string, NameBinding>,
  declared: DeclaredProps,
): void {
  const declarations = statement.type === 'VariableDeclaration' ? statement.declarations : [];
  if (statement.type === 'ExpressionStatement') defineProps(statement.expression, outer, declared);
  for (const { id, init } of declarations) {
    if (!init) continue;
    if (defineProps(init, outer, declared)) {
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

/** The expression inside `computed(() => expression)`. */
export function computedValue(node: Node): Node | undefined {
  const call = unwrapped(node);
  if (call.type !== 'CallExpression' || call.callee.type !== 'Identifier' || call.callee.name !== 'computed')
    return undefined;
  const [fn] = call.arguments;
  const returns = fn && isFunction(fn) ? returnedFrom(fn) : [];
  return returns.length === 1 ? returns[0] : undefined;
}

function defineProps(node: Node, scope: ComponentScope, declared: DeclaredProps): boolean {
  const call = unwrapped(node);
  if (call.type !== 'CallExpression' || call.callee.type !== 'Identifier') return false;
  const [first, second] = call.arguments;
  if (call.callee.name === 'withDefaults' && first) {
    const found = defineProps(first, scope, declared);
    if (second?.type === 'ObjectExpression') {
      for (const [name, value] of namedEntries(second)) declared.props.set(name, exprOf(value, scope));
    }
    return found;
  }
  if (call.callee.name !== 'defineProps') return false;
  if (first) readProps(first, scope, declared);
  const type = call.typeArguments?.params[0];
  for (const [name, domain] of type ? membersOf(type, declared.types) : []) {
    declared.props.set(name, undefined);
    declared.domains.set(name, castFromAbsent(domain));
  }
  return true;
}

/** Whether an expression declares the props of a single-file component. */
export const definesProps = (node: Node): boolean =>
  defineProps(node, NO_NAMES, { props: new Map(), domains: new Map(), types: new Map() });

const NO_NAMES: ComponentScope = { text: '', lookup: () => undefined, ref: () => undefined };

function readProps(node: Node, scope: ComponentScope, { props, domains, types }: DeclaredProps): void {
  const given = unwrapped(node);
  if (given.type === 'ArrayExpression') {
    for (const each of given.elements) {
      const name = each && literalText(each);
      if (name) props.set(name, undefined);
    }
  }
  if (given.type !== 'ObjectExpression') return;
  for (const [name, value] of namedEntries(given)) {
    const fallback =
      value.type === 'ObjectExpression'
        ? namedEntries(value).find(([key]) => key === 'default')?.[1]
        : undefined;
    props.set(name, fallback && exprOf(fallback, scope));
    const domain = optionDomain(value, types);
    if (domain) domains.set(name, domain);
  }
}

/** The props of a component as its script declares them: names with defaults, and types. */
interface DeclaredProps {
  props: Map<string, Expr | undefined>;
  domains: Map<string, Domain>;
  types: DeclaredTypes;
}

// A boolean prop that is not given is false.
const castFromAbsent = (domain: Domain): Domain =>
  domain.values.includes(true) && domain.values.includes(false)
    ? { ...domain, kinds: domain.kinds.filter((kind) => kind !== 'undefined') }
    : domain;

// `Number`, `[Number, String]`, `{ type: String as PropType<Phase>, required: true }`
function optionDomain(option: Node, types: DeclaredTypes): Domain | undefined {
  const entries = new Map(option.type === 'ObjectExpression' ? namedEntries(option) : []);
  const type = option.type === 'ObjectExpression' ? entries.get('type') : option;
  const domain = type && typeDomain(type, types);
  if (!domain) return undefined;
  const required = entries.get('required');
  if (required?.type === 'Literal' && required.value === true) return domain;
  return castFromAbsent(unionOf([domain, kindOnly('undefined', 'null')]));
}

function typeDomain(node: Node, types: DeclaredTypes): Domain | undefined {
  if (node.type === 'TSAsExpression' && node.typeAnnotation.type === 'TSTypeReference') {
    const [given] = node.typeAnnotation.typeArguments?.params ?? [];
    return given && domainOf(given, types);
  }
  const type = unwrapped(node);
  if (type.type === 'Identifier') return constructedDomain(type.name);
  if (type.type !== 'ArrayExpression') return undefined;
  const all = type.elements.map((element) =>
    element?.type === 'Identifier' ? constructedDomain(element.name) : ANYTHING,
  );
  return unionOf(all);
}

/** An object of component options. */
export type OptionsObject = Extract<Node, { type: 'ObjectExpression' }>;

/** The entries of an object that have a name, in the order of the source. */
export const namedEntries = (node: OptionsObject): [string, Node][] =>
  node.properties.flatMap((property): [string, Node][] => {
    const name = property.type === 'Property' ? propertyName(property.key, property.computed) : undefined;
    return property.type === 'Property' && name !== undefined ? [[name, property.value]] : [];
  });

/** The object of options that a module gives out by default, bare or inside `defineComponent` or `extend`. */
export function componentOptions(facts: ModuleFacts): OptionsObject | undefined {
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
  scope: ComponentScope,
  declared: DeclaredProps,
  registered: Map<string, ComponentRef>,
): void {
  for (const [key, value] of namedEntries(options)) {
    if (key === 'props') readProps(value, scope, declared);
    if (key !== 'components' || value.type !== 'ObjectExpression') continue;
    for (const [name, component] of namedEntries(value)) {
      const ref = component.type === 'Identifier' ? scope.ref(component.name) : undefined;
      if (ref) registered.set(name, ref);
    }
  }
}
