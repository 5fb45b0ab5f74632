import { ADDED_MATCHERS, MATCHERS } from '../questions/facts.js';
import { MATCHER_EXTENSIONS, type MatcherExtension } from '../../libraries/matchers.js';
import { has, type Environment } from '../../environment/facts/environment.js';
import type { Mend, Finding } from '../../finding.js';
import { styleOf } from '../../writing/edits/style.js';
import { type ProjectCheck } from '../questions/check.js';
import { inSpecFile, type ProjectContext, type SpecFileFacts } from '../questions/context.js';
import { firstMatcher, lackingMatchers } from '../questions/lacking.js';
import { isKnown } from '../questions/setup-effects.js';
import { lostSetup } from './E04.js';
import { andMore, packagesWithSpecs, type Package } from '../questions/packages.js';

const message = (matcher: string, module: string, files: readonly unknown[]): string =>
  `${matcher} is used here${andMore(files)}, and nothing that runs before the specs loads ${module}.`;
const messageHanded = (matcher: string, module: string, files: readonly unknown[]): string =>
  `${matcher} is used here${andMore(files)}, and nothing that runs before the specs registers ${module}.`;
const advice = (line: string, where: string, install: string | undefined): string =>
  `${install ? `Install ${install}, and load it` : 'Load it'} in ${where}: ${line}`;
const adviceHanded = (line: string, where: string, install: string | undefined): string =>
  `${install ? `Install ${install}, and register it` : 'Register it'} in ${where}: ${line}`;

/** A matcher of an extension that no set-up file, setting or import brings. */
export const E06: ProjectCheck = {
  code: 'E06',
  family: 'environment',
  scope: 'project',
  facts: [ADDED_MATCHERS, MATCHERS],
  title: 'Matcher that nobody registered',
  level: 'blocker',
  why: 'The call of a matcher that is not there throws: every spec that uses it is red, whatever the component does.',
  certain: 'Sure where every set-up file of the run can be read.',
  trouble: '// test/setup.ts is empty\nexpect(card).toBeInTheDocument();',
  mended: "// test/setup.ts\nimport '@testing-library/jest-dom/vitest';",
  run: (context) => packagesWithSpecs(context).flatMap((each) => check(each, context)),
};

function check({ environment, specFiles }: Package, context: ProjectContext): Finding[] {
  const follows = lostSetup(environment, context);
  const files = specFiles.filter(({ path }) => isKnown(context.setupOf(path)));
  return MATCHER_EXTENSIONS.flatMap((extension) => {
    const lacking = lackingMatchers(files, extension, environment, context);
    const [first] = lacking;
    return first ? [{ ...found(first, lacking, extension, environment, context), follows }] : [];
  });
}

function found(
  first: SpecFileFacts,
  lacking: readonly SpecFileFacts[],
  extension: MatcherExtension,
  environment: Environment,
  context: ProjectContext,
): Finding {
  const [matcher, place] = firstMatcher(first, extension) ?? ['', { start: 0, end: 0 }];
  const [runner] = environment.runnersOf(first.path);
  const [module = ''] = extension.modules.filter((name) => has(environment, name)).concat(extension.modules);
  const load = extension.load && (extension.load[runner?.runner ?? 'other'] ?? extension.load['other']);
  const setup = context.setupOf(first.path)?.files.at(-1);
  const isThere = has(environment, module);
  const line = load ? `import '${load}';` : extension.statements?.[module];
  const target = setup ?? (lacking.length === 1 ? first.path : undefined);
  return {
    place: inSpecFile(first, place),
    certainty: 'sure',
    message: (load ? message : messageHanded)(matcher, module, lacking),
    advice: (load ? advice : adviceHanded)(
      line ?? '',
      setup ? 'the set-up file' : 'a set-up file that the settings name',
      isThere ? undefined : module,
    ),
    evidence: setup
      ? [
          {
            file: setup,
            start: 0,
            end: 0,
            note: `this set-up file does not ${load ? 'load' : 'register'} it`,
          },
        ]
      : [],
    mend: isThere && target && load ? loading(target, load, context) : undefined,
  };
}

// An import, or a `require` in a file that has some of those and no import.
function loading(path: string, module: string, context: ProjectContext): Mend | undefined {
  const source = context.sourceOf(path);
  const tree = context.project.tree(path);
  if (!source || !tree) return undefined;
  const { newline, semicolon, quote } = styleOf(source.text);
  const { body } = tree.script.program;
  const isModule = body.some(({ type }) => type.startsWith('Import') || type.startsWith('Export'));
  const isCommon = path.endsWith('.cjs') || (!isModule && tree.facts.modules.length > 0);
  const line = isCommon ? `require(${quote}${module}${quote})` : `import ${quote}${module}${quote}`;
  const at = body[0]?.start ?? 0;
  const edit = { file: path, start: at, end: at, text: `${line}${semicolon || ';'}${newline}` };
  return { summary: `Load ${module}`, safe: true, edits: [edit] };
}
