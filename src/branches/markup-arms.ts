import { ITEM, mapComparisons, memberOfExpr, type Expr, type Condition } from '../components/expr.js';
import { innerNodes, type Component, type ViewNode } from '../components/view.js';
import { grouped } from '../util/grouped.js';
import { allOf, negated, type Arm, type Branch, type WrittenCondition } from './arms.js';

type BranchNode = Extract<ViewNode, { kind: 'branch' }>;

/** The branches of a template: elements that are there on a condition, each chain of them one branch. */
export function markupBranches(component: Component): Branch[] {
  const found: Branch[] = [];
  read(component.view, { component, under: [], items: new Map(), found });
  return found;
}

interface Around {
  component: Component;
  under: readonly WrittenCondition[];
  /** What the items of lists around stand for: the first one. */
  items: ReadonlyMap<string, Expr>;
  found: Branch[];
}

function read(nodes: readonly ViewNode[], around: Around): void {
  const guarded = nodes.filter(
    (node): node is BranchNode => node.kind === 'branch' && node.test !== undefined,
  );
  // The arms of one chain name what divides them; one alone is a chain of its own.
  const chains = grouped(guarded, ({ arm, place }) => arm?.of ?? place.start);
  for (const chain of chains.values()) addChain(chain, around);
  for (const node of nodes) {
    if (node.kind === 'branch' && node.test)
      read(node.children, { ...around, under: [...around.under, conditionOf(node, around)] });
    else if (node.kind === 'repeat') read(node.children, inItem(node, around));
    else read(innerNodes(node), around);
  }
}

function inItem({ item, over }: Extract<ViewNode, { kind: 'repeat' }>, around: Around): Around {
  if (item === undefined || !over) return around;
  return { ...around, items: new Map([...around.items, [item, memberOfExpr(over, '0')]]) };
}

function addChain(chain: readonly BranchNode[], { component, under, items, found }: Around): void {
  const [first] = chain;
  if (!first) return;
  const file = component.templateFile ?? component.file;
  const conditions = chain.map((node) => conditionOf(node, { items }));
  const arms: Arm[] = chain.map((node, i) => ({
    arm: node.arm?.name ?? 'then',
    place: { file, ...node.place },
    condition: conditions[i] ?? conditionOf(node, { items }),
    written: true,
    shows: true,
  }));
  const place = { file, start: first.place.start, end: chain.at(-1)?.place.end ?? first.place.end };
  if (!isComplete(chain)) {
    const otherwise = allOf(conditions.map(negated));
    arms.push({ arm: 'else', place, condition: otherwise, written: false, shows: false });
  }
  const { condition } = first;
  found.push({
    kind: 'markup',
    place,
    condition,
    under,
    arms,
    inAttribute: false,
    deferred: false,
    mayChange: false,
  });
}

const conditionOf = (
  { condition, test }: BranchNode,
  { items }: Pick<Around, 'items'>,
): WrittenCondition => ({
  text: condition,
  test: test ? withItems(test, items) : { is: 'unsure' },
});

// The last arm of a chain holds where no other does.
const isComplete = (chain: readonly BranchNode[]): boolean =>
  ['else', 'default'].includes(chain.at(-1)?.arm?.name ?? '');

function withItems(test: Condition, items: ReadonlyMap<string, Expr>): Condition {
  if (items.size === 0) return test;
  const expr = (each: Expr): Expr => itemsIn(each, items);
  return mapComparisons(test, (atom) =>
    atom.is === 'truthy'
      ? { is: 'truthy', expr: expr(atom.expr) }
      : { is: 'same', left: expr(atom.left), right: expr(atom.right) },
  );
}

function itemsIn(expr: Expr, items: ReadonlyMap<string, Expr>): Expr {
  switch (expr.is) {
    case 'prop': {
      const item = expr.name.startsWith(ITEM) ? items.get(expr.name) : undefined;
      return item ? itemsIn(item, items) : expr;
    }
    case 'member':
      return memberOfExpr(itemsIn(expr.of, items), expr.name, expr.optional);
    case 'computed':
      return { ...expr, of: expr.of.map((each) => itemsIn(each, items)) };
    default:
      return expr;
  }
}
