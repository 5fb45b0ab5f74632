import type { FileContext } from '../checks/questions/context.js';
import type { Edit } from '../finding.js';
import { queryName } from '../libraries/queries.js';
import type { By, Missing, Writing } from '../libraries/meaning.js';
import type { Import } from '../syntax/module-facts.js';

type Context = Pick<FileContext, 'file' | 'project' | 'modules'>;

/** A name of a library as a file can write it: by its local name, with what must be added for it to be there. */
interface Written {
  name: string;
  edits: Edit[];
}

/**
 * How the library is written that has user-centred queries: of those that the file imports, else that its package has.
 * Where there is none, the words of one that could be taken.
 */
export const queryKit = ({ modules, project }: Pick<Context, 'modules' | 'project'>): Writing | undefined =>
  modules.map((module) => project.libraries.of(module)?.writes).find((writes) => writes?.queries) ??
  project.libraries.usualQueries;

/** The name of a query, in the words of the library at hand. */
export function kitQuery(
  context: Pick<Context, 'modules' | 'project'>,
  by: By,
  missing: Missing,
  waits = false,
): string | undefined {
  const queries = queryKit(context)?.queries;
  return queries && queryName(queries, by, missing, waits);
}

/** An export of a library in a file that imports it, or something else of the same module; undefined where it can't be added. */
export function exported(name: string, { file, project }: Context): Written | undefined {
  const has = ({ specifier }: Import): boolean => {
    const table = project.libraries.of(specifier);
    if (table) return Object.hasOwn(table.exports, name);
    const target = project.resolve(file.path, specifier);
    return target !== undefined && project.handedOn(target, name) !== undefined;
  };
  // A module out of sight surely has what the file takes from it.
  const isTaken = (each: Import): boolean =>
    each.name === name && (has(each) || (file.isGuessed && !project.libraries.of(each.specifier)));
  const known = [...file.imports].find(([, each]) => isTaken(each));
  if (known) return { name: known[0], edits: [] };
  if (file.bindings.some((binding) => binding.name === name)) return undefined;
  const last = [...file.imports.values()].findLast(
    (imported) => has(imported) && !imported.typeOnly && imported.name !== 'default' && imported.name !== '*',
  );
  return last && { name, edits: [{ file: file.path, start: last.end, end: last.end, text: `, ${name}` }] };
}

/** A query of the whole page, ready to paste, in the words of the library at hand. */
export function pageQuery(context: Context, by: By, args: string): string | undefined {
  const page = queryKit(context)?.page;
  const name = kitQuery(context, by, 'throws');
  return page && name && `${exported(page, context)?.name ?? page}.${name}(${args})`;
}
