import { constant, type Constant, type Expr } from '../../components/expr.js';
import {
  componentKey,
  type Component,
  type ComponentNode,
  type Prop,
  type ViewNode,
} from '../../components/view.js';

/** A key and those of all that is around: of `kilns[].lid.temp` also `kilns[].lid`, `kilns[]`, `kilns`. */
export function keysAround(key: string): string[] {
  const ends = [...key.matchAll(/\.|\[\]| |$/g)].map(({ index }) => index);
  return ends.map((end) => key.slice(0, end));
}

/** What stands in the place of values, by their keys. */
export type Marks = ReadonlyMap<string, string | number>;

/** Something that is given; `values`: all that it is, where those are known texts or numbers. */
export interface Datum {
  key: string;
  name: string;
  values?: readonly (string | number)[];
}

/** A datum of known values. */
type Known = Datum & { values: readonly (string | number)[] };

/** Whether all values of a datum are known. */
export const isKnown = (datum: Datum): datum is Known => datum.values !== undefined;

const MOST_DATA = 60;

/** What a component is given by its props. */
export function dataIn(component: Component, props: ReadonlyMap<string, Prop>): Datum[] {
  const key = componentKey(component);
  return [...props]
    .flatMap(([name, prop]) => ('expr' in prop ? gathered(`${key} ${name}`, name, prop.expr) : []))
    .slice(0, MOST_DATA);
}

/** The values in an expression, those of the items of a list together; `key`, `name`: of the whole. */
export function gathered(key: string, name: string, expr: Expr): Datum[] {
  const found = new Map<string, Datum>();
  const note = (datum: Datum): void => {
    const known = found.get(datum.key);
    const values = known ? known.values && datum.values && [...known.values, ...datum.values] : datum.values;
    found.set(datum.key, { ...datum, values });
  };
  const gather = (at: { key: string; name: string }, each: Expr): void => {
    const within = (part: string): typeof at => ({ key: at.key + part, name: at.name + part });
    switch (each.is) {
      case 'constant':
        if (isData(each.value)) note({ ...at, values: [each.value] });
        return;
      case 'object':
        for (const [entry, inner] of each.entries) gather(within(`.${entry}`), inner);
        return;
      case 'list':
        for (const item of each.items) gather(within('[]'), item);
        return;
      case 'something':
        return;
      default:
        note(at);
    }
  };
  gather({ key, name }, expr);
  return [...found.values()].slice(0, MOST_DATA);
}

const isData = (value: Constant): value is string | number =>
  (typeof value === 'string' || typeof value === 'number') && String(value).trim() !== '';

/** Something that stands nowhere else, of the same type. */
export const markOf = ({ values: [first] }: Known, i: number): string | number =>
  typeof first === 'number' ? 7_310_000 + i * 10 + 3 : `qzx${i}xzq`;

/** An expression with marks in the place of some of its values. */
export function withMarksIn(key: string, expr: Expr, marks: Marks): Expr {
  const mark = marks.get(key);
  if (mark !== undefined && expr.is === 'constant' && isData(expr.value)) return constant(mark);
  if (expr.is === 'list')
    return { ...expr, items: expr.items.map((each) => withMarksIn(`${key}[]`, each, marks)) };
  if (expr.is !== 'object') return expr;
  return {
    ...expr,
    entries: expr.entries.map(([name, each]) => [name, withMarksIn(`${key}.${name}`, each, marks)]),
  };
}

/** A component in markup, with marks in the place of some of the values that it is given. */
export function withMarks(component: Component, node: ComponentNode, marks: Marks): ComponentNode {
  const key = componentKey(component);
  const props = [...node.props].map(
    ([name, prop]) =>
      [name, 'expr' in prop ? { expr: withMarksIn(`${key} ${name}`, prop.expr, marks) } : prop] as const,
  );
  return { ...node, props: new Map<string, Prop>(props) };
}

/** A view with another node in the place of one. */
export const withNode = (view: readonly ViewNode[], old: ComponentNode, by: ComponentNode): ViewNode[] =>
  view.map((node) => {
    if (node === old) return by;
    if (node.kind === 'component')
      return {
        ...node,
        slots: new Map([...node.slots].map(([name, inner]) => [name, withNode(inner, old, by)] as const)),
      };
    return 'children' in node ? { ...node, children: withNode(node.children, old, by) } : node;
  });
