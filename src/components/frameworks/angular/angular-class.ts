import type { Node, PropertyDefinition } from 'oxc-parser';
import type { ImportedModule } from '../../../syntax/module-facts.js';
import type { Script } from '../../../syntax/script.js';
import {
  literalText,
  memberName,
  propertyName,
  unwrapped,
  walkTree,
  writtenTo,
  type ClassNode,
  type ObjectNode,
} from '../../../syntax/tree.js';
import { orUndefined, type Domain } from '../../domain.js';
import { constant, UNKNOWN, type Expr } from '../../expr.js';
import { declaredTypes, domainLike, domainOf, type DeclaredTypes } from '../../prop-types.js';
import type { Span } from '../../../finding.js';

/** What a class marked as an Angular component says of itself. */
export interface AngularDeclaration {
  name: string;
  node: ClassNode;
  place: Span;
  selector?: string;
  template: { inline: Node } | { url: string } | undefined;
  /** Inputs by the name that templates use, with their defaults. */
  inputs: Map<string, Expr | undefined>;
  /** What its inputs may be by their declared types. */
  domains: Map<string, Domain>;
  /** Fields that keep their first value, where that is known. */
  fields: Map<string, Expr>;
  outputs: Map<string, Span>;
  /** Attributes of the host element, from the decorator and from bound members. */
  host: Map<string, Expr>;
}

/** The classes of a script that carry a component decorator. */
export function angularDeclarations(script: Script): AngularDeclaration[] {
  const found: AngularDeclaration[] = [];
  const types = declaredTypes(...script.program.body);
  for (const { node, options } of componentClasses(script)) {
    if (!node.id) continue;
    const text = (key: string): string | undefined => {
      const value = valueOf(options, key);
      return value && literalText(value);
    };
    const inline = valueOf(options, 'template');
    const url = text('templateUrl');
    found.push({
      name: node.id.name,
      node,
      place: { start: node.id.start, end: node.id.end },
      selector: text('selector'),
      template: inline ? { inline } : url ? { url } : undefined,
      inputs: inputsOf(node),
      domains: domainsOf(node, types),
      outputs: outputsOf(node),
      fields: fieldsOf(node),
      host: hostOf(node, valueOf(options, 'host')),
    });
  }
  return found;
}

/** The files that the components of a script take their templates from, as imports beside it. */
export function templateFiles(script: Script): ImportedModule[] {
  if (!script.source.text.includes('templateUrl')) return [];
  return componentClasses(script).flatMap(({ options }) => {
    const url = valueOf(options, 'templateUrl');
    const text = url && literalText(url);
    // With and without a dot it is beside the script.
    return url && text && !text.startsWith('/')
      ? [{ specifier: text.replace(/^(?!\.)/, './'), start: url.start, end: url.end }]
      : [];
  });
}

// The classes with a component decorator, and what that is told.
const componentClasses = ({ program }: Script): { node: ClassNode; options: ObjectNode }[] =>
  program.body.flatMap((statement) => {
    const node = 'declaration' in statement && statement.declaration ? statement.declaration : statement;
    const options = node.type === 'ClassDeclaration' ? decoratorOptions(node, 'Component') : undefined;
    return node.type === 'ClassDeclaration' && options ? [{ node, options }] : [];
  });

function decoratorOptions(node: ClassNode, name: string): ObjectNode | undefined {
  for (const { expression } of node.decorators) {
    if (
      expression.type !== 'CallExpression' ||
      expression.callee.type !== 'Identifier' ||
      expression.callee.name !== name
    )
      continue;
    const [first] = expression.arguments;
    return first?.type === 'ObjectExpression' ? first : undefined;
  }
  return undefined;
}

function valueOf(options: ObjectNode, key: string): Node | undefined {
  for (const each of options.properties) {
    if (each.type === 'Property' && propertyName(each.key, each.computed) === key)
      return unwrapped(each.value);
  }
  return undefined;
}

type Member = ClassNode['body']['body'][number];

const isField = (member: Member): member is PropertyDefinition => member.type === 'PropertyDefinition';

function inputsOf(node: ClassNode): Map<string, Expr | undefined> {
  const inputs = new Map<string, Expr | undefined>();
  for (const member of node.body.body) {
    if (member.type !== 'PropertyDefinition' && member.type !== 'MethodDefinition') continue;
    const name = propertyName(member.key, member.computed);
    if (name === undefined) continue;
    const value = isField(member) && member.value ? member.value : undefined;
    const signal = value && ['input', 'model'].includes(calleeName(value) ?? '') ? value : undefined;
    if (decorator(member, 'Input')) inputs.set(name, value && literal(value));
    else if (signal?.type === 'CallExpression')
      inputs.set(name, signal.arguments[0] && literal(signal.arguments[0]));
  }
  return inputs;
}

function domainsOf(node: ClassNode, types: DeclaredTypes): Map<string, Domain> {
  const domains = new Map<string, Domain>();
  for (const member of node.body.body.filter(isField)) {
    const name = propertyName(member.key, member.computed);
    const domain = inputDomain(member, types);
    if (name !== undefined && domain) domains.set(name, domain);
  }
  return domains;
}

// `temp = 20`, `temp?: number`, `input<Phase>('rise')`, `input.required<number>()`
function inputDomain(member: PropertyDefinition, types: DeclaredTypes): Domain | undefined {
  const { value } = member;
  const annotation = member.typeAnnotation?.typeAnnotation;
  if (value?.type === 'CallExpression' && ['input', 'model'].includes(calleeName(value) ?? '')) {
    const [type] = value.typeArguments?.params ?? [];
    const [first] = value.arguments;
    const isRequired = value.callee.type === 'MemberExpression';
    const domain = type ? domainOf(type, types) : first && likeLiteral(first);
    return domain && (isRequired || first ? domain : orUndefined(domain));
  }
  if (!decorator(member, 'Input')) return undefined;
  const domain = annotation ? domainOf(annotation, types) : value ? likeLiteral(value) : undefined;
  return domain && (value || member.definite ? domain : orUndefined(domain));
}

const likeLiteral = (node: Node): Domain | undefined => {
  const value = literal(node);
  return value?.is === 'constant' ? domainLike(value.value) : undefined;
};

function outputsOf(node: ClassNode): Map<string, Span> {
  const outputs = new Map<string, Span>();
  for (const member of node.body.body) {
    if (member.type !== 'PropertyDefinition') continue;
    const name = propertyName(member.key, member.computed);
    const maker = member.value ? (calleeName(member.value) ?? '') : '';
    const isOutput =
      decorator(member, 'Output') || ['output', 'outputFromObservable', 'model'].includes(maker);
    const { start, end } = member.key;
    if (name !== undefined && isOutput) outputs.set(name, { start, end });
  }
  return outputs;
}

// What a field is first, if nothing in the class ever sets it.
function fieldsOf(node: ClassNode): Map<string, Expr> {
  const fields = new Map<string, Expr>();
  for (const member of node.body.body.filter(isField)) {
    const name = propertyName(member.key, member.computed);
    const value = member.value ? (literal(member.value) ?? signalValue(member.value)) : undefined;
    if (name !== undefined && value && member.decorators.length === 0) fields.set(name, value);
  }
  walkTree(node, (each) => {
    const changed = writtenTo(each) ?? changedSignal(each);
    const name = changed && memberName(changed as Node);
    if (name !== undefined) fields.delete(name);
  });
  return fields;
}

// `signal('Firings')`, which a template reads by a call.
const signalValue = (node: Node): Expr | undefined => {
  const [first] = node.type === 'CallExpression' && calleeName(node) === 'signal' ? node.arguments : [];
  return first && literal(first);
};

// `this.title.set(…)`
function changedSignal(node: Node): Node | undefined {
  const callee = node.type === 'CallExpression' ? unwrapped(node.callee) : undefined;
  return callee?.type === 'MemberExpression' && ['set', 'update'].includes(memberName(callee) ?? '')
    ? callee.object
    : undefined;
}

const literal = (node: Node): Expr | undefined => {
  const value = unwrapped(node);
  return value.type === 'Literal' && !('regex' in value) && typeof value.value !== 'bigint'
    ? constant(value.value as string | number | boolean | null)
    : undefined;
};

// `host: { role: 'row', '[attr.aria-label]': 'name' }` and `@HostBinding('attr.role') role = 'row'`.
function hostOf(node: ClassNode, options: Node | undefined): Map<string, Expr> {
  const host = new Map<string, Expr>();
  const set = (key: string, value: Expr): unknown =>
    host.set(key.replace(/^attr\./, '').toLowerCase(), value);
  for (const each of options?.type === 'ObjectExpression' ? options.properties : []) {
    const key = each.type === 'Property' ? propertyName(each.key, each.computed) : undefined;
    if (each.type !== 'Property' || key === undefined || key.startsWith('(')) continue;
    const bound = /^\[(.*)\]$/.exec(key)?.[1];
    set(bound ?? key, bound === undefined ? (literal(each.value) ?? UNKNOWN) : UNKNOWN);
  }
  for (const member of node.body.body) {
    if (member.type !== 'PropertyDefinition' && member.type !== 'MethodDefinition') continue;
    const bound = decorator(member, 'HostBinding');
    if (!bound) continue;
    const [first] = bound.arguments;
    const key = (first && literalText(first)) ?? propertyName(member.key, member.computed);
    const isReadonly = isField(member) && member.readonly && member.value;
    if (key !== undefined) set(key, (isReadonly ? literal(isReadonly) : undefined) ?? UNKNOWN);
  }
  return host;
}

function decorator(member: Member, name: string): Extract<Node, { type: 'CallExpression' }> | undefined {
  if (!('decorators' in member)) return undefined;
  const found = member.decorators.find(({ expression }) => calleeName(expression) === name)?.expression;
  return found?.type === 'CallExpression' ? found : undefined;
}

function calleeName(node: Node): string | undefined {
  if (node.type !== 'CallExpression') return undefined;
  const callee = node.callee.type === 'MemberExpression' ? node.callee.object : node.callee;
  return callee.type === 'Identifier' ? callee.name : undefined;
}

/** The selectors that a component answers to as a tag: `app-kiln, [kiln]` gives `app-kiln`. */
export const tagSelectors = (selector: string): string[] =>
  selector
    .split(',')
    .map((each) => each.trim())
    .filter((each) => /^[\w-]+$/.test(each));
