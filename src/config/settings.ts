import type { Level } from '../finding.js';
import type { Config } from './schema.js';

/** Names of a project's own helper functions, by what they do. */
export interface HelperNames {
  render: readonly string[];
  act: readonly string[];
  assert: readonly string[];
}

/** How large specs and groups may be: assertions of a spec, specs of a group, levels of groups. */
export interface Limits {
  assertions: number;
  specs: number;
  levels: number;
}

/** The settings of an audit, defaults filled in. */
export interface Settings {
  specs: readonly string[] | undefined;
  components: readonly string[] | undefined;
  exclude: readonly string[];
  coverage: readonly string[] | undefined;
  holdAt: Level;
  checks: ReadonlyMap<string, Level | 'off'>;
  helpers: HelperNames;
  limits: Limits;
  testIdAttribute: string;
  /** Facts of the run that the project states by hand. */
  run: NonNullable<Config['run']>;
}

/** Fills a configuration up with defaults. */
export function settingsFrom(config: Config = {}): Settings {
  return {
    specs: config.specs,
    components: config.components,
    exclude: config.exclude ?? [],
    coverage: config.coverage,
    holdAt: config.holdAt ?? 'risk',
    checks: new Map(Object.entries(config.checks ?? {})),
    helpers: {
      render: config.helpers?.render ?? [],
      act: config.helpers?.act ?? [],
      assert: config.helpers?.assert ?? [],
    },
    limits: { assertions: 20, specs: 40, levels: 5, ...config.limits },
    testIdAttribute: config.testIdAttribute ?? 'data-testid',
    run: config.run ?? {},
  };
}
