import type { AliasRule, Leads } from '../host/leads.js';
import { foldersUp, isWithin } from '../util/paths.js';
import type { CompilerSettings } from './compiler-settings.js';
import type { Environment } from './facts/environment.js';

/** The compiler settings from a folder up to one that holds it, inner first. */
export const compilersUp = (
  from: string,
  top: string,
  compilersIn: (folder: string) => readonly CompilerSettings[],
): CompilerSettings[] =>
  foldersUp(from)
    .filter((at) => isWithin(top, at))
    .flatMap(compilersIn);

/**
 * Where the imports of the files of a folder lead: by the runners of its package, then by the compilers around it, the
 * nearest first. Rules of several runners that say different things of one pattern are left out.
 */
export function leadsOf(
  from: string,
  { runners, folder, outer }: Environment,
  compilersIn: (folder: string) => readonly CompilerSettings[],
): Leads {
  const top = outer.at(-1)?.folder ?? folder;
  const compilers = compilersUp(from, top, compilersIn);
  const run = runners.flatMap(({ leads }) => leads.rules);
  const isClear = ({ pattern, to }: AliasRule): boolean =>
    run.every((each) => each.pattern !== pattern || each.to === to);
  const all = [...runners, ...compilers].map(({ leads }) => leads);
  const isSeen =
    runners.length > 0 && runners.every(({ aliases, setupFiles }) => aliases.known && setupFiles.known);
  return {
    rules: [...run.filter(isClear), ...compilers.flatMap(({ leads }) => leads.rules)],
    folders: all.flatMap(({ folders }) => folders),
    ...(isSeen ? { standIns: [folder, ...outer.map((each) => each.folder)] } : {}),
  };
}
