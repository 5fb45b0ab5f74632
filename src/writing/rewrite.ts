import type { Missing } from '../libraries/meaning.js';
import { exported, kitQuery, queryKit } from './kit.js';
import type { Edit, Mend, Span, Finding } from '../finding.js';
import { quoted } from './edits/style.js';
import type { RenderedElement, AskedText, Handle } from '../rendering/rendered-tree.js';
import { bestHandle, byRole } from '../rendering/replacement.js';
import { translatedHandle } from '../rendering/translated.js';
import { pageOf, type SearchScope } from '../rendering/scope.js';
import type { Reach, Render } from '../specs/model/steps.js';
import type { FileContext } from '../checks/questions/context.js';
import { assertsAbsence, usedBy } from '../checks/questions/used-reaches.js';

/** A better query for an element that a spec reaches, ready to paste. */
interface Better {
  handle: Handle;
  query: string;
  mend?: Mend;
}

/** What may be asked for: any handle, or a role with a name only. */
type Wanted = 'any' | 'role';

/**
 * The better query for the element that a reach finds: one that is free in all that is rendered, or below what the reach
 * is scoped to. The mend puts it in the place of the old one; it is safe where nothing else could be found by it.
 */
export function betterQuery(
  reach: Reach,
  element: RenderedElement,
  context: FileContext,
  wanted: Wanted = 'any',
): Better | undefined {
  const scope = context.rendering.scope(reach.pickedFrom ?? reach);
  if (!scope) return undefined;
  const find = (where: SearchScope): Handle | undefined => {
    const handle =
      wanted === 'role' ? byRole(element, where) : bestHandle(element, where, context.testIdAttribute);
    return handle?.by === 'testId' ? undefined : handle;
  };
  const page = find(pageOf(scope));
  const handle =
    page ??
    (scope.elements === scope.tree.elements ? undefined : find(scope)) ??
    translatedHandle(reach, element, scope.tree);
  if (!handle) return undefined;
  return written(reach, handle, page === undefined, context);
}

function written(reach: Reach, handle: Handle, inScope: boolean, context: FileContext): Better | undefined {
  const { text } = context.source;
  const use = useOf(reach);
  const missing: Missing = use === 'absent' && !reach.waits ? 'null' : 'throws';
  const name = kitQuery(context, handle.by, missing, reach.waits);
  if (!name) return undefined;
  const from = receiverOf(reach, name, inScope, context);
  const args = argsOf(handle, context.style.quote);
  const query = `${from.receiver && `${from.receiver}.`}${name}${reach.written?.types ?? ''}(${args})`;
  const target = context.rendering.target(reach);
  const canMend = from.edits && use !== 'both' && reach.via === undefined && !isShared(reach, context);
  if (!canMend) return { handle, query };
  const proven = target.kind === 'one' && target.proven && handle.unique && !handle.given;
  const edits: Edit[] = [
    { file: context.file.path, ...replacedIn(reach, missing, text), text: query },
    ...(from.edits ?? []),
  ];
  return { handle, query, mend: { summary: `Reach it by ${handle.by}`, safe: proven, edits } };
}

// A mark that says that something is there goes with the query that may find nothing.
function replacedIn({ place }: Reach, missing: Missing, text: string): Span {
  const isMarked = missing === 'throws' && text[place.end] === '!' && text[place.end + 1] !== '=';
  return { start: place.start, end: isMarked ? place.end + 1 : place.end };
}

// A reach in a loop, a table or a helper of the file stands for several elements.
const isShared = (reach: Reach, { file }: FileContext): boolean =>
  file.reaches.some(
    (each) => each !== reach && each.place.start === reach.place.start && each.place.end === reach.place.end,
  );

/** How the spec uses what a reach found: as there, as not there, or as both. */
function useOf(reach: Reach): 'present' | 'absent' | 'both' {
  const asserted = reach.block.steps.flatMap((step) =>
    usedBy(step) === reach ? [step.kind === 'assert' && assertsAbsence(step.assertion)] : [],
  );
  if (!asserted.includes(true)) return 'present';
  return asserted.includes(false) ? 'both' : 'absent';
}

/** The arguments of a user-centred query for a handle. */
export function argsOf({ role, asked }: Pick<Handle, 'role' | 'asked'>, quote: '"' | "'"): string {
  const source = asked && sourceOf(asked, quote);
  if (role === undefined) return source ?? '';
  return source ? `${quoted(role, quote)}, { name: ${source} }` : quoted(role, quote);
}

const sourceOf = (asked: AskedText, quote: '"' | "'"): string =>
  'text' in asked ? quoted(asked.text, quote) : String(asked.pattern);

interface From {
  receiver: string;
  /** What must be added for the query to be known there; undefined where it can't be. */
  edits?: Edit[];
}

// What the new query is asked of: what the old one is asked of, the library's page, or what the render gives.
function receiverOf(reach: Reach, name: string, inScope: boolean, context: FileContext): From {
  const { file } = context;
  const isWritten = reach.written !== undefined && reach.asUser;
  if (isWritten && reach.pickedFrom === undefined && reach.receiver)
    return { receiver: reach.receiver, edits: [] };
  const kit = queryKit(context);
  if (inScope) {
    const within = kit?.within && exported(kit.within, context);
    const isPlain = /^[\w$.]+$/.test(reach.receiver);
    const edits = isPlain && within ? within.edits : undefined;
    return { receiver: `${(within && within.name) || kit?.within || 'within'}(${reach.receiver})`, edits };
  }
  const render = renderOf(reach);
  const bare = isWritten ? !reach.receiver : usesBareQueries(context);
  if (bare && render?.taken) {
    const { names, end } = render.taken;
    const edits = names.has(name) ? [] : [{ file: file.path, start: end, end, text: `, ${name}` }];
    return { receiver: '', edits };
  }
  // A library without an object for the page gives its queries with the render.
  if (!kit?.page) return { receiver: render?.heldBy ?? '', edits: render?.heldBy ? [] : undefined };
  const page = exported(kit.page, context);
  return { receiver: page?.name ?? kit.page, edits: page?.edits };
}

function renderOf({ from }: Reach): Render | undefined {
  if (typeof from !== 'object') return undefined;
  return 'teardown' in from ? from : renderOf(from);
}

// `const { getByRole } = render(…)` is how this file writes its queries.
function usesBareQueries(context: FileContext): boolean {
  const page = queryKit(context)?.page;
  const { imports, reaches } = context.file;
  return (
    ![...imports.values()].some(({ name }) => name === page) &&
    reaches.some((reach) => reach.written && reach.receiver === '' && reach.asUser)
  );
}

/** A finding's certainty: sure where the element is the one, and the better query finds nothing else. */
export const certaintyOf = (
  reach: Reach,
  better: Better | undefined,
  { rendering }: FileContext,
): Finding['certainty'] => {
  const target = rendering.target(reach);
  return target.kind === 'one' && target.proven && (!better || better.handle.unique) ? 'sure' : 'likely';
};
