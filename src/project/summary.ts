import { looseTagsOf, type LooseTag } from '../components/frameworks/react/loose-tags.js';
import type { Span } from '../finding.js';
import type { Node, Program } from 'oxc-parser';
import type { Libraries } from '../libraries/index.js';
import type { Script } from '../syntax/script.js';
import { templateFiles } from '../components/frameworks/angular/angular-class.js';
import { HANDS_ON, refOf, unwrappedComponent } from '../components/frameworks/react/react.js';
import type { Component, ComponentRef } from '../components/view.js';
import { partsIn } from '../syntax/parts.js';
import { handedOnIn, hasNode, pathOf, unwrapped } from '../syntax/tree.js';
import { addedMatchers, NO_MATCHERS, type AddedMatchers } from './added-matchers.js';
import type { Import, ImportedModule, ModuleFacts } from '../syntax/module-facts.js';
import { firstRun, firstRuns, type FirstRun } from './first-run.js';
import { unboundNames } from '../syntax/unbound-names.js';
import { runningIds, type RunningId } from './running-ids.js';
import { callsRunner, isTestLibrary } from './specs-by-content.js';

// `Object.assign(Menu, { Item })` only adds members; @wordpress/compose counts by what it is handed.
const HARMLESS_CALLS: ReadonlySet<string> = new Set([...HANDS_ON, 'assign', 'useInstanceId']);

/** What stays in memory of a module once its trees are gone. */
export interface ModuleSummary {
  path: string;
  imports: ReadonlyMap<string, Import>;
  /** What it imports, hands on or requires, and the files that its components take their templates from. */
  modules: readonly ImportedModule[];
  /** Exported names: a local name, or an export of another module. */
  exports: ReadonlyMap<string, { local: string } | { specifier: string; name: string }>;
  stars: readonly string[];
  components: readonly Component[];
  /** The components that it gives to others as parts, by the name of those and of the part. */
  parts: ReadonlyMap<string, ReadonlyMap<string, ComponentRef>>;
  /** Its components that it hands to a function that may render them in any way, but for those in `wrappers`. */
  handedOn: ReadonlySet<string>;
  /** The components in its JSX that stand in the markup of none of its own. */
  looseTags: readonly LooseTag[];
  /** Its names, `default` too, for what a call gives that is handed components, with these: `connect(…)(Lid)`. */
  wrappers: ReadonlyMap<string, ReadonlySet<string>>;
  /** Matchers that it adds to `expect`. */
  addedMatchers: AddedMatchers;
  /** Numbers that it counts up for ids. */
  runningIds: readonly RunningId[];
  /** What its components and hooks surely call when they run first. */
  firstRuns: ReadonlyMap<string, FirstRun>;
  /** Names that it reads, and that neither it nor the platform gives. */
  unbound: ReadonlyMap<string, readonly Span[]>;
  /** It calls a runner's functions for groups or specs at its top level. */
  definesSpecs: boolean;
  /** It imports a library that specs are written with. */
  usesTestLibrary: boolean;
  /** It is written with JSX. */
  jsx: boolean;
  /** A comment chooses what its JSX becomes. */
  choosesJsx: boolean;
  /** The languages of the blocks of a single-file component, but for its scripts. */
  languages: readonly (Span & { lang: string })[];
  /** It asks for `import.meta`, which only an ES module has. */
  usesMeta: boolean;
  /** It is written with `import` or `export`. */
  isModule: boolean;
}

/** Sums up a script and the components that were found in it. */
export function summaryOf(
  script: Script,
  facts: ModuleFacts,
  components: readonly Component[],
  libraries: Libraries,
): ModuleSummary {
  const { program, source } = script;
  const usesTestLibrary = [...facts.imports.values()].some(
    ({ specifier, typeOnly }) => !typeOnly && isTestLibrary(specifier, libraries),
  );
  const definesSpecs = callsRunner(program, facts, libraries);
  const unbound = unboundNames(program);
  const wrappers = wrappersIn(facts);
  return {
    ...shippedSummary(script, facts, components),
    modules: [...templateFiles(script), ...facts.modules],
    handedOn: handedOnIn(
      program,
      new Set(components.flatMap(({ name, framework }) => (framework === 'react' ? name : []))),
      HARMLESS_CALLS,
      { passing: [...wrappers.values()].flat() },
    ),
    looseTags: looseTagsOf(script, facts, components),
    wrappers: new Map(
      [...wrappers].map(([name, handed]) => [name, new Set(handed.map((each) => each.name))]),
    ),
    addedMatchers: addedMatchers(script, facts),
    runningIds: runningIds(script, facts),
    firstRuns: firstRuns(program, facts, unbound),
    unbound,
    definesSpecs,
    usesTestLibrary,
    jsx: usesJsx(script),
    choosesJsx: source.text.includes('@jsx') && script.comments.some(({ value }) => /@jsx/.test(value)),
    languages: [],
    usesMeta: usesMeta(script),
    isModule: program.body.some(({ type }) => /^(?:Import|Export)/.test(type)),
  };
}

/** Sums up a script of an installed package: nobody asks more of it than what it gives out and shows. */
export const shippedSummary = (
  script: Script,
  facts: ModuleFacts,
  components: readonly Component[],
): ModuleSummary => ({
  ...NOTHING_ELSE,
  path: script.source.path,
  imports: facts.imports,
  modules: facts.modules,
  exports: exportsOf(facts, components),
  stars: facts.stars,
  components,
  parts: componentParts(script, facts),
});

function exportsOf(
  facts: ModuleFacts,
  components: readonly Component[],
): Map<string, { local: string } | { specifier: string; name: string }> {
  const exports = new Map(
    [...facts.exports].map(
      ([name, found]) => [name, 'node' in found ? { local: 'default' } : found] as const,
    ),
  );
  const unnamed = components.find((component) => !facts.declarations.has(component.name));
  const found = exports.get('default');
  if (unnamed && found && 'local' in found && found.local === 'default')
    exports.set('default', { local: unnamed.name });
  return exports;
}

function wrappersIn({ declarations, exports }: ModuleFacts): Map<string, IdentifierNode[]> {
  const found = new Map<string, IdentifierNode[]>();
  const note = (name: string, node: Node | null): void => {
    const handed = node ? componentsHandedIn(node) : [];
    if (handed.length > 0) found.set(name, handed);
  };
  for (const [name, node] of declarations) if (node.type === 'VariableDeclarator') note(name, node.init);
  const whole = exports.get('default');
  if (whole && 'node' in whole) note('default', whole.node);
  return found;
}

type IdentifierNode = Extract<Node, { type: 'Identifier' }>;

// The names of components that a call is handed, or a call in it.
function componentsHandedIn(node: Node): IdentifierNode[] {
  const call = unwrapped(node);
  if (call.type !== 'CallExpression') return [];
  return call.arguments.flatMap((each) =>
    each.type !== 'Identifier' ? componentsHandedIn(each) : /^_?[A-Z]/.test(each.name) ? [each] : [],
  );
}

const NOTHING_ELSE = {
  parts: new Map(),
  handedOn: new Set<string>(),
  looseTags: [],
  wrappers: new Map<string, ReadonlySet<string>>(),
  addedMatchers: NO_MATCHERS,
  runningIds: [],
  firstRuns: new Map<string, FirstRun>(),
  unbound: new Map<string, Span[]>(),
  definesSpecs: false,
  usesTestLibrary: false,
  jsx: false,
  choosesJsx: false,
  languages: [],
  usesMeta: false,
  isModule: true,
};

function componentParts(
  { program, source }: Script,
  facts: ModuleFacts,
): Map<string, Map<string, ComponentRef>> {
  const found = new Map<string, Map<string, ComponentRef>>();
  for (const [owner, parts] of partsIn(program.body as readonly Node[]))
    for (const [part, node] of parts) {
      const inner = unwrapped(node);
      // `Item: Object.assign(MenuItem, { … })` is the one that it is made of.
      const named = unwrappedComponent(node);
      const path = pathOf(named?.type === 'Identifier' ? named : inner);
      const ref = path === undefined ? { at: inner.start, file: source.path } : refOf(path, facts);
      if (ref) found.set(owner, (found.get(owner) ?? new Map<string, ComponentRef>()).set(part, ref));
    }
  return found;
}

/** Sums up a single-file component, which its module exports by default. */
export const summaryOfSingleFile = (
  path: string,
  facts: ModuleFacts,
  component: Component,
  program: Program,
  languages: ModuleSummary['languages'],
): ModuleSummary => {
  const unbound = unboundNames(program);
  return {
    ...NOTHING_ELSE,
    languages,
    path,
    imports: facts.imports,
    modules: facts.modules,
    exports: new Map([...exportsOf(facts, [component]), ['default', { local: component.name }]]),
    stars: [],
    components: [component],
    unbound,
    firstRuns: new Map([[component.name, firstRun(program.body, facts.imports, unbound)]]),
  };
};

// `import.meta`
const usesMeta = ({ program, source: { text } }: Script): boolean =>
  text.includes('import.meta') &&
  hasNode(program, (node) => node.type === 'MetaProperty' && node.meta.name === 'import');

// Calls that stand for markup have become elements of the tree: what is written starts with its sign.
const usesJsx = ({ program, source: { text } }: Script): boolean =>
  (text.includes('</') || text.includes('/>')) &&
  hasNode(
    program,
    (node) => (node.type === 'JSXElement' || node.type === 'JSXFragment') && text[node.start] === '<',
  );
