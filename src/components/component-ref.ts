/** How a component names another: declared in the same file or, where it was handed over, in another one; or imported. */
export type ComponentRef =
  /** `part`: what it is given as a part of it: `<Lid.Handle />`. */
  | { local: string; file?: string; part?: string }
  | { specifier: string; name: string; part?: string }
  | { selector: string }
  /** A function, a class or an object of options, wherever it stands: by the offset where it starts. */
  | { at: number; file: string };

/** A component by the reference of a file to it. */
export interface NamedComponent {
  ref: ComponentRef;
  file: string;
}
