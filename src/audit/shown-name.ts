import type { Pieces } from '../rendering/rendered-tree.js';

/** A name as it is shown: holes as dots, and words of which one is shown with strokes between; undefined for none. */
export const shownName = (name: Pieces): string | undefined =>
  name.map((piece) => (typeof piece === 'object' ? piece.join(' / ') : (piece ?? '…'))).join('') || undefined;
