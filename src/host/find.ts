import picomatch from 'picomatch';
import { basename, isWithin } from '../util/paths.js';
import type { Files } from './files.js';
import { withoutCompiledCopies } from './compiled-copies.js';
import { notIgnored } from './ignored.js';

/** Folders that hold dependencies, build output or tools' own data. */
const LEFT_OUT =
  '**/{node_modules,.git,dist,build,build-module,build-types,out,esm,coverage,bower_components,.next,.nuxt,.output,.svelte-kit,.angular,.cache,.yarn,.turbo,storybook-static}/**';

/** Every file that an audit looks at, by what it can be. Paths are absolute and sorted. */
export interface Candidates {
  /** Scripts and single-file components that are no spec files by their name. */
  sources: string[];
  /** Files that are spec files by the usual names and folders, or by the settings. */
  specs: string[];
}

const USUAL_NAME = /(?:^|[./_-])(?:spec|test|specs|tests)\.[cm]?[jt]sx?$/;
const USUAL_FOLDER = /(?:^|\/)__tests__\/(?:.*\/)?[^/]+\.[cm]?[jt]sx?$/;
const READABLE = /\.(?:[cm]?[jt]sx?|vue)$/;
const DECLARATIONS = /\.d\.(?:[\w-]+\.)?[cm]?ts$/;

/** Whether a path is one of a spec file by the usual names and folders. */
const isUsualSpec = (path: string): boolean => USUAL_NAME.test(basename(path)) || USUAL_FOLDER.test(path);

/** Finds the files below the given files and folders. `specs`: globs from the root that stand in for the usual names. */
export function findCandidates(
  files: Files,
  root: string,
  paths: readonly string[],
  options: { specs: readonly string[] | undefined; exclude: readonly string[] },
  onUnreadable: (folder: string, reason: string) => void,
): Candidates {
  const ignore = [LEFT_OUT, ...options.exclude];
  const all = new Set(
    paths.flatMap((path) =>
      files.kind(path) === 'folder'
        ? notIgnored(files, path, files.list(path, ignore, onUnreadable))
        : [path],
    ),
  );
  const relative = (path: string): string =>
    isWithin(root, path) ? path.slice(root.length).replace(/^\//, '') : path;
  const named = options.specs && picomatch([...options.specs], { dot: true });
  const isSpec = (path: string): boolean => (named ? named(relative(path)) : isUsualSpec(relative(path)));
  const scripts = [...all].filter((path) => READABLE.test(path) && !DECLARATIONS.test(path)).sort();
  const readable = withoutCompiledCopies(files, scripts);
  return {
    specs: readable.filter((path) => !path.endsWith('.vue') && isSpec(path)),
    sources: readable.filter((path) => path.endsWith('.vue') || !isSpec(path)),
  };
}
