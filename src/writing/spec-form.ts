import { queryKit } from './kit.js';
import type { FileContext } from '../checks/questions/context.js';
import type { TypeName, Writing } from '../libraries/meaning.js';
import { majorOf } from '../environment/versions.js';
import type { Style } from './edits/style.js';
import type { Component } from '../components/view.js';
import type { ModuleTree } from '../project/project.js';
import { specsOf, type Block } from '../specs/model/blocks.js';

/** How a spec file writes its specs, for others that are to read like them. */
export interface SpecForm {
  file: string;
  style: Style;
  /** What starts a spec that does not run yet: `it.skip`, or `xit` where the runner has no other way. */
  skipped: string;
  groups: boolean;
  /** The imports of runner and libraries: the names, and how they are written. */
  imports: readonly { names: readonly string[]; text: string; from: string; plain: boolean }[];
  /** Names of components in this file. */
  names: ReadonlyMap<Component, string>;
  /** How it renders, and which components. */
  render: { call: string; gives: TypeName; propsKey: 'props' | 'propsData' } | undefined;
  rendered: ReadonlyMap<Component, number>;
  /** How its user-centred library is written, where the file asks queries of the page. */
  writes: Writing | undefined;
  /** Where a further spec goes: at the end of its last group, else of the file; and how deep that is. */
  end: { offset: number; depth: number };
}

/** Reads how a spec file is written. */
export function specFormOf(context: FileContext, { script, facts }: ModuleTree): SpecForm {
  const { file, project, rendering, style, source } = context;
  const rendered = new Map<Component, number>();
  for (const render of file.renders) {
    const component = rendering.component(render);
    if (component) rendered.set(component, (rendered.get(component) ?? 0) + 1);
  }
  const names = new Map<Component, string>();
  for (const [local, from] of facts.imports) {
    const declared = project.imported(file.path, from);
    const component = declared && project.componentAt(declared);
    if (component && !from.typeOnly) names.set(component, local);
  }
  const render = file.renders.find(({ name }) => name !== '');
  const [first] = specsOf(file);
  const named = first && source.text.slice(first.callee.start, first.callee.end).replace(/\..*$/s, '');
  const runner = context.runners[0]?.runner;
  const isVue2 = majorOf(context.versionOf('@vue/test-utils')) === 1;
  return {
    file: file.path,
    style,
    skipped: runner === 'karma' ? 'xit' : `${named === 'test' ? 'test' : 'it'}.skip`,
    groups: file.root.children.some(({ kind }) => kind === 'group'),
    imports: script.program.body.flatMap((statement) =>
      statement.type === 'ImportDeclaration' && project.libraries.of(statement.source.value)
        ? [
            {
              names: statement.specifiers.map(({ local }) => local.name),
              text: source.text.slice(statement.start, statement.end),
              from: source.text.slice(statement.source.start, statement.source.end),
              plain: statement.specifiers.every(
                (specifier) =>
                  specifier.type === 'ImportSpecifier' && specifier.start === specifier.local.start,
              ),
            },
          ]
        : [],
    ),
    names,
    render: render && { call: render.name, gives: render.gives, propsKey: isVue2 ? 'propsData' : 'props' },
    rendered,
    writes: asksPage(context) ? queryKit(context) : undefined,
    end: endOf(file.root, source.text),
  };
}

function asksPage(context: FileContext): boolean {
  const page = queryKit(context)?.page;
  return page !== undefined && context.file.imports.has(page);
}

// In the last group that stands at the top, before its closing brace.
function endOf(root: Block, text: string): SpecForm['end'] {
  const group = root.children.findLast(({ kind, body }) => kind === 'group' && body !== undefined);
  if (!group?.body) return { offset: text.length, depth: 0 };
  const { start, end } = group.body;
  const inside = text.slice(start, end).trimEnd();
  // The body may be given with its braces, or without.
  const trimmed = inside.endsWith('}') && text[start] === '{' ? inside.slice(0, -1).trimEnd() : inside;
  return { offset: start + trimmed.length, depth: 1 };
}
