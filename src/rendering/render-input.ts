import type { Expr } from '../components/expr.js';
import type { ComponentNode, ViewNode } from '../components/view.js';
import type { Spoken } from './spoken.js';

/** The view that a render call hands over, and the file it is written in. */
export interface RenderInput {
  file: string;
  /** The file that markup of the spec's own stands in, where it is another. */
  writtenIn?: string;
  view: readonly ViewNode[];
  /** Whether child components are replaced by empty ones. */
  shallow?: boolean;
  /** Components that stand-ins without content replace, as `kiln-lid`. */
  stubs?: ReadonlySet<string>;
  /** Files of components that the spec replaces by stand-ins. */
  replaced?: ReadonlySet<string>;
  /** Of modules that keep the rest, the names that stand-ins take the place of. */
  overridden?: ReadonlyMap<string, ReadonlySet<string>>;
  /** What stands around it, if that can be read. */
  wrapper?: ComponentNode | 'unknown';
  /** Whether to keep what no given prop shows, too. */
  everything?: boolean;
  /** What stand-ins give for functions of modules, by the functions' keys. */
  answers?: ReadonlyMap<string, Expr>;
  /** What translators give, where that is known. */
  spoken?: Spoken;
  /** Nothing has happened yet: states hold what they hold at first, but for these, by their keys. */
  untouched?: ReadonlyMap<string, Expr>;
}
