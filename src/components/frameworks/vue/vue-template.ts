import { bindPattern } from '../../../language/patterns.js';
import { keysNamed } from '../../keys.js';
import { isFunction, namesCalledIn } from '../../../syntax/tree.js';
import { parseSync, type Node } from 'oxc-parser';
import type { VueTemplate } from '../../../syntax/vue.js';
import { kebabCase } from '../../../util/case.js';
import { classesIn, classesOf, joinedClasses } from '../../classes.js';
import { constant, ITEM, not, UNKNOWN, UNSURE, type Expr, type Condition } from '../../expr.js';
import { shown, shownAttribute } from '../../expr-text.js';
import { exprOf, conditionOf } from '../../read-expr.js';
import { componentNode, elementNode, nothingGiven, openTag, type TagContents } from '../../given.js';
import { partsIn, type NameBinding, type ComponentScope } from '../../scope.js';
import { NO_CLASSES, type ComponentRef, type ViewNode } from '../../view.js';
import { type Span } from '../../../finding.js';

type TemplateNode = VueTemplate['children'][number];
type TemplateElement = Extract<TemplateNode, { tag: string }>;
type Directive = Extract<TemplateElement['props'][number], { exp?: unknown }>;

const TRANSPARENT = new Set([
  'template',
  'transition',
  'transition-group',
  'keep-alive',
  'teleport',
  'suspense',
]);

/** The names that a template may use, and the components that it knows by tag. */
export interface TemplateScope extends ComponentScope {
  props: Map<string, Expr | undefined>;
  registered: Map<string, ComponentRef>;
}

/** What template nodes show, side by side: `v-if` chains become arms. Places are offsets of the whole file. */
export function viewOfChildren(children: readonly TemplateNode[], scope: TemplateScope): ViewNode[] {
  const found: ViewNode[] = [];
  let before: { text: string; test: Condition }[] = [];
  let chain = 0;
  for (const child of children) {
    if (child.type !== 1) {
      found.push(...leafView(child, scope));
      continue;
    }
    const element = child as TemplateElement;
    const guard = directive(element, 'if') ?? directive(element, 'else-if') ?? directive(element, 'else');
    if (!guard || guard.name === 'if') {
      before = [];
      chain = element.loc.start.offset;
    }
    const text = guard?.exp ? sourceOf(guard) : '';
    const own = text ? { text, test: conditionIn(text, scope) } : undefined;
    const condition = [...before.map((each) => `not (${each.text})`), ...(text ? [text] : [])].join(' and ');
    const test: Condition = {
      is: 'all',
      of: [...before.map((each) => not(each.test)), ...(own ? [own.test] : [])],
    };
    const name = before.length === 0 ? 'then' : text ? `else if ${text}` : 'else';
    const arm = { of: chain, arm: before.length, name };
    if (own) before.push(own);
    const children = repeated(element, scope);
    found.push(
      ...(guard
        ? [{ kind: 'branch' as const, condition, test, arm, children, place: span(element) }]
        : children),
    );
  }
  return found;
}

const VUE = { framework: 'vue' } as const;

const span = (node: { loc: { start: { offset: number }; end: { offset: number } } }): Span => ({
  start: node.loc.start.offset,
  end: node.loc.end.offset,
});

function leafView(node: TemplateNode, scope: TemplateScope): ViewNode[] {
  const place = span(node);
  if (node.type === 2)
    return [{ kind: 'text', text: constant((node as { content: string }).content), place }];
  if (node.type !== 5) return [];
  const text = expressionOf((node as { content: { content?: string } }).content.content ?? '', scope);
  return [
    text.is === 'prop'
      ? { kind: 'slot', name: text.name, fallback: [], place }
      : { kind: 'text', text: shown(text, VUE), place },
  ];
}

function repeated(element: TemplateElement, scope: TemplateScope): ViewNode[] {
  const loop = directive(element, 'for');
  if (!loop) return elementView(element, scope);
  const { source, value, key, index } = (loop as { forParseResult?: ForParts }).forParseResult ?? {};
  const item = `${ITEM}${element.loc.start.offset}`;
  // The names of the loop hide props of the same name.
  const names = new Map<string, NameBinding>();
  const bind = (text: string | undefined, whole: NameBinding): void => {
    for (const [name, bound] of namesOf(text, whole, scope)) names.set(name, bound);
  };
  bind(key?.content, { is: 'unknown' });
  bind(index?.content, { is: 'unknown' });
  bind(value?.content, { is: 'prop', name: item });
  const over = source?.content ? expressionOf(source.content, scope) : undefined;
  return [
    {
      kind: 'repeat',
      over,
      item,
      children: elementView(element, hiding(scope, names)),
      place: span(element),
    },
  ];
}

/** The parts of `(value, key, index) in source`, as Vue's parser has them. */
type ForParts = Partial<Record<'source' | 'value' | 'key' | 'index', { content?: string }>>;

// The names of a pattern as it is written in a template, each with its part of what it takes apart.
function namesOf(
  text: string | undefined,
  whole: NameBinding,
  scope: TemplateScope,
): Map<string, NameBinding> {
  const names = new Map<string, NameBinding>();
  const fn = text?.trim() ? expressionNode(`(${text}) => 0`) : undefined;
  for (const param of isFunction(fn) ? fn.params : [])
    bindPattern(param, whole, partsIn(scope), ({ name }, bound) => names.set(name, bound));
  return names;
}

const hiding = (scope: TemplateScope, names: ReadonlyMap<string, NameBinding>): TemplateScope => ({
  ...scope,
  lookup: (name) => names.get(name) ?? scope.lookup(name),
});

function elementView(element: TemplateElement, scope: TemplateScope): ViewNode[] {
  const tag = element.tag;
  const kebab = kebabCase(tag);
  const place = { start: element.loc.start.offset, end: openingEnd(element) };
  if (tag === 'slot') return [slotView(element, scope, place)];
  if (kebab === 'component') return [chosenView(element, scope, place)];
  const inside = contentOf(element, scope);
  if (TRANSPARENT.has(kebab)) return inside;
  const given = attributesOf(element, scope);
  if (element.tagType === 0 && !registeredAs(tag, scope)) {
    return [elementNode(given, { tag, place, children: inside })];
  }
  const slots = new Map<string, readonly ViewNode[]>();
  const own = element.children.filter((child) => !(child.type === 1 && slotName(child as TemplateElement)));
  const plain = viewOfChildren(own, slotScope(element, scope));
  if (
    plain.some(
      (node) => node.kind !== 'text' || node.text.is !== 'constant' || String(node.text.value).trim(),
    )
  )
    slots.set('children', plain);
  for (const child of element.children) {
    const name = child.type === 1 ? slotName(child as TemplateElement) : undefined;
    if (!name) continue;
    const content = child as TemplateElement;
    slots.set(name, viewOfChildren(content.children, slotScope(content, scope)));
  }
  const ref = registeredAs(tag, scope);
  return [componentNode(given, { name: tag, ref, place, slots })];
}

// `<component is="b">`, and `:is` with what gives a tag.
function chosenView(element: TemplateElement, scope: TemplateScope, place: Span): ViewNode {
  const plain = element.props.find((prop) => prop.type === 6 && prop.name === 'is');
  const bound = element.props.find(
    (prop): prop is Directive => prop.type === 7 && prop.name === 'bind' && argOf(prop as Directive) === 'is',
  );
  const text = plain && 'value' in plain ? plain.value?.content : undefined;
  const chosen = text !== undefined ? constant(text) : bound ? expressionOf(sourceOf(bound), scope) : UNKNOWN;
  if (chosen.is === 'unknown' || chosen.is === 'something')
    return { kind: 'hole', why: 'a component chosen at run time', place };
  const given = attributesOf(element, scope);
  given.attributes.delete('is');
  return elementNode(given, { tag: '?', chosen, place, children: contentOf(element, scope) });
}

// `<template #lid>` fills the slot `#lid`; the default slot goes by `children`.
function slotName(element: TemplateElement): string | undefined {
  const slot = element.tag === 'template' ? directive(element, 'slot') : undefined;
  if (!slot) return undefined;
  const name = slot.arg && 'content' in slot.arg ? String(slot.arg.content) : 'default';
  return name === 'default' ? 'children' : `#${name}`;
}

// What a slot is handed by its component hides names of the same name.
function slotScope(element: TemplateElement, scope: TemplateScope): TemplateScope {
  const slot = directive(element, 'slot');
  const names = slot?.exp ? namesOf(sourceOf(slot), { is: 'unknown' }, scope) : undefined;
  return names?.size ? hiding(scope, names) : scope;
}

function slotView(element: TemplateElement, scope: TemplateScope, place: Span): ViewNode {
  const name = element.props.find((prop) => prop.type === 6 && prop.name === 'name');
  const text = name && 'value' in name ? name.value?.content : undefined;
  const dynamic = element.props.some(
    (prop) => prop.type === 7 && prop.name === 'bind' && argOf(prop as Directive) === 'name',
  );
  if (dynamic) return { kind: 'hole', why: 'a slot chosen at run time', place };
  return {
    kind: 'slot',
    name: text && text !== 'default' ? `#${text}` : 'children',
    fallback: viewOfChildren(element.children, scope),
    place,
  };
}

function contentOf(element: TemplateElement, scope: TemplateScope): ViewNode[] {
  const text = directive(element, 'text');
  const place = span(element);
  if (directive(element, 'html')) return [{ kind: 'hole', why: 'markup given as text', place }];
  if (text) return [{ kind: 'text', text: shown(expressionOf(sourceOf(text), scope), VUE), place }];
  const children = viewOfChildren(element.children, scope);
  // What a directive of the project's own does to its element, it may do by hand.
  return element.props.some(isOwnDirective)
    ? [...children, { kind: 'hole', why: 'a directive', place }]
    : children;
}

const isOwnDirective = (prop: TemplateElement['props'][number]): boolean =>
  prop.type === 7 && !DIRECTIVES.has(prop.name);

// Those of Vue 2 and 3.
const DIRECTIVES: ReadonlySet<string> = new Set(
  'bind on if else else-if for slot slot-scope model show text html once pre cloak memo is'.split(' '),
);

/** The component that a tag is registered as: `KilnLid`, `kiln-lid` and `kilnLid` are one name. */
function registeredAs(tag: string, scope: TemplateScope): ComponentRef | undefined {
  const pascal = tag.replace(/(?:^|-)(\w)/g, (_, letter: string) => letter.toUpperCase());
  const camel = pascal.charAt(0).toLowerCase() + pascal.slice(1);
  const kebab = kebabCase(pascal);
  const isTag = /^[a-z]+$/.test(tag);
  return (
    scope.registered.get(tag) ??
    (isTag
      ? undefined
      : (scope.registered.get(pascal) ?? scope.registered.get(camel) ?? scope.registered.get(kebab)))
  );
}

function attributesOf(element: TemplateElement, scope: TemplateScope): TagContents {
  const given = nothingGiven();
  const set = (name: string, expr: Expr, attribute = shownAttribute(name.toLowerCase(), expr, VUE)): void => {
    given.attributes.set(name.toLowerCase(), attribute);
    given.props.set(
      name.replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase()),
      { expr },
    );
  };
  for (const prop of element.props) {
    if (prop.type === 6) {
      const expr = constant('value' in prop && prop.value ? prop.value.content : '');
      if (prop.name === 'class') given.classes = joinedClasses([given.classes, classesIn(expr)]);
      // What is written as HTML is as it is written.
      set(prop.name, expr, expr);
      continue;
    }
    addDirective(prop as Directive, scope, given, set);
  }
  return given;
}

function addDirective(
  prop: Directive,
  scope: TemplateScope,
  given: TagContents,
  set: (name: string, expr: Expr) => void,
): void {
  const name = argOf(prop);
  if (prop.name === 'on') {
    const handler = prop.exp ? expressionOf(sourceOf(prop), scope) : UNKNOWN;
    if (name) given.events.push(name);
    if (name && prop.exp && handler.is !== 'prop') {
      const node = expressionNode(sourceOf(prop));
      const words = prop.modifiers.map((each) => (typeof each === 'string' ? each : each.content));
      given.handlers.push({
        event: name,
        place: span(prop),
        names: node ? namesCalledIn(node) : [],
        keys: name.startsWith('key') ? keysNamed(words) : [],
      });
    }
  } else if (prop.name === 'model') {
    set(name ?? 'modelValue', UNKNOWN);
    given.events.push('input', 'change');
  } else if (prop.name === 'show') {
    const test = conditionIn(sourceOf(prop), scope);
    set('style', { is: 'if', test, then: constant(''), otherwise: constant('display: none') });
  } else if (prop.name === 'bind') {
    if (name === undefined) addBound(sourceOf(prop), scope, given, set);
    else if (name === 'class') {
      const node = expressionNode(sourceOf(prop));
      given.classes = joinedClasses([
        given.classes,
        node ? classesOf(node, scope) : { ...NO_CLASSES, open: true },
      ]);
    } else set(name, prop.exp ? expressionOf(sourceOf(prop), scope) : expressionOf(name, scope));
  }
}

// `v-bind="{ id, … }"`, and `v-bind="$attrs"`: what the component is given and does not declare.
function addBound(
  text: string,
  scope: TemplateScope,
  given: TagContents,
  set: (name: string, expr: Expr) => void,
): void {
  if (text.trim() === '$attrs') {
    given.rest = [...scope.props.keys()];
    return;
  }
  const expr = expressionOf(text, scope);
  if (expr.is === 'object')
    for (const [name, value] of expr.entries) {
      if (name === 'class') given.classes = joinedClasses([given.classes, classesIn(value)]);
      set(name, value);
    }
  if (expr.is !== 'object' || expr.open) openTag(given);
}

const directive = (element: TemplateElement, name: string): Directive | undefined =>
  element.props.find((prop): prop is Directive => prop.type === 7 && prop.name === name);

const argOf = (prop: Directive): string | undefined =>
  prop.arg && 'isStatic' in prop.arg && prop.arg.isStatic ? prop.arg.content : undefined;

const sourceOf = (prop: Directive): string =>
  prop.exp && 'content' in prop.exp ? String(prop.exp.content) : '';

// The opening tag ends where the content, if any, starts.
function openingEnd(element: TemplateElement): number {
  const last = element.props.reduce(
    (end, prop) => Math.max(end, prop.loc.end.offset),
    element.loc.start.offset + element.tag.length + 1,
  );
  const rest = element.loc.source.slice(last - element.loc.start.offset);
  return last + rest.indexOf('>') + 1;
}

function expressionNode(text: string): Node | undefined {
  const { program, errors } = parseSync('expression.ts', `(${text})`, { lang: 'ts', preserveParens: false });
  const [statement] = program.body;
  return errors.length === 0 && statement?.type === 'ExpressionStatement' ? statement.expression : undefined;
}

function conditionIn(text: string, scope: ComponentScope): Condition {
  const node = expressionNode(text);
  return node ? conditionOf(node, scope) : UNSURE;
}

function expressionOf(text: string, scope: ComponentScope): Expr {
  const node = expressionNode(text);
  return node ? exprOf(node, scope) : UNKNOWN;
}
