import type { ComponentUse } from '../../rendering/uses.js';
import { fileFact, type FileFact } from './context.js';
import { takesHelpers } from './facts.js';

/** What its specs listen for; undefined where a helper may listen for anything. */
interface Heard {
  /** All words that its code uses, in names and in literals; none in a file that renders nothing with outputs but in React. */
  words: ReadonlySet<string>;
  /** The props that it gives something that may be told, and is more than a stand-in that nobody asks. */
  props: ReadonlySet<string>;
}

/** What the specs of a file listen for, on what they render. */
export const HEARD: FileFact<Heard | undefined> = fileFact('heard', (context) => {
  if (takesHelpers(context)) return undefined;
  const { file, rendering } = context;
  const asked = file.standIns.filter((each) => each.asked).flatMap(({ handedAs }) => [...handedAs]);
  const tells = file.renders.some((render) => {
    const component = rendering.component(render);
    return component?.framework !== 'react' && (component?.outputs?.size ?? 0) > 0;
  });
  return { words: tells ? file.words() : new Set(), props: new Set([...file.listens, ...asked]) };
});

/**
 * React: whether specs ask of what they give for a prop, or something else listens that they render; `heard`: what the
 * spec files listen for.
 */
export const isAskedOf = (
  prop: string,
  uses: readonly ComponentUse[],
  heard: readonly (Heard | undefined)[],
): boolean =>
  heard.some((each) => each?.props.has(prop)) ||
  uses.some(({ by, open, given }) => open || (by !== undefined && given.has(prop)));
