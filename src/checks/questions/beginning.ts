/** How specs of a file begin, each way once: what is needed to find it in other files. */
export interface Beginning {
  /** Equal for specs that begin alike. */
  key: string;
  start: number;
  end: number;
  /** Names that it declares. */
  declares: readonly string[];
  /** Names that it takes from the module. */
  uses: readonly string[];
  awaits: boolean;
}
