import { realpathSync } from 'node:fs';
import { DiskFiles } from '#src/index.js';
import { loadAngular } from '#src/syntax/angular.js';
import { NO_LEADS } from '#src/host/leads.js';
import { Project } from '#src/project/project.js';
import { rendered } from '#src/rendering/rendered.js';
import type { RenderedElement, RenderedNode, RenderedTree } from '#src/rendering/rendered-tree.js';
import { readSpecFile } from '#src/specs/reader/suite.js';
import { SpecRendering } from '#src/rendering/spec-rendering.js';
import { type Expr } from '#src/components/expr.js';
import { textPieces } from '#src/components/expr-text.js';
import type { SpecFile } from '#src/specs/model/blocks.js';
import type { Prop, ViewNode } from '#src/components/view.js';
import { written } from './samples.js';

/** A project of some files, each read; `at` gives the absolute path of one. */
export async function projectOf(
  files: Record<string, string>,
): Promise<{ project: Project; at: (path: string) => string }> {
  const folder = realpathSync(written(files));
  const at = (path: string): string => `${folder}/${path}`;
  const project = new Project(new DiskFiles(), await loadAngular(), {
    sources: () =>
      Object.keys(files)
        .filter((path) => !path.includes('.spec.'))
        .map(at),
    leads: () => ({ ...NO_LEADS, standIns: [folder] }),
  });
  for (const path of Object.keys(files)) if (!path.includes('.spec.')) project.summary(at(path));
  return { project, at };
}

/** What a component of a file shows with the given props, as markup in short. */
export async function shown(
  files: Record<string, string>,
  file: string,
  name: string,
  props: Record<string, string | number | boolean | undefined> = {},
): Promise<string> {
  return markup((await treeOf(files, file, name, props)).children);
}

export async function treeOf(
  files: Record<string, string>,
  file: string,
  name: string,
  props: Record<string, string | number | boolean | undefined> = {},
): Promise<RenderedTree> {
  const { project, at } = await projectOf(files);
  return treeOfComponent(project, at(file), name, props);
}

/** What a component of a file shows; a prop given as `UNREAD` may be anything. */
export function treeOfComponent(
  project: Project,
  file: string,
  name: string,
  props: Record<string, string | number | boolean | undefined> = {},
): RenderedTree {
  const given = new Map<string, Prop>(
    Object.entries(props).map(([key, value]) => [
      key,
      { expr: value === UNREAD ? { is: 'unknown' } : { is: 'constant', value } },
    ]),
  );
  const place = { start: 0, end: 0 };
  const view: ViewNode[] = [
    {
      kind: 'component',
      name,
      ref: { local: name },
      place,
      props: given,
      open: false,
      events: [],
      slots: new Map(),
    },
  ];
  return rendered(project, { file, view });
}

export const UNREAD = '(unread)';

/** Placed nodes as markup: `?` for a hole in a text, `{…}` for a hole, `[if]` before what is conditional, `[each]` before what repeats. */
export const markup = (nodes: readonly RenderedNode[]): string => nodes.map((node) => one(node)).join('');

function one(node: RenderedNode): string {
  if (node.kind === 'hole') return '{…}';
  if (node.kind === 'text') return (node.sure ? '' : '[if]') + pieces(node.pieces).replace(/\s+/g, ' ');
  const mark =
    node.repeated && !node.parent?.repeated
      ? '[each]'
      : node.guards.length > (node.parent?.guards.length ?? 0)
        ? '[if]'
        : '';
  return `${mark}<${node.tag}${attributes(node)}>${markup(node.children)}</${node.tag}>`;
}

function attributes({ attributes: all, classes, open, events }: RenderedElement): string {
  const plain = [...all]
    .filter(([name, expr]) => name !== 'class' && !(expr.is === 'constant' && expr.value === undefined))
    .map(([name, expr]) => ` ${name}=${valueOf(expr)}`);
  const names = [
    ...classes.always,
    ...classes.maybe.map((name) => `${name}?`),
    ...(classes.open ? ['…'] : []),
  ];
  return [
    ...plain,
    names.length ? ` .${names.join('.')}` : '',
    ...events.map((name) => ` @${name}`),
    open ? ' …' : '',
  ].join('');
}

const valueOf = (expr: Expr): string =>
  expr.is === 'constant' && typeof expr.value !== 'string' ? String(expr.value) : pieces(textPieces(expr));
const pieces = (all: readonly (string | readonly string[] | undefined)[]): string =>
  all
    .map((piece) => (piece === undefined ? '?' : typeof piece === 'string' ? piece : piece.join('|')))
    .join('');

/** One spec file of a project, read, with its links. */
export async function specFileOf(
  files: Record<string, string>,
  path: string,
): Promise<{ file: SpecFile; links: SpecRendering; text: string }> {
  const { project, at } = await projectOf(files);
  const tree = project.tree(at(path));
  if (!tree) throw new Error(JSON.stringify(project.problems));
  const file = readSpecFile(project, tree, {
    render: ['showBoard'],
    act: ['fireKiln'],
    assert: ['mustBeHot'],
  });
  return { file, links: new SpecRendering(project, file, 'data-testid'), text: tree.script.source.text };
}
