import { joinedClones, NO_CLONES, type Clones } from '../components/view.js';

/** A component that gives something to what it is handed: to all that is written in fewer components than `above`. */
export interface Cloning {
  above: number;
  gives: Clones;
}

/** What is given by cloning to what is written in so many components. */
export const clonesGiven = (cloning: readonly Cloning[], within: number): Clones =>
  cloning.reduce<Clones>(
    (names, { above, gives }) => (within < above ? joinedClones(names, gives) : names),
    NO_CLONES,
  );

/** What still clones below an element or a component that is written in so many: it is cloned itself, what stands in it is not. */
export const cloningBelow = (cloning: readonly Cloning[], within: number): readonly Cloning[] =>
  cloning.every(({ above }) => above <= within) ? cloning : cloning.filter(({ above }) => above <= within);
