import { importOfKey } from '../../components/expr.js';
import { componentKey, componentNodes, type Component } from '../../components/view.js';
import type { Place } from '../../finding.js';
import type { RenderedElement, RenderedNode, RenderedTree } from '../../rendering/rendered-tree.js';
import type { SpecRendering } from '../../rendering/spec-rendering.js';
import { hooksFor, type Block } from '../../specs/model/blocks.js';
import type { Reach, Render } from '../../specs/model/steps.js';
import { grouped } from '../../util/grouped.js';
import { innermost } from '../../rendering/uses.js';
import { askedBy, mayAskFor, type AskedData } from './asked-data.js';
import { fileFact, inFile, type FileContext } from './context.js';
import {
  dataIn,
  gathered,
  isKnown,
  keysAround,
  markOf,
  withMarks,
  withMarksIn,
  withNode,
  type Datum,
  type Marks,
} from './given-data.js';
import { runningSpecs } from './order.js';

/** A text or a number that specs give, and that a component shows as it is. */
export interface ShownDatum {
  /** What it goes by across files. */
  key: string;
  /** As a developer would write it: `kiln.temp`, `useKilns().list[].name`. */
  name: string;
  /** The component that it is told of: which it is given to, or which shows what a function gives. */
  component: string;
  /** The function that gives it, by its key, where a stand-in lets it. */
  by?: string;
  given: Place;
  shown: Place;
  /** The component in whose markup that stands. */
  shownBy: string | undefined;
}

/** What specs of a file give to components, and let functions give them. */
interface ShownData {
  /** Shown, and asked for by nothing in the file. */
  unasked: readonly ShownDatum[];
  /** What is asked for, or may be: by its key, or by that of something around it. */
  asked: ReadonlySet<string>;
  /** The functions whose stand-ins say what they give. */
  functions: ReadonlySet<string>;
}

/** What a spec file gives to components, and which of that nothing in it asks for once it is shown. */
export const SHOWN_DATA = fileFact('shown data', shownDataIn);

function shownDataIn(context: FileContext): ShownData {
  const { file, rendering } = context;
  const asked = new Set<string>();
  const sources = new Map<Render, Source[]>();
  const functions = new Set(file.renders.flatMap((render) => [...rendering.answers.at(render).keys()]));
  const reaches = grouped(file.reaches, ({ block }) => block);
  for (const spec of runningSpecs(file)) {
    const words = askedInSpec(spec, reaches);
    for (const render of rendering.rendersFor(spec)) {
      const own = sources.get(render) ?? [...propsGiven(render, context), ...answersGiven(render, context)];
      sources.set(render, own);
      for (const { given, open, cut, ...use } of rendering.tree(render).uses) {
        const component = behind(use.component, context);
        noteAsked({
          key: componentKey(component),
          data: dataIn(component, given),
          open: open || cut === true,
        });
      }
      own.forEach(noteAsked);
      for (const each of functions) if (!rendering.answers.at(render).has(each)) asked.add(each);
    }
    function noteAsked({ key, data, open }: Pick<Source, 'key' | 'data' | 'open'>): void {
      if (open || words === 'anything') asked.add(key);
      else for (const each of data) if (!isKnown(each) || mayAskFor(words, each)) asked.add(each.key);
    }
  }
  return { unasked: unaskedIn(sources, asked, context), asked, functions };
}

function askedInSpec(spec: Block, reaches: ReadonlyMap<Block, readonly Reach[]>): AskedData | 'anything' {
  const blocks = [spec, ...hooksFor(spec, 'before-all', 'before-each', 'after-each')];
  return askedBy(
    blocks.flatMap(({ steps }) => steps),
    blocks.flatMap((block) => reaches.get(block) ?? []),
  );
}

/** Something that a spec gives: to a component in its markup, or by what a stand-in gives. */
interface Source {
  key: string;
  component?: Component;
  data: readonly Datum[];
  /** It may be given more than can be read. */
  open: boolean;
  /** What is rendered instead, where others stand in the place of some of its values. */
  marked: (marks: Marks, instead: Instead) => Instead;
}

type Instead = Parameters<SpecRendering['given']>[0];

// Of what specs give and nothing asks for, what is shown.
function unaskedIn(
  sources: ReadonlyMap<Render, readonly Source[]>,
  asked: ReadonlySet<string>,
  context: FileContext,
): ShownDatum[] {
  const { rendering } = context;
  const found = new Map<string, ShownDatum>();
  const tried = new Map<string, number>();
  for (const [render, own] of sources) {
    const tree = rendering.tree(render);
    const left = own.flatMap(({ key, component, data, open }) =>
      open || asked.has(key)
        ? []
        : data.filter(isKnown).flatMap((each) => {
            const isDone =
              (tried.get(each.key) ?? 0) >= MOST_TRIES ||
              keysAround(each.key).some((around) => asked.has(around));
            return !isDone && each.values.every(isTelling) && showsOne(tree, each.values)
              ? [{ ...each, of: key, component }]
              : [];
          }),
    );
    if (left.length === 0) continue;
    const marks = new Map(left.map((each, i) => [each.key, markOf(each, i)] as const));
    const instead = own.reduce<Instead>((all, { marked }) => marked(marks, all), {});
    const otherwise = rendering.given(instead, render).tree(render);
    for (const { key, name, values, of, component } of left) {
      tried.set(key, (tried.get(key) ?? 0) + 1);
      const element = showing(values, String(marks.get(key)), tree, otherwise);
      const told = component ?? (element?.component && behind(element.component, context));
      if (!element || !told) continue;
      const { file, place } = element;
      tried.set(key, MOST_TRIES);
      found.set(key, {
        key,
        name,
        component: componentKey(told),
        by: component ? undefined : of,
        given: inFile(context, render.place),
        shown: { file, ...place },
        shownBy: element.component && componentKey(behind(element.component, context)),
      });
    }
  }
  return [...found.values()];
}

const SHORTEST = 2;
// What two renders do not show of it, a third hardly does.
const MOST_TRIES = 2;

// One letter stands in many words.
const isTelling = (value: string | number): boolean => String(value).trim().length >= SHORTEST;

const behind = (component: Component, { project }: FileContext): Component =>
  innermost(component, project) ?? component;

// What the spec's own markup gives to components of the project.
function propsGiven(render: Render, context: FileContext): Source[] {
  const { project } = context;
  const view = render.view ?? [];
  return [...componentNodes(view)].flatMap((node) => {
    const named = node.ref && project.component(render.file, node.ref);
    if (!named) return [];
    const component = behind(named, context);
    return {
      key: componentKey(component),
      component,
      data: dataIn(component, node.props),
      open: node.open,
      marked: (marks, instead) => ({
        ...instead,
        view: withNode(instead.view ?? view, node, withMarks(component, node, marks)),
      }),
    } satisfies Source;
  });
}

// What stand-ins let functions give.
function answersGiven(render: Render, { rendering }: FileContext): Source[] {
  const answers = rendering.answers.at(render);
  return [...answers].map(([key, expr]) => ({
    key,
    data: gathered(key, `${importOfKey(key)?.name ?? ''}()`, expr),
    open: false,
    marked: (marks, instead) => ({
      ...instead,
      answers: new Map(instead.answers ?? answers).set(key, withMarksIn(key, expr, marks)),
    }),
  }));
}

const showsOne = ({ elements }: RenderedTree, values: readonly (string | number)[]): boolean =>
  elements.some((element) => values.some((value) => shows(element, String(value))));

// The element that shows one of the values, and would show another in its place.
function showing(
  values: readonly (string | number)[],
  mark: string,
  given: RenderedTree,
  otherwise: RenderedTree,
): RenderedElement | undefined {
  const found = otherwise.elements.find((each) => shows(each, mark));
  const isThat = ({ file, place }: RenderedElement): boolean =>
    file === found?.file && place.start === found.place.start;
  return given.elements.some((each) => isThat(each) && values.some((value) => shows(each, String(value))))
    ? found
    : undefined;
}

const ATTRIBUTES: readonly string[] = ['alt', 'title', 'placeholder', 'aria-label', 'href', 'src'];

const shows = ({ children, attributes }: RenderedElement, text: string): boolean =>
  children.some((node) => says(node, text)) ||
  ATTRIBUTES.some((name) => {
    const expr = attributes.get(name);
    return expr?.is === 'constant' && String(expr.value).includes(text);
  });

const says = (node: RenderedNode, text: string): boolean =>
  node.kind === 'text' &&
  node.sure &&
  node.pieces.some((piece) =>
    typeof piece === 'string' ? piece.includes(text) : piece?.some((each) => each.includes(text)),
  );
