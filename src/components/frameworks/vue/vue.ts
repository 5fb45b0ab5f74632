import type { Node } from 'oxc-parser';
import type { VueFile } from '../../../syntax/vue.js';
import { moduleFacts, type ModuleFacts } from '../../../syntax/module-facts.js';
import { changedProps } from '../../changed-props.js';
import type { Domain, Domains } from '../../domain.js';
import type { Expr } from '../../expr.js';
import { declaredTypes } from '../../prop-types.js';
import { listeningIn, opensIn } from '../../opens.js';
import { moduleScope, componentTitle } from '../react/react.js';
import type { NameBinding, ComponentScope } from '../../scope.js';
import type { Component, ComponentRef, ViewNode } from '../../view.js';
import {
  emittedBy,
  exposedBy,
  inheritsNone,
  macroObjects,
  type OptionsObject,
  componentOptions,
  ownMembers,
  readOptions,
  setupNames,
} from './vue-script.js';
import { type TemplateScope, viewOfChildren } from './vue-template.js';

/** The component of a single-file component. `everywhere`: the components that are known in every template. */
export function vueComponent(
  file: VueFile,
  facts: ModuleFacts,
  own?: OptionsObject,
  everywhere: ReadonlyMap<string, ComponentRef> = new Map(),
): Component {
  const { source, scripts, template } = file;
  const first = scripts[0]?.script;
  const options =
    own ?? scripts.map(({ script }) => componentOptions(moduleFacts(script.program))).find(Boolean);
  const scope = templateScope(file, facts, options, everywhere);
  const place = { start: 0, end: first ? 0 : Math.min(1, source.text.length) };
  const view: ViewNode[] = template
    ? viewOfChildren(template.children, scope)
    : [{ kind: 'hole', why: file.templateProblem ?? 'no template', place }];
  const statements = scripts.flatMap(({ script }) => script.program.body as readonly Node[]);
  return {
    name: componentTitle(source.path),
    file: source.path,
    framework: 'vue',
    place,
    view,
    props: scope.props,
    domains: scope.domains,
    changes: changedProps(source.text, statements, new Map(), new Set(scope.props.keys())),
    opens: opensIn(source.text, statements),
    listens: listeningIn(source.text, statements),
    registered: scope.registered,
    keepsAttributes: [...(options ? [options] : []), ...macroObjects(file, 'defineOptions')].some(
      inheritsNone,
    ),
    outputs: emittedBy(file, options),
    offered: exposedBy(file, options),
    ownMembers: options && ownMembers(options),
  };
}

function templateScope(
  file: VueFile,
  facts: ModuleFacts,
  options: OptionsObject | undefined,
  everywhere: ReadonlyMap<string, ComponentRef>,
): TemplateScope & { domains: Domains } {
  const names = new Map<string, NameBinding>();
  const props = new Map<string, Expr | undefined>();
  const types = declaredTypes(...file.scripts.flatMap(({ script }) => script.program.body));
  const declared = { props, domains: new Map<string, Domain>(), types };
  const registered = new Map(everywhere);
  const outer = moduleScope(file.source, facts);
  for (const { setup, script } of file.scripts) {
    for (const statement of script.program.body) if (setup) setupNames(statement, outer, names, declared);
  }
  if (options) readOptions(options, outer, declared, registered);
  if (file.scripts.some((script) => script.setup)) {
    for (const [local, { specifier, name, typeOnly }] of facts.imports)
      if (!typeOnly) registered.set(local, { specifier, name });
  }
  for (const name of props.keys()) if (!names.has(name)) names.set(name, { is: 'prop', name });
  names.set('$props', { is: 'props' });
  const scope: ComponentScope = { ...outer, lookup: (name) => names.get(name) };
  return { ...scope, props, domains: declared.domains, registered };
}
