import { isFunction, memberName, unwrapped } from '../../../syntax/tree.js';
import { resultOf, resultOfCall } from '../../calls.js';
import {
  answered,
  both,
  constant,
  functionKey,
  idKey,
  nullish,
  OBJECT,
  orElse,
  SOMETHING,
  truthy,
  type Expr,
} from '../../expr.js';
import { computed } from '../../expr-filling.js';
import type { CallNode, ComponentScope } from '../../scope.js';
import type { ComponentRef } from '../../view.js';
import { heldState, isStateCall } from './state-hooks.js';
import { contextRead } from './contexts.js';
import { givenByKit } from './kit-calls.js';
import { givenByHook, givenByMethod } from './field-hooks.js';

/** What a call in a module gives: of React's own functions, of hooks that are known, and of functions that the scope declares. */
export function reactCall(
  call: CallNode,
  args: readonly Expr[],
  scope: ComponentScope,
  depth: number,
): Expr | undefined {
  const callee = unwrapped(call.callee);
  const [first] = args;
  const name = callee.type === 'Identifier' ? callee.name : memberName(callee);
  const ref = callee.type === 'Identifier' ? scope.ref(callee.name) : undefined;
  if (scope.file !== undefined && name === 'useState' && isStateCall(call, (local) => importOf(local, scope)))
    return heldState(call, scope.file);
  if (scope.file !== undefined && name !== undefined && /^(?:unstable_)?useId$/.test(name)) {
    const made = answered(idKey(scope.file, call.start));
    return first ? orElse(first, made) : made;
  }
  const context = contextRead(call, scope);
  if (context) return context;
  const bound = callee.type === 'Identifier' ? scope.lookup(callee.name) : undefined;
  if (bound?.is === 'giver') return bound.gives;
  const byKit = scope.shipped && name !== undefined ? givenByKit(name, args) : undefined;
  if (byKit) return byKit;
  // What React makes of a component is an object.
  if (name !== undefined && MAKES_COMPONENTS.has(name)) return OBJECT;
  const given = ref && 'specifier' in ref ? givenByHook(ref.specifier, ref.name, args) : undefined;
  if (given) return given;
  const isFrom = (specifier: string): boolean =>
    FORM_HOOKS.some((hook) => {
      const hooked = scope.ref(hook);
      return hooked && 'specifier' in hooked
        ? hooked.specifier === specifier
        : hooked !== undefined && specifier === 'formik' && hook === 'useFormikContext';
    });
  const byMethod = name === undefined ? undefined : givenByMethod(name, isFrom);
  if (byMethod) return byMethod;
  if (name === 'isValidElement' && first) return isElement(first);
  // `Children.count(children)`
  if (name === 'count' && first && callee.type === 'MemberExpression' && isChildren(callee.object))
    return { is: 'if', test: nullish(first), then: constant(0), otherwise: SOMETHING };
  // `useCallback(() => …, [])`
  if (KEEPS.test(name ?? '') && first?.is === 'something' && first.fn) return first;
  const [made] = call.arguments;
  if (name === 'useMemo' && made && isFunction(made)) return resultOf(made, scope, [], depth);
  return resultOfCall(call, args, scope, depth) ?? answerOf(ref, args, scope);
}

function importOf(name: string, scope: ComponentScope): { specifier: string; name: string } | undefined {
  const ref = scope.ref(name);
  return ref && 'specifier' in ref ? ref : undefined;
}

// What a function of another module gives is what a stand-in answers, where a spec puts one in its place.
const answerOf = (
  ref: ComponentRef | undefined,
  args: readonly Expr[],
  { shipped }: ComponentScope,
): Expr | undefined =>
  ref && 'specifier' in ref && ref.part === undefined && ref.specifier !== 'react' && !shipped
    ? answered(functionKey(ref.specifier, ref.name), args)
    : undefined;

// With the digits of a bundler.
const KEEPS = /^useCallback\d*$/;

const MAKES_COMPONENTS: ReadonlySet<string> = new Set(['memo', 'forwardRef', 'lazy']);

const FORM_HOOKS = ['useForm', 'useFormContext', 'useFormik', 'useFormikContext'];

const isChildren = (node: CallNode['callee']): boolean => {
  const inner = unwrapped(node);
  return (inner.type === 'Identifier' ? inner.name : memberName(inner)) === 'Children';
};

const isElement = (expr: Expr): Expr => ({
  is: 'if',
  test: both(truthy(expr), {
    is: 'same',
    left: computed('unary typeof', [expr]),
    right: constant('object'),
  }),
  then: constant(true),
  otherwise: constant(false),
});
