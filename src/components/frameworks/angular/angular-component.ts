import type { Files } from '../../../host/files.js';
import { parseAngular, type AngularCompiler } from '../../../syntax/angular.js';
import type { Script } from '../../../syntax/script.js';
import type { Problem, Source } from '../../../syntax/source.js';
import { childrenOf } from '../../../syntax/tree.js';
import { dirname, join } from '../../../util/paths.js';
import type { AngularDeclaration } from './angular-class.js';
import { angularView } from './angular-template.js';
import { changedProps } from '../../changed-props.js';
import type { Component, ViewNode } from '../../view.js';

/** What reading a template takes: its compiler, the files, the text of one, and where problems go. */
export interface AngularReader {
  compiler: AngularCompiler;
  files: Files;
  source: (path: string) => Source | undefined;
  fail: (problem: Problem) => void;
}

/** The component that an Angular class declares, with its template, inline or in a file of its own. */
export function angularComponent(
  reader: AngularReader,
  script: Script,
  declaration: AngularDeclaration,
): Component {
  const { name, place, selector, inputs, domains, outputs, host, node } = declaration;
  const file = script.source.path;
  const { view, templateFile } = viewOf(reader, script, declaration);
  return {
    name,
    file,
    framework: 'angular',
    place,
    view,
    templateFile,
    props: inputs,
    domains,
    changes: changedProps(script.source.text, [node], new Map(), new Set(inputs.keys())),
    host,
    outputs,
    offered: new Set(outputs.keys()),
    selector,
  };
}

function viewOf(
  { compiler, files, source, fail }: AngularReader,
  script: Script,
  declaration: AngularDeclaration,
): { view: ViewNode[]; templateFile?: string } {
  const { template, place } = declaration;
  const hole = (why: string): ViewNode[] => [{ kind: 'hole', why, place }];
  if (!template) return { view: hole('no template') };
  if ('inline' in template) {
    const node = template.inline;
    const literal =
      node.type === 'Literal' ||
      (node.type === 'TemplateLiteral' && childrenOf(node).every((each) => each.type === 'TemplateElement'));
    if (!literal) return { view: hole('a template that is not literal') };
    const parsed = parseAngular(compiler, script.source, {
      start: node.start + 1,
      end: node.end - 1,
      escaped: true,
    });
    if ('reason' in parsed) return { view: (fail(parsed), hole(parsed.reason)) };
    return { view: angularView(compiler, parsed.nodes, declaration) };
  }
  const templateFile = join(dirname(script.source.path), template.url);
  if (files.kind(templateFile) !== 'file') {
    const line = script.source.lines.at(place.start).line;
    fail({ file: script.source.path, reason: `its template ${template.url} is not there`, line });
    return { view: hole('template not there') };
  }
  const found = source(templateFile);
  const parsed = found && parseAngular(compiler, found, { start: 0, end: found.text.length, escaped: false });
  if (!parsed || 'reason' in parsed) return { view: (parsed && fail(parsed), hole('template not readable')) };
  return { view: angularView(compiler, parsed.nodes, declaration), templateFile };
}
