import type { Node } from 'oxc-parser';
import { isFunction, memberName, namesReadIn, propertyName, unwrapped } from '../../syntax/tree.js';
import type { Span } from '../../finding.js';
import { Env } from '../model/env.js';
import { libraryObjectOf, UNKNOWN_VALUE, type Value } from '../model/values.js';
import type { SpecReading } from './spec-reading.js';

type Instance = Extract<Value, { is: 'instance' }>;
type ClassValue = Extract<Value, { is: 'class' }>;

/**
 * A member of an object of a class that specs are written with, one that wraps the page in words of its own: a method, what a
 * getter gives, or what a field holds. Undefined where it is no such class, or has no such member.
 */
export function pageObjectMember(
  run: SpecReading,
  instance: Instance,
  name: string,
  node: Span,
): Value | undefined {
  const { of } = instance;
  if (of.is !== 'class' || !of.env || !isOfSpecs(run, of) || !speaksOfPage(run, of, instance))
    return undefined;
  const env = new Env(of.env, run.file.root);
  env.slots.set('this', { value: instance });
  const own = of.node.body.body.find(
    (each) => 'key' in each && !each.static && propertyName(each.key, each.computed) === name,
  );
  if (own?.type === 'MethodDefinition') {
    const method: Value = { is: 'function', node: own.value, env, tree: of.tree };
    return own.kind === 'get' ? run.callFunction(method, [], node, { helper: true }) : method;
  }
  if (own?.type === 'PropertyDefinition')
    return own.value
      ? inTree(run, of, () => run.evaluate(env, own.value as Node))
      : fromConstructor(run, of, instance, name);
  return fromConstructor(run, of, instance, name);
}

// Components and models are classes as well: what these do is another matter.
function isOfSpecs(run: SpecReading, { node, tree }: ClassValue): boolean {
  if (node.decorators.length > 0 || node.superClass) return false;
  return tree.path === run.file.path || run.project.summary(tree.path)?.usesTestLibrary === true;
}

// It is given something rendered, or its words are those of a library that looks at the page.
function speaksOfPage(run: SpecReading, { node, tree }: ClassValue, { args = [] }: Instance): boolean {
  if (args.some((each) => libraryObjectOf(each) !== undefined)) return true;
  const names = namesReadIn(node.body);
  return (
    names.includes('document') ||
    names.some((name) => {
      const from = tree.facts.imports.get(name);
      return from !== undefined && run.project.libraries.of(from.specifier) !== undefined;
    })
  );
}

// `constructor(private view) {}`, and `this.view = view` in it.
function fromConstructor(
  run: SpecReading,
  of: ClassValue,
  instance: Instance,
  name: string,
): Value | undefined {
  const made = of.node.body.body.find(
    (each) => each.type === 'MethodDefinition' && each.kind === 'constructor',
  );
  if (made?.type !== 'MethodDefinition' || !isFunction(made.value) || !of.env) return undefined;
  const env = new Env(of.env, run.file.root);
  made.value.params.forEach((param, i) => {
    const inner = param.type === 'TSParameterProperty' ? param.parameter : param;
    if (inner.type === 'Identifier')
      env.slots.set(inner.name, { value: instance.args?.[i] ?? UNKNOWN_VALUE });
  });
  const isParameter = made.value.params.some(
    (param) =>
      param.type === 'TSParameterProperty' &&
      param.parameter.type === 'Identifier' &&
      param.parameter.name === name,
  );
  if (isParameter) return env.find(name)?.value;
  const assigned = (made.value.body?.body ?? []).flatMap((statement) => {
    const inner = statement.type === 'ExpressionStatement' ? unwrapped(statement.expression) : undefined;
    if (inner?.type !== 'AssignmentExpression' || inner.left.type !== 'MemberExpression') return [];
    return inner.left.object.type === 'ThisExpression' && memberName(inner.left) === name
      ? [inner.right]
      : [];
  });
  const [value] = assigned;
  return value && inTree(run, of, () => run.evaluate(env, value));
}

function inTree(run: SpecReading, { tree }: ClassValue, read: () => Value): Value {
  const before = run.tree;
  run.tree = tree;
  try {
    return read();
  } finally {
    run.tree = before;
  }
}
