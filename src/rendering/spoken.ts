import { constant, oneOf, UNKNOWN, type Expr } from '../components/expr.js';
import { filledExpr, type GivenProps } from '../components/expr-filling.js';
import { TRANSLATED } from '../components/translated.js';
import { joined } from '../components/expr-text.js';
import type { Says } from '../components/translations.js';
import { innerNodes, type Component, type ViewNode } from '../components/view.js';
import type { Project } from '../project/project.js';
import type { Reach } from '../specs/model/steps.js';
import { matchesText, type Wanted } from './match.js';
import { wantedOf } from './user-queries.js';

/** What translators give where specs run: the words that are written beside the keys, or the keys. */
export type Spoken = 'words' | 'keys';

/**
 * What translators give where the specs of a file run, by what its queries find, which they must, in components that it
 * renders. Undefined where no query tells, or where they disagree.
 */
export function spokenBy(
  reaches: readonly Reach[],
  components: readonly Component[],
  project: Project,
): Spoken | undefined {
  const said = [...below(components, project)].flatMap(saidIn);
  if (said.length === 0) return undefined;
  const found = new Set<Spoken>();
  for (const { missing, args } of reaches) {
    if (missing !== 'throws') continue;
    const [first, options] = args;
    const name = options?.is === 'object' ? options.entries.get('name') : undefined;
    for (const wanted of [wantedOf(first, options), wantedOf(name)]) {
      if (!wanted) continue;
      const asked = (text: string | undefined): boolean =>
        text !== undefined && matchesText([text], wanted) === 'yes' && isMostOf(wanted, text);
      const isWord = said.some(({ words }) => asked(words));
      const isKey = said.some(({ key }) => asked(key));
      if (isWord !== isKey) found.add(isWord ? 'words' : 'keys');
    }
  }
  const [only] = found;
  return found.size === 1 ? only : undefined;
}

// What a pattern leaves open may be anything, in any language.
const isMostOf = (wanted: Wanted, text: string): boolean =>
  'text' in wanted
    ? wanted.exact
    : lettersIn(wanted.pattern.source) >= 0.7 * lettersIn(text) && /\s/.test(text);

const lettersIn = (text: string): number => text.replace(/\P{L}/gu, '').length;

const DEEPEST = 4;

// Components, and those of the project that stand in their markup.
function below(components: readonly Component[], project: Project): Set<Component> {
  const found = new Set<Component>();
  const add = (component: Component, depth: number): void => {
    if (found.has(component)) return;
    found.add(component);
    if (depth < DEEPEST) visit(component.view, component.file, depth);
  };
  const visit = (view: readonly ViewNode[], file: string, depth: number): void => {
    for (const node of view) {
      const child = node.kind === 'component' && node.ref ? project.component(file, node.ref) : undefined;
      if (child) add(child, depth + 1);
      visit(innerNodes(node), file, depth);
    }
  };
  for (const component of components) add(component, 0);
  return found;
}

const known = new WeakMap<Component, readonly Says[]>();

function saidIn(component: Component): readonly Says[] {
  const found =
    known.get(component) ??
    component.view.flatMap((node) => saidBy(node, (prop) => component.props.get(prop)));
  known.set(component, found);
  return found;
}

function saidBy(node: ViewNode, defaults: GivenProps): Says[] {
  const own: Expr[] =
    node.kind === 'text'
      ? [node.text]
      : node.kind === 'element'
        ? [...node.attributes.values()]
        : node.kind === 'component'
          ? [...node.props.values()].flatMap((prop) => ('expr' in prop ? [prop.expr] : []))
          : [];
  return [
    ...own.flatMap((expr) => saysIn(expr, defaults)),
    ...innerNodes(node).flatMap((inner) => saidBy(inner, defaults)),
  ];
}

function saysIn(expr: Expr, defaults: GivenProps): Says[] {
  const inside = (each: Expr): Says[] => saysIn(each, defaults);
  switch (expr.is) {
    case 'unknown':
      return expr.says ? [expr.says] : [];
    case 'text':
      return expr.parts.flatMap(inside);
    case 'shown':
      return inside(expr.of);
    case 'choice':
      return expr.options.flatMap(inside);
    case 'if':
      return [...inside(expr.then), ...inside(expr.otherwise)];
    case 'computed': {
      // `translate(label)`, where the prop has a default.
      const filled = expr.by === TRANSLATED ? filledExpr(expr, defaults) : expr;
      return filled.is === 'computed' ? [] : inside(filled);
    }
    default:
      return [];
  }
}

/** An expression with its translations as translators give them; what is filled into words stays unknown. */
export function spokenExpr(expr: Expr, spoken: Spoken): Expr {
  switch (expr.is) {
    case 'unknown':
      return (expr.says && textSaid(expr.says, spoken)) ?? expr;
    case 'text':
      return joined(expr.parts.map((part) => spokenExpr(part, spoken)));
    case 'shown':
      return { ...expr, of: spokenExpr(expr.of, spoken) };
    case 'choice':
      return oneOf(expr.options.map((option) => spokenExpr(option, spoken)));
    case 'object':
      return { ...expr, entries: expr.entries.map(([key, value]) => [key, spokenExpr(value, spoken)]) };
    case 'list':
      return { ...expr, items: expr.items.map((item) => spokenExpr(item, spoken)) };
    default:
      return expr;
  }
}

// Where only a key is given, others may have its words.
function textSaid({ key, words }: Says, spoken: Spoken): Expr | undefined {
  const text = spoken === 'words' ? words : key;
  if (text === undefined) return undefined;
  const parts = text.split(HOLE).map(constant);
  return joined(parts.flatMap((part, i) => (i === 0 ? [part] : [UNKNOWN, part])));
}

// `Cone {{cone}}`, `Cone {cone}`: what is filled in.
const HOLE = /\{\{[^{}]*\}\}|\{[^{}]*\}/;
