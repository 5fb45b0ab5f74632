import { titlesOf } from '../../specs/model/blocks.js';
import { isProviderName } from '../../components/view.js';
import type { Render } from '../../specs/model/steps.js';
import type { Finding } from '../../finding.js';
import { grouped } from '../../util/grouped.js';
import { inFile, type FileContext } from './context.js';
import { quotedTitle } from './order.js';

const message = (tags: readonly string[], count: number): string =>
  `${count} specs write the same ${tags.map((each) => /^<[\w.]+/.exec(each)?.[0] + '>').join('')} around what they render.`;
const advice = 'Write a helper that renders within them, or hand them to the render as its wrapper.';

// Of one provider it takes more specs until a helper is shorter.
const FEWEST_SPECS = 4;
const FEWEST_SPECS_OF_ONE = 8;

/** Providers that spec after spec of a file writes around what it renders; undefined where there are few. */
export function providersAgain(context: FileContext): Finding | undefined {
  const { renders, path } = context.file;
  const own = renders.filter(
    ({ block, writtenIn, around }) =>
      block.kind === 'spec' && !block.repeated && writtenIn === path && (around?.some(isProvider) ?? false),
  );
  const [most] = [...grouped(own, (each) => providersOf(each).join('')).values()].toSorted(
    (a, b) => b.length - a.length,
  );
  const [first, ...others] = most ?? [];
  const specs = new Set(most?.map(({ block }) => block));
  const tags = first ? providersOf(first) : [];
  if (!first || specs.size < (tags.length > 1 ? FEWEST_SPECS : FEWEST_SPECS_OF_ONE)) return undefined;
  return {
    place: inFile(context, first.place),
    within: titlesOf(first.block),
    certainty: 'sure',
    message: message(tags, specs.size),
    advice,
    evidence: others.map(({ place, block }) => ({ ...inFile(context, place), note: quotedTitle(block) })),
  };
}

const isProvider = (tag: string): boolean => isProviderName(/^<([\w.]*)/.exec(tag)?.[1] ?? '');

const providersOf = ({ around = [] }: Render): readonly string[] =>
  around.slice(0, around.findLastIndex(isProvider) + 1);
