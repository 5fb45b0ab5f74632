import { blocksAround, hooksFor, type Block, type SpecFile } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import { grouped } from '../../util/grouped.js';
import { runningSpecs } from './order.js';

/** What the body of a spec does, equal for bodies that do the same. */
export const bodyCode = ({ statements }: Block): string => statements.map(({ code }) => code).join('\n');

/** Specs with the same body as another of another title, each with the first of those: the same hooks run before both. */
export function copiesIn(file: SpecFile): Map<Block, Block> {
  const specs = runningSpecs(file).filter(
    ({ title, repeated, steps, statements }) =>
      title.exact && !repeated && statements.length > 0 && steps.some(isAssert),
  );
  // Only where the steps are as many are the statements compared.
  const alike = grouped(specs, ({ steps, statements }) => `${statements.length} ${steps.length}`);
  const first = new Map<string, Block[]>();
  const copies = new Map<Block, Block>();
  for (const spec of [...alike.values()].filter(({ length }) => length > 1).flat()) {
    const code = bodyCode(spec);
    const known = first.get(code) ?? [];
    const other = known.find((each) => each.title.text !== spec.title.text && isSetUpAlike(each, spec));
    if (other) copies.set(spec, other);
    first.set(code, [...known, spec]);
  }
  return copies;
}

function isSetUpAlike(a: Block, b: Block): boolean {
  const hooks = [a, b].map((spec) => hooksFor(spec, 'before-all', 'before-each'));
  if (hooks[0]?.length !== hooks[1]?.length || hooks[0]?.some((hook, i) => hook !== hooks[1]?.[i]))
    return false;
  // A name that the groups around only one of them declare may be another thing in each.
  const around = [a, b].map((spec) => blocksAround(spec).slice(1));
  const apart = [a, b].flatMap((_, i) =>
    (around[i] ?? []).filter((group) => !around[1 - i]?.includes(group)),
  );
  return !apart.some(({ names }) =>
    a.statements.some(({ uses }) => [...uses].some((name) => names.has(name))),
  );
}
