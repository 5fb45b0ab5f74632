import { LEVELS } from '../finding.js';
import { AUDIT_FORMATS, GAPS_FORMATS } from '../formats/registry.js';
import { Command, CommanderError, InvalidArgumentError, Option } from 'commander';
import { ownVersion } from '../util/own-package.js';
import { EXIT } from './exit.js';

const COVERAGE = 'coverage files (LCOV, Cobertura XML, JSON coverage map), with commas between';

const CACHE = 'keep answers for the next run in this folder, instead of where the project keeps caches';
const NO_CACHE = 'work everything out anew, and keep nothing';

const list = (text: string): string[] =>
  text
    .split(',')
    .map((each) => each.trim())
    .filter(Boolean);

function checked(text: string): string[] {
  const names = list(text);
  if (names.length === 0) throw new InvalidArgumentError('Give codes or families, such as S01,queries.');
  return names;
}

function program(): Command {
  const wexlet = new Command('wexlet')
    .description(
      'Audits a whole suite of component tests before a merge: what is wrong, where, the evidence, the mend.',
    )
    .version(ownVersion())
    .showHelpAfterError('(wexlet --help lists the commands)')
    .exitOverride()
    .configureHelp({ showGlobalOptions: false })
    .addHelpText(
      'after',
      '\nExample:\n  wexlet audit src        audits what is below src and says ready or hold\n\nExit codes: 0 ready · 1 hold · 2 bad usage or configuration · 3 nothing to audit · 4 Wexlet failed',
    );

  wexlet
    .command('audit [paths...]')
    .description('audit the project at the current folder, or the given folders and files')
    .addOption(
      new Option('--format <format>', 'how to print the report')
        .choices(Object.keys(AUDIT_FORMATS))
        .default('text'),
    )
    .option('--out <file>', 'write the report to a file instead of printing it')
    .option('--only <names>', 'only these families or codes, with commas between', checked)
    .addOption(
      new Option('--hold-at <level>', 'the lowest level that makes the verdict hold (default: risk)').choices(
        LEVELS,
      ),
    )
    .option('--coverage <files>', COVERAGE, list)
    .option('--all', 'do not shorten lists', false)
    .option('--strict', 'hold as well where it is not sure that the suite runs', false)
    .option('--cache <folder>', CACHE)
    .option('--no-cache', NO_CACHE)
    .option('--no-color', 'no colours')
    .addHelpText('after', '\nExample:\n  wexlet audit --only state,cleanup --hold-at blocker')
    .action(async (paths: string[], options) =>
      (await import('./commands/audit.js')).runAudit(paths, options),
    );

  wexlet
    .command('mend [paths...]')
    .description('print the mends as a unified diff, or write them')
    .option('--write', 'change the files', false)
    .option('--only <names>', 'only these codes or families, with commas between', checked)
    .option('--likely', 'also mends that may change what a spec proves', false)
    .option('--cache <folder>', CACHE)
    .option('--no-cache', NO_CACHE)
    .option('--no-color', 'no colours')
    .addHelpText('after', '\nExample:\n  wexlet mend --only S01 --write')
    .action(async (paths: string[], options) => (await import('./commands/mend.js')).runMend(paths, options));

  wexlet
    .command('gaps [paths...]')
    .description('what no spec exercises: arms with the inputs that take them, components, events')
    .addOption(
      new Option('--format <format>', 'how to print it').choices(Object.keys(GAPS_FORMATS)).default('text'),
    )
    .option('--out <file>', 'write it to a file instead of printing it')
    .option('--coverage <files>', COVERAGE, list)
    .option('--stubs', 'print pending specs to fill in', false)
    .option('--write', 'with --stubs: add them to their spec files', false)
    .option('--all', 'do not shorten lists', false)
    .option('--cache <folder>', CACHE)
    .option('--no-cache', NO_CACHE)
    .option('--no-color', 'no colours')
    .addHelpText('after', '\nExample:\n  wexlet gaps src --stubs')
    .action(async (paths: string[], options) => (await import('./commands/gaps.js')).runGaps(paths, options));

  wexlet
    .command('outline [file]')
    .description(
      'what Wexlet understood: how the suite runs, the steps and reaches of a spec file, or what a component shows',
    )
    .option('--no-color', 'no colours')
    .addHelpText(
      'after',
      '\nExample:\n  wexlet outline src/kiln-card.spec.tsx\n  wexlet outline src/kiln-card.tsx',
    )
    .action(async (file: string | undefined, options) =>
      (await import('./commands/outline.js')).runOutline(file, options),
    );

  wexlet
    .command('explain [code]')
    .description('what a check is for, with the trouble and the mend; without a code, all of them in short')
    .option('--no-color', 'no colours')
    .addHelpText('after', '\nExample:\n  wexlet explain S01')
    .action(async (code: string | undefined, options) =>
      (await import('./commands/explain.js')).runExplain(code, options),
    );

  wexlet
    .command('demo')
    .description('copy the demo suite to a temporary folder and audit it there')
    .option('--all', 'do not shorten lists', false)
    .option('--no-color', 'no colours')
    .addHelpText('after', '\nExample:\n  wexlet demo --all')
    .action(async (options) => (await import('./commands/demo.js')).runDemo(options));

  return wexlet;
}

/** Runs a command line, the words after the program's name, with the streams of this process; sets the exit code. */
export async function runCommandLine(words: readonly string[]): Promise<void> {
  try {
    await program().parseAsync(words, { from: 'user' });
  } catch (error) {
    process.exitCode = await codeOf(error);
  }
}

async function codeOf(error: unknown): Promise<number> {
  // Commander has printed what is wrong; help and version are no failures.
  if (error instanceof CommanderError) return error.exitCode === 0 ? EXIT.ready : EXIT.usage;
  return (await import('./failure.js')).reportFailure(error);
}
