import type { Node } from 'oxc-parser';
import type { Edit } from '../finding.js';
import { isScript, parseScript } from '../syntax/script.js';
import { decodeSource, isProblem } from '../syntax/source.js';
import { childrenOf } from '../syntax/tree.js';
import { applied, withoutOverlaps } from './edits/edit.js';

/** A name that a file binds, in the order of the text, and what to do where nothing uses it. */
interface Bound {
  name: string;
  isUsed: boolean;
  /** What takes it away; undefined where that is not plain. */
  away: Omit<Edit, 'file'> | undefined;
}

/** The text of a mended script without the names that its mends leave unused; what was unused before stays. */
export function withoutUnused(path: string, before: string, after: string): string {
  if (!isScript(path) || before === after) return after;
  const [old, mended] = [before, after].map((text) => boundIn(path, text));
  if (!old || !mended) return after;
  const edits = [...mended].flatMap(([name, all]) => {
    const known = old.get(name) ?? [];
    // The same names in the same order: each is what it was.
    if (known.length !== all.length) return [];
    return all.flatMap(({ isUsed, away }, i) => (!isUsed && known[i]?.isUsed && away ? [away] : []));
  });
  // Two neighbours of one list share a comma: the second goes with the next turn.
  const { taken } = withoutOverlaps(edits.map((edit) => ({ edits: [{ file: path, ...edit }] })));
  const all = taken.flatMap((each) => each.edits);
  return all.length > 0 ? withoutUnused(path, before, applied(after, all)) : after;
}

// What JSX may become calls of, without a word.
const MEANT_BY_JSX: ReadonlySet<string> = new Set(['React', 'h']);

function boundIn(path: string, text: string): Map<string, Bound[]> | undefined {
  const source = decodeSource(path, Buffer.from(text));
  const script = isProblem(source) ? source : parseScript(source);
  if ('reason' in script) return undefined;
  const found = new Map<string, Bound[]>();
  visit(script.program, script.program, text, ({ name, ...bound }) =>
    found.set(name, [...(found.get(name) ?? []), { name, ...bound }]),
  );
  return found;
}

const SCOPES: ReadonlySet<string> = new Set(['Program', 'BlockStatement', 'SwitchCase']);

function visit(node: Node, scope: Node, text: string, note: (bound: Bound) => void): void {
  if (node.type === 'ImportDeclaration')
    for (const each of node.specifiers)
      note(bound(each.local.name, each, scope, listed(each, node.specifiers, node, text)));
  else if (node.type === 'VariableDeclaration') declared(node, scope, text, note);
  const inner = SCOPES.has(node.type) ? node : scope;
  for (const child of childrenOf(node)) visit(child, inner, text, note);
}

function declared(
  node: Extract<Node, { type: 'VariableDeclaration' }>,
  scope: Node,
  text: string,
  note: (bound: Bound) => void,
): void {
  const [only, ...others] = node.declarations;
  if (!only?.init || others.length > 0) return;
  const { id, init } = only;
  // What starts with a bracket would go on with a line before it that has no semicolon.
  const isCall =
    ['CallExpression', 'AwaitExpression', 'NewExpression'].includes(init.type) &&
    /[\w$]/.test(text[init.start] ?? '');
  const bare = isCall ? { start: node.start, end: init.start, text: '' } : undefined;
  if (id.type === 'Identifier') note(bound(id.name, only.id, scope, bare));
  if (id.type !== 'ObjectPattern' || id.properties.some(({ type }) => type === 'RestElement')) return;
  for (const each of id.properties)
    if (each.type === 'Property' && each.value.type === 'Identifier')
      note(
        bound(
          each.value.name,
          each,
          scope,
          id.properties.length > 1 ? listed(each, id.properties, id, text) : bare,
        ),
      );
}

const bound = (name: string, at: Node, scope: Node, away: Bound['away']): Bound => ({
  name,
  isUsed: MEANT_BY_JSX.has(name) || names(scope, at, name),
  away,
});

// Whether a name stands anywhere in a scope but where it is bound; one of its kind that shadows it counts as well.
function names(node: Node, but: Node, name: string): boolean {
  if (node === but) return false;
  if ((node.type === 'Identifier' || node.type === 'JSXIdentifier') && node.name === name) return true;
  return childrenOf(node).some((child) => names(child, but, name));
}

// One of a list, with its comma; the whole of an import where it is the only one.
function listed(each: Node, all: readonly Node[], whole: Node, text: string): Bound['away'] {
  const i = all.indexOf(each);
  const [next, last] = [all[i + 1], all[i - 1]];
  // A default and a list in braces are no one list.
  if (all.some(({ type }) => type !== each.type)) return undefined;
  if (next) return { start: each.start, end: next.start, text: '' };
  if (last) return { start: last.end, end: each.end, text: '' };
  const end = text[whole.end] === '\n' ? whole.end + 1 : whole.end;
  return whole.type === 'ImportDeclaration' ? { start: whole.start, end, text: '' } : undefined;
}
