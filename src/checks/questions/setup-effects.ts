import { isBabelHook, isCompileHook, isStyleHook } from '../../environment/tables/compile-hooks.js';
import { isMatcherExtension } from '../../libraries/matchers.js';
import type { Files } from '../../host/files.js';
import type { Place } from '../../finding.js';
import type { RunnerFacts } from '../../environment/facts/environment.js';
import { reachableFrom } from '../../project/reachable.js';
import type { Project } from '../../project/project.js';
import { readSpecFile } from '../../specs/reader/suite.js';
import type { Block } from '../../specs/model/blocks.js';
import type { Step } from '../../specs/model/steps.js';
import { isScript } from '../../syntax/script.js';
import { packageOf } from '../../util/paths.js';

/** What set-up files do for every spec. */
export interface SetupEffects {
  /** The steps of their each-hooks, and what they register to run around each spec. */
  steps: readonly Step[];
  /** Their calls that can't be read. */
  unread: readonly { name: string; place: Place }[];
  /** What they replace by stand-ins: modules as they are written, and files. */
  replaced: ReadonlySet<string>;
  /** The set-up files that are there, in their order. */
  files: readonly string[];
  /** Packages that they load, through files of the project too. */
  packages: ReadonlySet<string>;
  /** Names of matchers that they add by themselves. */
  matchers: ReadonlySet<string>;
  /** They add matchers whose names can't be read. */
  openMatchers: boolean;
  /** The packages among these that may do anything: where there are some, no conclusion from what is missing. */
  strangers: readonly string[];
  /** They put a document in place. */
  bringsDocument: boolean;
}

/** Whether all that a set-up loads is known, so that what it does not do is not done. */
export const isKnown = (setup: SetupEffects | undefined): boolean => setup?.strangers.length === 0;

/** Reads the set-up files of some runners; undefined where one of them, or their list, can't be read. `isShipped`: whether the project has a package for its users. */
export function setupEffects(
  runners: readonly RunnerFacts[],
  files: Files,
  project: Project,
  isShipped: (name: string) => boolean = () => false,
): SetupEffects | undefined {
  if (runners.length === 0) return undefined;
  const paths: string[] = [];
  const packages = new Set<string>();
  for (const { setupFiles } of runners) {
    if (!setupFiles.known) return undefined;
    for (const { text, candidates, at } of setupFiles.value) {
      const path =
        candidates.find((candidate) => isScript(candidate) && files.kind(candidate) === 'file') ??
        // A file of another package of the workspace.
        (candidates.length === 0 ? project.resolve(at.file, text) : undefined);
      if (path) paths.push(path);
      else if (candidates.length === 0) packages.add(text);
    }
  }
  const steps: Step[] = [];
  const unread: { name: string; place: Place }[] = [];
  const matchers = new Set<string>();
  const replaced = new Set<string>();
  let open = false;
  for (const path of paths) {
    const tree = project.tree(path);
    if (!tree) return undefined;
    const {
      blocks,
      root,
      replaced: standIns,
    } = readSpecFile(project, tree, { render: [], act: [], assert: [] });
    for (const each of standIns) replaced.add(each);
    const own = blocks.filter(isEach).flatMap((block) => block.steps);
    steps.push(...own);
    for (const step of own)
      if (step.kind === 'unknown-call')
        unread.push({ name: step.name, place: step.via ?? { file: path, ...step.place } });
    steps.push(...root.steps.filter((step) => step.kind === 'unmount' && step.automatic));
    const { files: reached, others } = reachableFrom(project, [path]);
    for (const specifier of others) packages.add(specifier);
    for (const each of reached) {
      const added = project.summary(each)?.addedMatchers;
      added?.names.forEach((name) => matchers.add(name));
      open ||= added?.open ?? false;
    }
  }
  const bringsDocument = [...packages].some((name) => DOCUMENTS.has(name));
  return {
    steps,
    unread,
    replaced,
    files: paths,
    packages,
    matchers,
    openMatchers: open,
    // What the project ships to its users is no tool for specs.
    strangers: [...packages].filter(
      (name) => !isHarmless(name) && !project.libraries.of(name) && !isShipped(packageOf(name)),
    ),
    bringsDocument,
  };
}

const isEach = (block: Block): boolean => block.hook === 'after-each' || block.hook === 'before-each';

/** Packages that put a document in place. */
export const DOCUMENTS: ReadonlySet<string> = new Set([
  'jsdom',
  'jsdom-global',
  'jsdom-global/register',
  'global-jsdom',
  'global-jsdom/register',
  'happy-dom',
  '@happy-dom/global-registrator',
  'linkedom',
  'domino',
]);

// Packages of set-up files that bring neither matchers nor a document: frameworks, polyfills, fakes of platform parts.
const HARMLESS =
  /^(?:node:.*|react(?:-dom)?(?:\/.*)?|vue|@angular\/.*|zone\.js(?:\/.*)?|rxjs(?:\/.*)?|core-js(?:\/.*)?|whatwg-fetch|cross-fetch(?:\/.*)?|regenerator-runtime(?:\/.*)?|reflect-metadata|fake-indexeddb(?:\/.*)?|msw(?:\/.*)?|(?:jest|vitest)-canvas-mock|resize-observer-polyfill|intersection-observer|react-app-polyfill\/.*|(?:@babel\/|babel-)polyfill|ts-helpers|tslib|intl(?:\/.*)?|hammerjs|web-animations-js|classlist\.js|enzyme(?:-to-json.*)?|chai(?:-[\w-]+)?|(?:sinon|dirty)-chai|(?:@wojtekmaj\/|@zarconontol\/|@cfaester\/)?enzyme-adapter-[\w.-]+|jest-preset-angular(?:\/.*)?|@analogjs\/vitest-angular\/setup-.*|@storybook\/.*|sinon|util|path|fs|crypto|stream)$/;

// A style sets no words, whatever it looks like.
const STYLE = /\.(?:css|s[ac]ss|less|styl(?:us)?|pcss)(?:\?.*)?$/;

const isHarmless = (name: string): boolean =>
  HARMLESS.test(name) ||
  STYLE.test(name) ||
  isMatcherExtension(name) ||
  DOCUMENTS.has(name) ||
  [isBabelHook, isCompileHook, isStyleHook].some((is) => is(name));
