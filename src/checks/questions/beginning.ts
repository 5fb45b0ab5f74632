import type { Slot } from '../../specs/model/body.js';

/** How specs and hooks of a file begin, each way once: what is needed to find it in other files. */
export interface Beginning {
  /** Equal for specs that begin alike. */
  key: string;
  /** Equal for those that begin alike but for values and for what of the project they are about. */
  outline: string;
  /** Those values and names. */
  slots: readonly Slot[];
  /** It is all of a before-each hook. */
  isHook: boolean;
  start: number;
  end: number;
  /** Names that it declares. */
  declares: readonly string[];
  /** Names that it takes from the module. */
  uses: readonly string[];
  /** It uses names of the file's own, which no other module can have. */
  isBound: boolean;
  awaits: boolean;
}
