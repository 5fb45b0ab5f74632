import { isInside } from '../../util/spans.js';
import type { HookTime, Mark } from '../../libraries/meaning.js';
import type { Span, Titles } from '../../finding.js';
import type { Expr } from '../../components/expr.js';
import type { Import } from '../../syntax/module-facts.js';
import type { Statement } from './body.js';
import type { Inside, Step, StepOf, Reach, Render, StandIn } from './steps.js';
import type { Value } from './values.js';

/** A title as it is shown in reports. `exact`: read whole, with no hole left. */
export interface Title {
  text: string;
  exact: boolean;
}

/** A file, group, hook or spec, with its steps in the order in which they run. */
export interface Block {
  kind: 'file' | 'group' | 'hook' | 'spec';
  hook?: HookTime;
  title: Title;
  mark?: Mark;
  /** The text that sets the mark, `.only`, or the letter in `fit`; none where an option sets it. */
  markPlace?: Span;
  /** The call that makes the block; for a file, all of it. */
  place: Span;
  /** The callee of that call: `it.only`. */
  callee: Span;
  /** The function that holds its body. */
  body?: Span;
  /** Where that function starts, and whether it is `async`. */
  fn?: { start: number; async: boolean };
  /** The names that it declares for itself. */
  names: Set<string>;
  /** What it starts is waited for by the zone that it runs in. */
  waitsForAll: boolean;
  /** Whether that body has no statement. */
  empty: boolean;
  /** The statements of that body, where it is written in the spec file, imports left out; made on first use. */
  readonly statements: readonly Statement[];
  /** The lists that are written out in it, but for hooks. */
  lists: List[];
  /** The names that a spec's own body declares one by one, with what they are first given. */
  locals: Local[];
  /** The title's literal, as it is written; undefined where it is none. */
  titlePlace?: Span;
  /** It is made under a condition. */
  maybe: boolean;
  /** Rows of a table or turns of a loop make several of it. */
  repeated: boolean;
  /** The spec ends when a callback of the runner's is called. */
  waitsForCallback: boolean;
  parent: Block | undefined;
  /** Groups, hooks and specs inside, in the order of the file. */
  children: Block[];
  steps: Step[];
  /** Those of its steps that use a name from outside, by that name. */
  uses: Map<Binding, StepOf<'use'>[]>;
}

/** A list that is written out in a spec, and the name that it is given: `const kilns = [raku, salt]`. */
export interface List extends Span {
  name?: string;
  length: number;
}

/** `const user = userEvent.setup()`, in a spec; the place is that of the name. */
interface Local extends Span {
  name: string;
  value: Value;
}

/** What kind of value a binding is first given. */
export type Kind =
  | 'constant'
  | 'literal'
  | 'instance'
  | 'made'
  | 'closure'
  | 'render'
  | 'stand-in'
  | 'element'
  | 'function'
  | 'module'
  | 'unknown'
  | 'none';

/** A name that is declared outside specs and hooks. */
export interface Binding {
  name: string;
  kind: 'const' | 'let' | 'var' | 'function' | 'class' | 'import' | 'param';
  /** The declared name. */
  place: Span;
  /** The block, of this file, whose body declares it. */
  block: Block;
  /** The module that declares it, where that is not the spec file. */
  file?: string;
  holds: Kind;
  /** `const x = …`: the whole declaration, the declared name with its type, and the first value. */
  declaration?: {
    statement: Span;
    alone: boolean;
    type?: Span;
    value?: Span;
    made?: Made;
    /** The type of a first value that is a text, a number or a truth value. */
    primitive?: 'string' | 'number' | 'boolean';
  };
  render?: Render;
  frozen: boolean;
  /** Where a stand-in outside of the specs reads it, which whoever calls the stand-in does. */
  readApart?: Span;
}

/** How a first value is made, for naming its type: `new Kiln()`, `makeKiln()`. */
export interface Made {
  by: 'new' | 'call';
  name: string;
  typeArguments?: string;
}

/** A name that a factory, lifted above all statements, reads as it runs. `isConstant`: it holds a literal. */
export interface LiftedName extends Span {
  name: string;
  isConstant: boolean;
}

/** A call that replaces a module by a stand-in. */
export interface Replacement {
  specifier: string;
  /** The file of the project that it leads to. */
  file?: string;
  place: Span;
  /** A part of the real module is kept. */
  partial: boolean;
  /** The module need not be there. */
  virtual: boolean;
  /** The names that its factory gives; undefined where they are not all written out. */
  gives?: ReadonlySet<string>;
  /** What its factory reads before it is there. */
  lifted?: LiftedName;
  /** The runner makes the stand-ins: functions give nothing until they are told to. */
  automatic: boolean;
  /** What the functions give that the file puts in the place of the module's own, by name; those that can't be read are left out. */
  answers: Map<string, Expr>;
  /** The stand-ins of the runner that the factory gives an answer, by name: as it makes them, or in a chain behind. */
  told: Map<string, Span & { made: boolean }>;
  /** Names of functions that it puts a stand-in in the place of which does nothing of the file's own. */
  plain: Set<string>;
  /** The stand-ins that it puts there and that go by a name of the file, by the names of what they stand for. */
  standIns: Map<string, StandIn>;
}

/** What the body of a file or group takes of a name, as specs are collected, that holds nothing yet, or a list with nothing in it. */
export interface TakenEarly extends Span {
  block: Block;
  binding: Binding;
  holds: 'nothing' | 'empty';
}

/** A comment, by the lines it stands on. */
interface FileComment {
  text: string;
  start: number;
  end: number;
}

/** One spec file, understood. */
export interface SpecFile {
  path: string;
  root: Block;
  /** Every group, hook and spec, in the order of the file. */
  blocks: Block[];
  bindings: Binding[];
  /** Values of the project's modules that it uses, or its helpers do. */
  outside: Binding[];
  renders: Render[];
  reaches: Reach[];
  standIns: StandIn[];
  imports: ReadonlyMap<string, Import>;
  /** Files of the project that it imports, through index files too. */
  imported: ReadonlySet<string>;
  /** Modules that it replaces by stand-ins: files of the project, and package names. */
  replaced: ReadonlySet<string>;
  /** Of those that keep the rest of the real module, the names that stand-ins take the place of. */
  overridden: ReadonlyMap<string, ReadonlySet<string>>;
  /** The calls that replace modules. */
  replacements: Replacement[];
  /** Whether calls that can't be read may have effects on all specs. */
  unknownEffects: boolean;
  /** The runner runs the specs of a group before the groups inside it. */
  ownSpecsFirst: boolean;
  /** Groups go by `suite` and specs by `test`, with hooks named to match. */
  usesSuiteStyle: boolean;
  /** It imports modules by a pattern of paths. */
  importsByPattern: boolean;
  /** What some of its names mean was guessed by the company that they are imported in. */
  isGuessed: boolean;
  /** Runner functions used with no import, each at its first use. */
  globals: ReadonlyMap<string, Span>;
  /** The first use of the document by a spec or hook that surely runs. */
  documentUse: Span | undefined;
  /** What specs read or set inside of what they render. */
  insides: Inside[];
  /** What is taken, as specs are collected, of names that hold nothing yet. */
  takenEarly: TakenEarly[];
  comments: readonly FileComment[];
  /** What stands in its comments and would assert, or make specs; made when it is asked for. */
  commentedOut: () => readonly CommentedOut[];
  /** All words of its code, in names and in literals; made when it is asked for. */
  words: () => ReadonlySet<string>;
  /** How often its code says each name, and each text as a whole; made when it is asked for. */
  said: () => ReadonlyMap<string, number>;
  /** The names by which its specs hand over what may be told something: functions, and what can't be read. */
  listens: Set<string>;
}

/** A statement in a comment. */
export interface CommentedOut extends Span {
  what: 'assertion' | 'group' | 'spec';
}

/** The assertions of a spec that stand in its comments. */
export const assertionsInComments = (file: SpecFile, { place }: Block): CommentedOut[] =>
  file.commentedOut().filter((each) => each.what === 'assertion' && isInside(each, place));

/** The comments that stand in a part of a file. */
export const commentsIn = ({ comments }: SpecFile, span: Span): readonly FileComment[] =>
  comments.filter((comment) => isInside(comment, span));

/** Whether a spec is there for the compiler: a comment in it expects an error of types, or it does nothing beside one of that kind. */
export const isTypeLevel = (file: SpecFile, block: Block): boolean =>
  expectsTypeError(file, block) ||
  (isIdle(block) &&
    (block.parent?.children ?? []).some((each) => isIdle(each) && expectsTypeError(file, each)));

const expectsTypeError = (file: SpecFile, { place }: Block): boolean =>
  commentsIn(file, place).some(({ text }) => text.includes('@ts-expect-error'));

const isIdle = ({ kind, steps }: Block): boolean =>
  kind === 'spec' &&
  steps.every((step) => step.kind === 'use' || (step.kind === 'unknown-call' && !step.discarded));

/** The blocks that a block stands in, inner first, the block itself first of all. */
export function blocksAround(block: Block): Block[] {
  const path: Block[] = [];
  for (let at: Block | undefined = block; at; at = at.parent) path.push(at);
  return path;
}

/** Whether a block is switched off or still to be written, by itself or by a group around it. */
export const isOff = (block: Block): boolean =>
  blocksAround(block).some(({ mark }) => mark === 'skip' || mark === 'todo');

/** Every block below one, in the order of the file. */
export function blocksBelow(block: Block): Block[] {
  return block.children.flatMap((child) => [child, ...blocksBelow(child)]);
}

/** The specs of a file, in the order in which they run. */
export function specsOf({ root, blocks, ownSpecsFirst }: SpecFile): Block[] {
  const inside = (block: Block): Block[] => {
    const specs = block.children.filter(({ kind }) => kind === 'spec');
    return [...specs, ...block.children.filter(({ kind }) => kind === 'group').flatMap(inside)];
  };
  return ownSpecsFirst ? inside(root) : blocks.filter(({ kind }) => kind === 'spec');
}

/** The uses of a name in a block, in order. */
export const usesInBlock = (block: Block, binding: Binding): readonly StepOf<'use'>[] =>
  block.uses.get(binding) ?? [];

/** Whether a block gives a name another value, under whatever condition. */
export const assigns = (block: Block, binding: Binding): boolean =>
  usesInBlock(block, binding).some(({ use }) => use.how === 'assign');

/** Whether something stands in for an export of a module, by its specifier or its file: for all of them, where the rest of it is not kept. */
export const standsIn = (
  { replaced, overridden }: Partial<Pick<SpecFile, 'replaced' | 'overridden'>>,
  module: string,
  name: string,
): boolean => replaced?.has(module) === true && (overridden?.get(module)?.has(name) ?? true);

/** Whether a name is imported from a module that the file replaces by a stand-in. */
export function isReplacedImport({ kind, name }: Binding, file: SpecFile): boolean {
  const from = kind === 'import' ? file.imports.get(name) : undefined;
  return from !== undefined && standsIn(file, from.specifier, from.name);
}

/** The hooks of one time that run for a spec, outer first. */
export function hooksFor(spec: Block, ...times: HookTime[]): Block[] {
  return blocksAround(spec)
    .toReversed()
    .flatMap((block) =>
      block.children.filter(
        (child) => child.kind === 'hook' && child.hook !== undefined && times.includes(child.hook),
      ),
    );
}

/** The titles of the groups that a block stands in, outer first. */
export const groupTitles = (block: Block): string[] =>
  blocksAround(block)
    .slice(1)
    .filter((each) => each.kind === 'group')
    .map((each) => each.title.text)
    .toReversed();

/** The titles around a block, its own included. */
export function titlesOf(block: Block): Titles {
  const title = block.title.text;
  const outer = groupTitles(block);
  return block.kind === 'spec'
    ? { group: outer, spec: title }
    : { group: block.kind === 'group' ? [...outer, title] : outer };
}
