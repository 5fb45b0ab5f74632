import * as v from 'valibot';
import { LEVELS } from '../finding.js';
import { RUNNER_NAMES } from '../environment/tables/runners.js';

const globs = (about: string) => v.pipe(v.array(v.string()), v.description(about));
const level = v.picklist(LEVELS);
const names = (about: string) => v.optional(v.pipe(v.array(v.string()), v.description(about)));

const limit = (about: string) =>
  v.optional(v.pipe(v.number(), v.integer(), v.minValue(1), v.description(about)));

/** The shape of `wexlet.json`. The JSON Schema that editors use is made from it. */
export const ConfigSchema = v.strictObject({
  $schema: v.optional(v.string()),
  specs: v.optional(globs('Globs of spec files, instead of the usual names and folders.')),
  components: v.optional(globs('Globs of the files whose components count; all files by default.')),
  exclude: v.optional(globs('Globs of files to leave out, besides dependencies and build output.')),
  coverage: v.optional(
    globs(
      'Coverage files, or globs of them (LCOV, Cobertura XML, JSON coverage map); the usual places by default.',
    ),
  ),
  holdAt: v.optional(
    v.pipe(level, v.description('The lowest level that makes the verdict hold; risk by default.')),
  ),
  checks: v.optional(
    v.pipe(
      v.record(v.string(), v.picklist([...LEVELS, 'off'])),
      v.description('A level, or off, for a check by its code.'),
    ),
  ),
  helpers: v.optional(
    v.pipe(
      v.strictObject({
        render: names('Functions that put a component into the document.'),
        act: names('Functions that act on it as a user would.'),
        assert: names('Functions that assert.'),
      }),
      v.description("The project's own helper functions, by what they do."),
    ),
  ),
  limits: v.optional(
    v.pipe(
      v.strictObject({
        assertions: limit('The most assertions of one spec; 20 by default.'),
        specs: limit('The most specs of one group; 40 by default.'),
        levels: limit('The most levels of groups; 5 by default.'),
      }),
      v.description('How large specs and groups may be.'),
    ),
  ),
  run: v.optional(
    v.pipe(
      v.strictObject({
        runner: v.optional(
          v.pipe(v.picklist(RUNNER_NAMES), v.description('The runner, where nothing in sight tells it.')),
        ),
        settings: v.optional(v.pipe(v.string(), v.description('Its settings file, from the root.'))),
        document: v.optional(
          v.pipe(
            v.string(),
            v.description('The document that specs run in: jsdom, happy-dom, browser, node.'),
          ),
        ),
        setupFiles: names('Files that run before the specs, from the root.'),
        collects: names('Globs of the files that it runs, from the root.'),
        globals: v.optional(v.pipe(v.boolean(), v.description('Whether its functions are global.'))),
        aliases: v.optional(
          v.pipe(
            v.record(v.string(), v.string()),
            v.description('Names that imports begin with, and the paths that they stand for, from the root.'),
          ),
        ),
        transforms: v.optional(
          v.pipe(
            v.literal(true),
            v.description('Everything that specs load is made into something that the runner can run.'),
          ),
        ),
      }),
      v.description('How specs run, where the settings can’t be read: these facts stand for them.'),
    ),
  ),
  testIdAttribute: v.optional(
    v.pipe(v.string(), v.description('The attribute that holds test ids; data-testid by default.')),
  ),
});

/** `wexlet.json` as it is written. */
export type Config = v.InferOutput<typeof ConfigSchema>;
