import { declares, type Environment, type SetupFile } from '../../environment/facts/environment.js';
import { basename, dirname, isAbsolute, packageOf, relativeTo } from '../../util/paths.js';
import { nearest } from '../../util/nearest.js';
import type { ProjectCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import type { ProjectContext } from '../questions/context.js';
import { unique } from '../questions/packages.js';

const message = (text: string, key: string): string =>
  `The set-up file ${text}, named by ${key}, is not there.`;
const advice = (found: string | undefined): string =>
  found ? `The nearest file that exists is ${found}.` : 'Write the file, or take the entry out.';

/** A set-up file that the settings name and that does not exist: no spec file starts. */
export const E04: ProjectCheck = {
  code: 'E04',
  family: 'environment',
  scope: 'project',
  title: 'Set-up file is configured but missing',
  level: 'blocker',
  why: 'The runner stops before the first spec, or runs all of them without the matchers and stand-ins that the file was to bring.',
  certain: 'Sure where the path is written out, and no such file is there.',
  trouble: "setupFiles: ['./test/setpu.ts']",
  mended: "setupFiles: ['./test/setup.ts']",
  run: (context) =>
    unique(
      context.environments.flatMap((environment) =>
        environment.runners.flatMap((runner) => {
          const files = runner.setupFiles.known ? runner.setupFiles.value : [];
          return files
            .filter((file) => isMissing(file, context) && !isPackage(file, environment))
            .map((file) => found(file, context, runner.folder));
        }),
      ),
    ),
};

/** Whether a set-up file of a package is missing: what it was to bring is missing as well. */
export const lacksSetup = (environment: Environment, context: ProjectContext): boolean =>
  environment.runners.some(
    ({ setupFiles }) =>
      setupFiles.known &&
      setupFiles.value.some((file) => isMissing(file, context) && !isPackage(file, environment)),
  );

const isMissing = ({ candidates }: SetupFile, { files }: ProjectContext): boolean =>
  candidates.length > 0 && candidates.every((path) => files.kind(path) !== 'file');

function isPackage({ text }: SetupFile, environment: Environment): boolean {
  if (text.startsWith('.') || text.startsWith('/') || text.startsWith('<')) return false;
  return declares(environment, packageOf(text));
}

function found(file: SetupFile, { files, sourceOf }: ProjectContext, folder: string): Finding {
  const [wanted = ''] = file.candidates;
  const around = files.list(folder, ['**/node_modules/**', '**/dist/**', '**/.*/**'], () => undefined);
  const stem = (path: string): string => basename(path).replace(/\.[^.]*$/, '');
  const scripts = around.filter((path) => /\.[cm]?[jt]sx?$/.test(path) && !/\.(?:spec|test)\./.test(path));
  const sameFolder = scripts.filter((path) => dirname(path) === dirname(wanted));
  const sameName = scripts.find((path) => stem(path) === stem(wanted));
  const name = nearest(stem(wanted), sameFolder.map(stem)) ?? nearest(stem(wanted), scripts.map(stem));
  const close =
    sameName ?? sameFolder.find((path) => stem(path) === name) ?? scripts.find((path) => stem(path) === name);
  const written = close && writtenLike(file.text, relativeTo(folder, close));
  // Only a path that stands there as a text can be written over.
  const { at } = file;
  const isText = sourceOf(at.file)?.text.slice(at.start + 1, at.end - 1) === file.text;
  return {
    place: at,
    certainty: 'sure',
    message: message(isAbsolute(file.text) ? relativeTo(folder, file.text) : file.text, file.key),
    advice: advice(written),
    suggestion: written,
    mend:
      written && isText
        ? {
            summary: `Name ${written}`,
            safe: true,
            edits: [{ ...at, start: at.start + 1, end: at.end - 1, text: written }],
          }
        : undefined,
  };
}

function writtenLike(text: string, path: string): string {
  if (text.startsWith('<rootDir>')) return `<rootDir>/${path}`;
  return text.startsWith('./') ? `./${path}` : path;
}
