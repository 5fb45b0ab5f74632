import type { InputValue } from '../branches/solve.js';
import { keyText, valueText } from './inputs.js';
import { quoted } from './edits/style.js';
import type { Domain } from '../components/domain.js';
import type { Expr } from '../components/expr.js';
import type { Component } from '../components/view.js';

/** A value for each prop that must be given. */
export function requiredProps({ domains = new Map(), props }: Component): Record<string, InputValue> {
  const found: Record<string, InputValue> = {};
  for (const [name, domain] of domains)
    if (!domain.kinds.includes('undefined') && !domain.kinds.includes('anything') && !props.get(name))
      found[name] = anyOf(domain);
  return found;
}

function anyOf({ values, kinds, members }: Domain): InputValue {
  if (values.length > 0) return values[0];
  if (kinds.includes('string')) return 'text';
  if (kinds.includes('number')) return 1;
  if (kinds.includes('list')) return [];
  if (kinds.includes('function')) return () => {};
  if (!kinds.includes('object')) return null;
  const required = [...(members ?? [])].filter(([, each]) => !each.kinds.includes('undefined'));
  return Object.fromEntries(required.map(([name, each]) => [name, anyOf(each)]));
}

/** Props without those that are not given. */
export const withoutUndefined = (props: Record<string, InputValue>): Record<string, InputValue> =>
  Object.fromEntries(Object.entries(props).filter(([, value]) => value !== undefined));

/** The values of a use that can be written down; handlers become functions that do nothing. */
export function plainGiven(given: ReadonlyMap<string, Expr>): Record<string, InputValue> {
  const found: Record<string, InputValue> = {};
  for (const [name, expr] of given) {
    const value = valueOf(expr);
    if (value !== undefined) found[name] = value;
    else if (expr.is === 'something' && /^on[A-Z]/.test(name)) found[name] = () => {};
  }
  return found;
}

function valueOf(expr: Expr): InputValue {
  switch (expr.is) {
    case 'constant':
      return expr.value;
    case 'list': {
      const items = expr.items.map(valueOf);
      return items.includes(undefined) ? undefined : items;
    }
    case 'object': {
      if (expr.open) return undefined;
      const entries = expr.entries.map(([key, value]) => [key, valueOf(value)] as const);
      return entries.some(([, value]) => value === undefined) ? undefined : Object.fromEntries(entries);
    }
    default:
      return undefined;
  }
}

/** Props as attributes of JSX. */
export const jsxProps = (props: Record<string, InputValue>): string[] =>
  Object.entries(props).map(([name, value]) => {
    if (value === true) return name;
    const isPlain = typeof value === 'string' && /^[^"\\\n{}&<>]*$/.test(value);
    return isPlain ? `${name}="${value}"` : `${name}={${valueText(value)}}`;
  });

/** Props as an object. */
export function objectText(props: Record<string, InputValue>, quote: '"' | "'"): string {
  const entries = Object.entries(props).map(([key, value]) => `${keyText(key)}: ${code(value, quote)}`);
  return entries.length ? `{ ${entries.join(', ')} }` : '{}';
}

/** A value as code, in the quotes of a file. */
export const code = (value: InputValue, quote: '"' | "'"): string =>
  typeof value === 'string' ? quoted(value, quote) : valueText(value);
