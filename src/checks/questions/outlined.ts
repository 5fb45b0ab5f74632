import { hash } from 'node:crypto';
import type { Statement } from '../../specs/model/body.js';
import type { FileContext } from './context.js';

/** A key that only the same code has. */
export const codeKey = (code: string): string => hash('sha256', code).slice(0, 24);

/** A key of statements that others have as well which differ in values and in some names alone. */
export const outlineKey = (statements: readonly Statement[], names: ReadonlySet<string>): string =>
  codeKey(statements.map((each) => each.outline(names)).join('\n'));

/** The names by which a spec file knows what it imports of the project: what its specs are about. */
export const projectNames = ({ file, project }: FileContext): ReadonlySet<string> =>
  new Set(
    [...file.imports].flatMap(([name, { specifier, typeOnly }]) =>
      !typeOnly && project.resolve(file.path, specifier) ? [name] : [],
    ),
  );
