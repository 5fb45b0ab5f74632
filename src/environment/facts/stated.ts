import type { Place } from '../../finding.js';
import { resolve } from '../../util/paths.js';
import { known } from '../settings/setting.js';
import type { RunnerName } from '../tables/runners.js';
import type { RunnerFacts } from './environment.js';
import { prefixRule } from '../../host/leads.js';
import { withExtensions } from './found.js';

/** Facts of a run that the project states by hand; paths and globs from its root. */
export interface StatedFacts {
  runner?: RunnerName | undefined;
  settings?: string | undefined;
  document?: string | undefined;
  setupFiles?: readonly string[] | undefined;
  collects?: readonly string[] | undefined;
  globals?: boolean | undefined;
  aliases?: Readonly<Record<string, string>> | undefined;
  transforms?: true | undefined;
}

/** The facts of a runner with those that are stated in their place. `root`: the absolute folder that they are stated for. */
export function withStated(facts: RunnerFacts, stated: StatedFacts, root: string): RunnerFacts {
  const { document, setupFiles, collects, globals, aliases, transforms } = stated;
  const at: Place = { file: resolve(root, 'wexlet.json'), start: 0, end: 0 };
  const rules = Object.entries(aliases ?? {}).map(([name, path]) =>
    prefixRule(name, resolve(root, path), at),
  );
  return {
    ...facts,
    ...(aliases
      ? { aliases: known(rules), leads: { ...facts.leads, rules: [...rules, ...facts.leads.rules] } }
      : {}),
    ...(document === undefined ? {} : { document: known(document, at) }),
    ...(globals === undefined ? {} : { globals: known(globals, at) }),
    ...(transforms ? { transforms: known({ by: 'stated', at } as const) } : {}),
    ...(setupFiles
      ? {
          setupFiles: known(
            setupFiles.map((text) => ({
              text,
              at,
              key: 'setupFiles',
              candidates: withExtensions(resolve(root, text)),
            })),
          ),
        }
      : {}),
    ...(collects
      ? {
          collects: known({
            folder: root,
            include: collects,
            exclude: [],
            patterns: [],
            leftOut: [],
            roots: [root],
            at,
            byDefault: false,
          }),
        }
      : {}),
  };
}
