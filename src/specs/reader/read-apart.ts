import { isInside } from '../../util/spans.js';
import type { Node } from 'oxc-parser';
import { calledName, isFunction, memberName, propertyChain, unwrapped, walkTree } from '../../syntax/tree.js';
import { assigns, type Binding, type SpecFile } from '../model/blocks.js';
import { GLOBAL_OBJECTS } from './names.js';

// Calls that keep a function for whoever calls the stand-in, by name.
const KEEPING: ReadonlySet<string> = new Set(
  'mock doMock fn spyOn stub fake callsFake mockImplementation mockReturnValue mockResolvedValue returns'.split(
    ' ',
  ),
);

/**
 * Notes of names that specs assign where a stand-in outside of the specs reads them: in the factory of a module, in the
 * function of a stand-in, in what is put in the place of something global. Whatever calls the stand-in reads the name.
 */
export function noteReadsApart(file: SpecFile, program: Node): void {
  const specs = file.blocks.filter(({ kind }) => kind === 'spec');
  const assigned = file.bindings.filter(
    (binding) =>
      (binding.kind === 'let' || binding.kind === 'var') && specs.some((spec) => assigns(spec, binding)),
  );
  if (assigned.length === 0) return;
  const byName = new Map<string, Binding>(assigned.map((binding) => [binding.name, binding]));
  const bodies = file.blocks.filter(({ kind }) => kind === 'spec' || kind === 'hook');
  const isInBody = (node: Node): boolean => bodies.some(({ place }) => isInside(node, place));
  walkTree(program, (node) => {
    if (isInBody(node)) return false;
    for (const kept of keptIn(node)) noteReads(kept, byName);
    return undefined;
  });
}

// The functions, and what they stand in, that a stand-in keeps.
function keptIn(node: Node): readonly Node[] {
  if (node.type === 'CallExpression') return KEEPING.has(calledName(node) ?? '') ? node.arguments : [];
  if (node.type !== 'AssignmentExpression' || node.left.type !== 'MemberExpression') return [];
  const { root } = propertyChain(node.left);
  return root.type === 'Identifier' && GLOBAL_OBJECTS.has(root.name) ? [node.right] : [];
}

function noteReads(kept: Node, byName: ReadonlyMap<string, Binding>): void {
  const written = new Set<Node>();
  const keys = new Set<Node>();
  const inside = (node: Node): void =>
    walkTree(node, (each) => {
      if (each.type === 'AssignmentExpression') written.add(unwrapped(each.left));
      if (each.type === 'MemberExpression' && memberName(each) !== undefined) keys.add(each.property);
      if (each.type === 'Property' && !each.computed && !each.shorthand) keys.add(each.key);
      if (each.type !== 'Identifier' || written.has(each) || keys.has(each)) return;
      const binding = byName.get(each.name);
      if (binding) binding.readApart ??= { start: each.start, end: each.end };
    });
  walkTree(kept, (each) => {
    if (!isFunction(each)) return undefined;
    inside(each);
    return false;
  });
}
