import { isOnlyNamed, isOnlyCompared, isOnlyKept, unwrapped } from '../syntax/tree.js';
import type { ComponentScope, NameBinding } from '../components/scope.js';
import { functionKey, type Expr } from '../components/expr.js';
import { hasStandIn, isUntold, NO_LEADS, sentTo, type Leads } from '../host/leads.js';
import type { Files, Resolve } from '../host/files.js';
import { librariesWith, type Libraries } from '../libraries/index.js';
import type { AngularCompiler } from '../syntax/angular.js';
import { isScript, parseScript, type Script } from '../syntax/script.js';
import { decodeSource, isProblem, type Problem, type Source } from '../syntax/source.js';
import { commonExports } from '../syntax/common-exports.js';
import { parseVue } from '../syntax/vue.js';
import { dirname, isInstalled, packageOf } from '../util/paths.js';
import { sourceOfPackage } from './workspace-packages.js';
import { declarationOf, moduleFacts, type ModuleFacts } from '../syntax/module-facts.js';
import { writtenComponent } from './written-component.js';
import { givenNames } from './given-names.js';
import { PackageNames } from './package-names.js';
import { isUseOf, usesByReference, type UseByReference } from './references.js';
import { shippedSummary, summaryOf, summaryOfSingleFile, type ModuleSummary } from './summary.js';
import { angularDeclarations, tagSelectors } from '../components/frameworks/angular/angular-class.js';
import { angularComponent, type AngularReader } from '../components/frameworks/angular/angular-component.js';
import {
  componentTitle,
  functionNamed,
  moduleScope,
  reactComponents,
  type Imported,
} from '../components/frameworks/react/react.js';
import { wrappedComponent } from '../components/frameworks/react/wrappers.js';
import type { Component, ComponentRef } from '../components/view.js';
import { vueOptionComponents } from '../components/frameworks/vue/vue-options.js';
import { vueComponent } from '../components/frameworks/vue/vue.js';

const IS_HOOK = /^use[A-Z]/;

/** A module of the project with its syntax trees. */
export interface ModuleTree {
  path: string;
  script: Script;
  facts: ModuleFacts;
}

/** An exported thing, followed to the module that declares it. `name` is the local name there. */
export interface Declared {
  file: string;
  name: string;
}

/** What a module gives out, without its nodes. */
interface Exports {
  exports: ReadonlyMap<string, { local: string } | { specifier: string; name: string } | 'unnamed'>;
  stars: readonly string[];
}

/** What an import names: a module, and an export of it. */
interface Imports {
  specifier: string;
  name: string;
}

/** What a project is told of what it stands in; functions of the root alone, whatever part of it is audited. */
interface Surroundings {
  /** The scripts below the root that are no spec files; sorted. */
  sources(): readonly string[];
  /** Where the imports of a file lead that are no paths. */
  leads(file: string): Leads;
  /** The packages below the root, by name, with their folders. */
  packages?(): ReadonlyMap<string, string>;
}

// Trees that stay, in characters of their sources: a tree takes some hundred times as many bytes.
const KEPT_LENGTH = 400_000;
const DEEPEST_EXPORT = 12;

/** Reads modules and components, each file once, and follows imports between them. Paths are absolute. */
export class Project {
  readonly problems: Problem[] = [];
  /** What the names of libraries mean. */
  readonly libraries: Libraries;
  readonly #files: Files;
  readonly #angular: AngularCompiler | undefined;
  readonly #surroundings: Surroundings;
  readonly #resolve: Resolve;
  readonly #resolveCode: Resolve;
  #packageNames: PackageNames | undefined;
  // Texts are small beside trees: they stay.
  readonly #sources = new Map<string, Source | undefined>();
  readonly #summaries = new Map<string, ModuleSummary | undefined>();
  readonly #trees = new Map<string, ModuleTree | undefined>();
  #keptLength = 0;
  readonly #resolved = new Map<string, Map<string, string | undefined>>();
  // A reference stands in one file: the object itself is the key.
  readonly #written = new Map<string, Component | undefined>();
  readonly #exports = new Map<string, Exports | undefined>();
  readonly #withoutImports = new WeakMap<Component, Component>();
  readonly #functions = new Map<string, { fn: Expr; file: string } | undefined>();
  readonly #wrapped = new Map<string, Component | undefined>();
  #usedByReference: UseByReference[] | undefined;
  readonly #components = new WeakMap<ComponentRef, { is: Component | undefined }>();
  readonly #shipped = new WeakMap<ComponentRef, { is: Component | undefined }>();
  #selectors: ReadonlyMap<string, Component | 'many'> | undefined;
  // Names are small beside trees: many modules load the same files of a package.
  readonly #exportKeys = new Map<string, string>();
  readonly #loads = new Map<string, readonly string[]>();
  readonly #failed = new Set<string>();

  constructor(
    files: Files,
    angular: AngularCompiler | undefined,
    surroundings: Surroundings = { sources: () => [], leads: () => NO_LEADS },
    libraries: Libraries = librariesWith(),
  ) {
    this.libraries = libraries;
    this.#files = files;
    this.#resolve = files.resolver({});
    this.#resolveCode = files.resolver({ code: true });
    this.#angular = angular;
    this.#surroundings = surroundings;
  }

  /** The text of a file, read once; undefined, and a problem kept, where it can't be read. */
  source(path: string): Source | undefined {
    if (!this.#sources.has(path)) this.#sources.set(path, this.#decoded(path));
    return this.#sources.get(path);
  }

  /** The text of a file that need not be there. */
  optionalSource(path: string): Source | undefined {
    return this.#files.kind(path) === 'file' ? this.source(path) : undefined;
  }

  #decoded(path: string): Source | undefined {
    const bytes = this.#files.read(path);
    if (!bytes) return this.#fail({ file: path, reason: 'cannot be read' });
    const source = decodeSource(path, bytes);
    return isProblem(source) ? this.#fail(source) : source;
  }

  /** The syntax tree of a script, or of the script of a single-file component. */
  tree(path: string): ModuleTree | undefined {
    const source = this.source(path);
    if (!source) return undefined;
    const isKept = this.#trees.has(path);
    const kept = this.#trees.get(path);
    const tree = isKept ? kept : path.endsWith('.vue') ? this.#readVue(source) : this.#readScript(source);
    // What was asked for last stands last.
    this.#trees.delete(path);
    this.#trees.set(path, tree);
    if (!isKept) this.#keptLength += source.text.length;
    for (const oldest of this.#trees.keys()) {
      if (this.#keptLength <= KEPT_LENGTH || oldest === path) break;
      this.#trees.delete(oldest);
      this.#keptLength -= this.source(oldest)?.text.length ?? 0;
    }
    return tree;
  }

  /** What a module imports, exports and shows. */
  summary(path: string): ModuleSummary | undefined {
    if (!this.#summaries.has(path)) {
      this.#summaries.set(path, undefined);
      const tree = isScript(path) || path.endsWith('.vue') ? this.tree(path) : undefined;
      // A single-file component is summed up as it is read.
      if (tree && !path.endsWith('.vue'))
        this.#kept(path, () => (this.#summaries.set(path, this.#summed(tree)), tree));
    }
    return this.#summaries.get(path);
  }

  /** Whether another component of the project uses a member of a component by a reference to it: it is offered to that. */
  isUsedByReference(component: Component, member: string): boolean {
    this.#usedByReference ??= this.#surroundings
      .sources()
      .filter((path) => this.source(path)?.text.includes('$refs'))
      .flatMap((path) => {
        const { script } = this.tree(path) ?? {};
        const components = this.summary(path)?.components ?? [];
        return script ? usesByReference(script.program, components, (ref) => this.component(path, ref)) : [];
      });
    return this.#usedByReference.some((each) => each.member === member && isUseOf(each, component));
  }

  /** Whether a module does nothing with what it imports by a name but compare it, or speak of its type. */
  onlyCompares(path: string, local: string): boolean {
    const tree = this.tree(path);
    return tree !== undefined && isOnlyCompared(tree.script.program, local);
  }

  /** Whether all that a module does with what it imports by a name is seen: in its markup, its exports, its comparisons. */
  onlyNames(path: string, local: string): boolean {
    const tree = this.tree(path);
    return tree !== undefined && isOnlyNamed(tree.script.program, local);
  }

  /** Whether a module only keeps what it imports by a name: nothing there throws where it is undefined. */
  onlyKeeps(path: string, local: string): boolean {
    const tree = this.tree(path);
    return tree !== undefined && isOnlyKept(tree.script.program, local);
  }

  /**
   * The file of the project that a module of `from` imports; undefined for packages and for what is not there. Of a
   * module of an installed package: the file of whichever package.
   */
  resolve(from: string, specifier: string): string | undefined {
    const path = this.#leadsTo(from, specifier);
    return path && isInstalled(path) && !isInstalled(from) ? undefined : path;
  }

  // Any file that an import leads to, packages' own too.
  #leadsTo(from: string, specifier: string): string | undefined {
    const resolved = this.#resolvedFrom(from);
    if (!resolved.has(specifier)) {
      const own = isInstalled(from) ? undefined : this.#ofWorkspace(specifier);
      const found = own ?? this.#led(from, specifier);
      const isShipped = found !== undefined && isInstalled(found);
      resolved.set(specifier, isShipped ? this.#resolveCode(dirname(from), specifier) : found);
    }
    return resolved.get(specifier);
  }

  #ofWorkspace(specifier: string): string | undefined {
    if (/^[./]/.test(specifier)) return undefined;
    const name = packageOf(specifier);
    const folder = this.#surroundings.packages?.().get(name);
    return folder && sourceOfPackage(this.#files, folder, specifier.slice(name.length + 1));
  }

  #led(from: string, specifier: string): string | undefined {
    const { rules, folders } = this.#surroundings.leads(from);
    for (const rule of rules) {
      const to = sentTo(specifier, rule);
      const found = to === undefined ? undefined : this.#resolve(dirname(from), to);
      if (found) return found;
    }
    const own = this.#resolve(dirname(from), specifier);
    if (own ?? specifier.startsWith('.')) return own;
    for (const { folder } of folders) {
      const found = this.#resolve(folder, `./${specifier}`);
      if (found) return found;
    }
    return undefined;
  }

  // The files of one folder share what their imports lead to.
  #resolvedFrom(file: string): Map<string, string | undefined> {
    const known = this.#resolved.get(file);
    if (known) return known;
    const folder = dirname(file);
    const shared = this.#resolved.get(folder) ?? new Map<string, string | undefined>();
    this.#resolved.set(folder, shared);
    this.#resolved.set(file, shared);
    return shared;
  }

  /** Follows an export of a module, through index files, to its declaration. */
  declared(file: string, name: string, depth = 0): Declared | undefined {
    const summary = this.summary(file);
    if (!summary || depth > DEEPEST_EXPORT) return undefined;
    const found = summary.exports.get(name);
    if (found && 'local' in found) return { file, name: found.local };
    if (found) return this.imported(file, found, depth + 1);
    if (name === 'default') return undefined;
    for (const star of summary.stars) {
      const target = this.resolve(file, star);
      const declared = target && this.declared(target, name, depth + 1);
      if (declared) return declared;
    }
    return undefined;
  }

  /** The modules that a package's file loads as soon as it is loaded; none where it can't be read. */
  loadsOf(path: string): readonly string[] {
    const known = this.#loads.get(path) ?? this.#readLoads(path);
    this.#loads.set(path, known);
    return known;
  }

  #readLoads(path: string): string[] {
    const bytes = this.#files.read(path);
    const source = bytes && decodeSource(path, bytes);
    const script = !source || isProblem(source) ? undefined : parseScript(source);
    if (!script || 'reason' in script) return [];
    return moduleFacts(script.program).modules.map(({ specifier }) => specifier);
  }

  /** Whether a script surely exports nothing, as an ES module or in any form of CommonJS; undefined where it can't be read. */
  givesNothing(file: string): boolean | undefined {
    const tree = this.tree(file);
    if (!tree) return undefined;
    const { exports, stars } = tree.facts;
    const common = commonExports(tree.script.program);
    return exports.size === 0 && stars.length === 0 && common?.names.size === 0 && common.stars.length === 0;
  }

  /** The names that an installed package gives to a file, where one that it imports is not among them; undefined where it is, or may be. */
  packageWithout(name: string, from: string, specifier: string): ReadonlySet<string> | undefined {
    return (this.#packageNames ??= new PackageNames(this.#files)).without(name, from, specifier);
  }

  /** All names that a module gives out; undefined where that can't be told. */
  givenNames(file: string): ReadonlySet<string> | undefined {
    return givenNames(
      file,
      (path) => this.summary(path),
      (from, specifier) => this.resolve(from, specifier),
    );
  }

  /** The export of a package that a module of the project hands on under a name, through index files. */
  handedOn(file: string, name: string, depth = 0): { specifier: string; name: string } | undefined {
    const summary = this.summary(file);
    if (!summary || depth > DEEPEST_EXPORT) return undefined;
    const found = summary.exports.get(name);
    const onward = found
      ? 'specifier' in found
        ? [found]
        : []
      : summary.stars.map((specifier) => ({ specifier, name }));
    for (const next of onward) {
      const target = this.resolve(file, next.specifier);
      const handed = target
        ? this.handedOn(target, next.name, depth + 1)
        : this.libraries.meaningOf(next.specifier, next.name) && next;
      if (handed) return handed;
    }
    return undefined;
  }

  /** One key for what an import leads to, whichever way it is imported: where it is declared, or its package, and its name. */
  exportKey(file: string, from: Imports): string {
    const asked = `${file}\0${from.specifier}\0${from.name}`;
    const known = this.#exportKeys.get(asked);
    if (known !== undefined) return known;
    const declared = this.imported(file, from);
    const key = declared ? functionKey(declared.file, declared.name) : functionKey(from.specifier, from.name);
    this.#exportKeys.set(asked, key);
    return key;
  }

  /** Follows an import of a module to its declaration. */
  imported(file: string, from: Imports, depth = 0): Declared | undefined {
    const target = this.resolve(file, from.specifier);
    return target ? this.declared(target, from.name, depth) : undefined;
  }

  /**
   * The component that is shown for a reference in a file: one of the project, or one that an installed package ships in
   * modules that can be read.
   */
  shownFor(file: string, ref: ComponentRef): Component | undefined {
    const own = this.component(file, ref);
    if (own || 'selector' in ref || 'at' in ref) return own;
    if (!this.#shipped.has(ref)) {
      const component = this.#componentOf(file, ref, (here, from) => this.#declaredInPackage(here, from));
      this.#shipped.set(ref, { is: component });
    }
    return this.#shipped.get(ref)?.is;
  }

  // By the import itself, or by modules of the project that hand on what a package gives.
  #declaredInPackage(file: string, from: Imports, depth = 0): Declared | undefined {
    const target = this.#leadsTo(file, from.specifier);
    if (!target || depth > DEEPEST_EXPORT) return undefined;
    if (isInstalled(target))
      return this.#mayBeReplaced(file, from.specifier) ? undefined : this.declared(target, from.name);
    const summary = this.summary(target);
    const found = summary?.exports.get(from.name);
    if (found) return 'local' in found ? undefined : this.#declaredInPackage(target, found, depth + 1);
    for (const specifier of from.name === 'default' ? [] : (summary?.stars ?? [])) {
      const declared = this.#declaredInPackage(target, { specifier, name: from.name }, depth + 1);
      if (declared) return declared;
    }
    return undefined;
  }

  #mayBeReplaced(file: string, specifier: string): boolean {
    if (isInstalled(file)) return false;
    const { rules, standIns } = this.#surroundings.leads(file);
    return (
      standIns === undefined ||
      rules.some((rule) => isUntold(specifier, rule)) ||
      hasStandIn(this.#files, standIns, specifier)
    );
  }

  /** The component of the project that a reference in a file stands for. */
  component(file: string, ref: ComponentRef): Component | undefined {
    if ('selector' in ref) return this.#selected(file, ref.selector);
    if ('at' in ref) return this.#writtenAt(ref);
    const known = this.#components.get(ref);
    if (known) return known.is;
    const component = this.#componentOf(file, ref, (here, from) => this.imported(here, from));
    this.#components.set(ref, { is: component });
    return component;
  }

  // A component that a spec makes for itself, wherever it stands.
  #writtenAt({ file, at }: { file: string; at: number }): Component | undefined {
    const key = `${file}:${at}`;
    if (!this.#written.has(key)) {
      const tree = this.tree(file);
      const made = tree && writtenComponent(tree.script, tree.facts, at);
      // What is declared for all of the file is one component, however it is come by.
      const declared = this.summary(file)?.components.find(
        ({ name, place }) => name === made?.name && place.start <= at && at < place.end,
      );
      this.#written.set(key, declared ?? made);
    }
    return this.#written.get(key);
  }

  #componentOf(
    file: string,
    ref: Exclude<ComponentRef, { selector: string } | { at: number }>,
    follow: (file: string, from: Imports) => Declared | undefined,
  ): Component | undefined {
    const here = 'local' in ref ? (ref.file ?? file) : file;
    const asImport = 'local' in ref ? this.summary(here)?.imports.get(ref.local) : ref;
    const own = 'local' in ref ? { file: here, name: ref.local } : undefined;
    const declared = asImport ? follow(here, asImport) : own;
    if (!declared) return undefined;
    return ref.part === undefined ? this.componentAt(declared) : this.partOf(declared, ref.part);
  }

  /** The component that a declaration has as a part: `Lid.Handle = LidHandle`. */
  partOf({ file, name }: Declared, part: string): Component | undefined {
    const ref = this.summary(file)?.parts.get(name)?.get(part);
    return ref && this.component(file, ref);
  }

  // A file's own declaration comes first: a host that a spec makes for itself is nobody else's.
  #selected(file: string, tag: string): Component | undefined {
    const own = this.summary(file)?.components.find((component) => hasTag(component, tag));
    if (own) return own;
    this.#selectors ??= selectorsOf(
      this.#declarers().flatMap((path) => this.summary(path)?.components ?? []),
    );
    const found = this.#selectors.get(tag);
    return found === 'many' ? undefined : found;
  }

  // The scripts below the root that declare components, as far as their texts tell.
  #declarers(): readonly string[] {
    if (!this.#angular) return [];
    return this.#surroundings.sources().filter((path) => this.source(path)?.text.includes('selector'));
  }

  /** The component that a declaration is. */
  componentAt({ file, name }: Declared): Component | undefined {
    const summary = this.summary(file);
    const components = summary?.components ?? [];
    const named = components.find((component) => component.name === name) ?? this.wrapped({ file, name });
    const [only, ...more] = components.filter(({ styles }) => !styles);
    return named ?? (name === 'default' && more.length === 0 ? only : undefined);
  }

  /**
   * A function that a module imports, to be called, as far as it can be read; the names in it are those of `file`. Of
   * packages, hooks alone: undefined for other functions of theirs, and where nothing is known.
   */
  functionOf(from: string, asked: Imports): { fn: Expr; file: string } | undefined {
    const key = this.exportKey(from, asked);
    if (!this.#functions.has(key)) {
      const target = this.resolve(from, asked.specifier);
      const found =
        (target ? this.#declaring(target, asked.name) : undefined) ??
        (IS_HOOK.test(asked.name) ? this.#declaredInPackage(from, asked) : undefined);
      const tree = found && this.tree(found.file);
      const fn = tree && functionNamed(found.name, tree.script.source, tree.facts);
      this.#functions.set(key, fn && { fn, file: found.file });
    }
    return this.#functions.get(key);
  }

  /** The component that a call gives which is handed one (`connect(…)(Lid)`), as far as all that it does is followed. */
  wrapped({ file, name }: Declared): Component | undefined {
    if (!this.summary(file)?.wrappers.has(name)) return undefined;
    const key = functionKey(file, name);
    if (!this.#wrapped.has(key)) {
      // What wraps itself is nobody's.
      this.#wrapped.set(key, undefined);
      this.#wrapped.set(key, this.#readWrapped(file, name));
    }
    return this.#wrapped.get(key);
  }

  #readWrapped(file: string, name: string): Component | undefined {
    const module = this.tree(file);
    const node = module && declarationOf(module.facts, name);
    if (!module || !node) return undefined;
    return wrappedComponent(name === 'default' ? componentTitle(file) : name, node, module, {
      declaring: (from, asked) => {
        const target = this.resolve(from, asked.specifier);
        const found = target ? this.#declaring(target, asked.name) : undefined;
        const module = found && this.tree(found.file);
        return module && { module, name: found.name };
      },
      mayBeReplaced: (from, specifier) => this.#mayBeReplaced(from, specifier),
    });
  }

  #fail(problem: Problem): undefined {
    // What can't be read of a package is nobody's to mend here.
    if (this.#failed.has(problem.file) || isInstalled(problem.file)) return undefined;
    this.#failed.add(problem.file);
    this.problems.push(problem);
    return undefined;
  }

  #readScript(source: Source): ModuleTree | undefined {
    const script = parseScript(source);
    if ('reason' in script) return this.#fail(script);
    return this.#kept(source.path, () => ({ path: source.path, script, facts: moduleFacts(script.program) }));
  }

  #summed({ path, script, facts }: ModuleTree): ModuleSummary {
    if (isInstalled(path))
      return shippedSummary(script, facts, reactComponents(script, facts, this.#importedBy(path, facts)));
    const inlined = new Set<string>();
    const react = reactComponents(
      script,
      facts,
      this.#importedBy(path, facts, (file) => inlined.add(file)),
    ).map((component) => (inlined.size > 0 ? { ...component, inlined } : component));
    const components = [...this.#angularComponents(script), ...react];
    const more = components.length ? [] : vueOptionComponents(script, facts);
    return summaryOf(script, facts, [...components, ...more], this.libraries);
  }

  /** A component as it is read where a spec replaces what its module imports: nothing is known of that. */
  withoutImports(component: Component): Component {
    const known = this.#withoutImports.get(component);
    if (known) return known;
    const tree = this.tree(component.file);
    const own = tree ? reactComponents(tree.script, tree.facts) : [];
    const found = own.find(({ place }) => place.start === component.place.start) ?? component;
    this.#withoutImports.set(component, found);
    return found;
  }

  // What a module takes from others of its package, or of the project; `met` is told the files of all that is read. `scopes`:
  // those of the modules that one reading leads to, by path.
  #importedBy(
    path: string,
    { imports }: ModuleFacts,
    met?: (file: string) => void,
    scopes = new Map<string, ComponentScope>(),
  ): Imported {
    const known = new Map<string, NameBinding | undefined>();
    const bindingOf = (name: string): NameBinding | undefined => {
      const from = imports.get(name);
      const target = from && this.resolve(path, from.specifier);
      const found = target ? this.#declaring(target, from.name) : undefined;
      const scope = found && (scopes.get(found.file) ?? this.#scopeOf(found.file, met, scopes));
      const bound = scope?.lookup(found?.name ?? name);
      if (!found || !bound || (met && isFilledElsewhere(bound))) return undefined;
      met?.(found.file);
      return bound;
    };
    return (name) => {
      if (!known.has(name)) known.set(name, bindingOf(name));
      return known.get(name);
    };
  }

  #scopeOf(
    path: string,
    met: ((file: string) => void) | undefined,
    scopes: Map<string, ComponentScope>,
  ): ComponentScope | undefined {
    const tree = this.tree(path);
    if (!tree) return undefined;
    const { script, facts } = tree;
    const scope = moduleScope(script.source, facts, this.#importedBy(path, facts, met, scopes));
    scopes.set(path, scope);
    return scope;
  }

  // An export of a script, followed through its exports alone: components are not asked for while they are read.
  #declaring(file: string, name: string, depth = 0): Declared | undefined {
    const gives = isScript(file) && depth <= DEEPEST_EXPORT ? this.#exportsOf(file) : undefined;
    if (!gives) return undefined;
    const found = gives.exports.get(name);
    const onward = (specifier: string, as: string): Declared | undefined => {
      const target = this.resolve(file, specifier);
      return target ? this.#declaring(target, as, depth + 1) : undefined;
    };
    if (found === 'unnamed') return undefined;
    if (found && 'local' in found) return { file, name: found.local };
    if (found) return onward(found.specifier, found.name);
    for (const star of name === 'default' ? [] : gives.stars) {
      const declared = onward(star, name);
      if (declared) return declared;
    }
    return undefined;
  }

  // Without nodes, so that they stay when the trees are gone.
  #exportsOf(path: string): Exports | undefined {
    if (!this.#exports.has(path)) {
      const facts = this.tree(path)?.facts;
      this.#exports.set(
        path,
        facts && {
          exports: new Map(
            [...facts.exports].map(([name, found]) => [name, 'node' in found ? 'unnamed' : found] as const),
          ),
          stars: facts.stars,
        },
      );
    }
    return this.#exports.get(path);
  }

  #readVue(source: Source): ModuleTree | undefined {
    const file = parseVue(source);
    if ('reason' in file) return this.#fail(file);
    return this.#kept(source.path, () => {
      const scripts = file.scripts.map(({ script }) => script);
      const body = scripts.flatMap(({ program }) => program.body);
      const first = scripts[0];
      const program = first
        ? { ...first.program, body }
        : ({ type: 'Program', body, start: 0, end: 0 } as unknown as Script['program']);
      const script = { source, program, comments: scripts.flatMap(({ comments }) => comments) };
      const facts = moduleFacts(program);
      if (!this.#summaries.get(source.path))
        this.#summaries.set(
          source.path,
          summaryOfSingleFile(source.path, facts, vueComponent(file, facts), program, file.languages),
        );
      return { path: source.path, script, facts };
    });
  }

  // A tree too deep for our own recursion is a file that can't be read, not a crash.
  #kept(path: string, read: () => ModuleTree): ModuleTree | undefined {
    try {
      return read();
    } catch (error) {
      if (error instanceof RangeError)
        return this.#fail({ file: path, reason: 'nested too deeply to be read' });
      throw error;
    }
  }

  #angularComponents(script: Script): Component[] {
    const compiler = this.#angular;
    if (!compiler) return [];
    const reader: AngularReader = {
      compiler,
      files: this.#files,
      source: (path) => this.source(path),
      fail: (problem) => this.#fail(problem),
    };
    return angularDeclarations(script).map((declaration) => angularComponent(reader, script, declaration));
  }
}

// `export const kilns = []`: what is given out empty is filled by somebody.
function isFilledElsewhere(bound: NameBinding): boolean {
  const value = bound.is === 'node' ? unwrapped(bound.node) : undefined;
  if (value?.type === 'ArrayExpression') return value.elements.length === 0;
  return value?.type === 'ObjectExpression' && value.properties.length === 0;
}

const hasTag = ({ selector }: Component, tag: string): boolean => tagSelectors(selector ?? '').includes(tag);

// The component that each tag stands for, by the selectors of all.
function selectorsOf(components: readonly Component[]): Map<string, Component | 'many'> {
  const found = new Map<string, Component | 'many'>();
  for (const component of components)
    for (const tag of tagSelectors(component.selector ?? ''))
      found.set(tag, found.has(tag) && found.get(tag) !== component ? 'many' : component);
  return found;
}
