import type { Node } from 'oxc-parser';
import type { Script } from '../../../syntax/script.js';
import { literalText, propertyName, unwrapped } from '../../../syntax/tree.js';
import { parseVue, type VueTemplate } from '../../../syntax/vue.js';
import type { ModuleFacts } from '../../../syntax/module-facts.js';
import { componentTitle } from '../react/react.js';
import type { Component } from '../../view.js';
import { optionsIn, type OptionsObject } from './vue-script.js';
import { vueComponent } from './vue.js';

const OPENING = '<template>';

/** Vue components that a script declares by `defineComponent`, `extend` or a bare object of options. */
export function vueOptionComponents(script: Script, facts: ModuleFacts): Component[] {
  const found: Component[] = [];
  const add = (name: string, node: Node): void => {
    const options = optionsIn(node);
    if (options && declaresVue(node, options))
      found.push(vueOptionComponent(name, node, options, script, facts));
  };
  for (const [name, node] of facts.declarations)
    if (/^[A-Z]/.test(name) && node.type === 'VariableDeclarator') add(name, node);
  const unnamed = facts.exports.get('default');
  if (unnamed && 'node' in unnamed) add(componentTitle(script.source.path), unnamed.node);
  return found;
}

/** Whether options declare a component: by `defineComponent(…)`, `X.extend(…)`, a template or a render function. */
export function declaresVue(node: Node, options: OptionsObject): boolean {
  const value = unwrapped(node.type === 'VariableDeclarator' && node.init ? node.init : node);
  const keys = new Set(
    options.properties.flatMap((property) =>
      property.type === 'Property' ? [propertyName(property.key, property.computed)] : [],
    ),
  );
  if (value.type === 'ObjectExpression')
    return keys.has('template') || (keys.has('render') && (keys.has('props') || keys.has('name')));
  const callee = value.type === 'CallExpression' ? unwrapped(value.callee) : undefined;
  const name =
    callee?.type === 'Identifier'
      ? callee.name
      : callee?.type === 'MemberExpression'
        ? propertyName(callee.property, callee.computed)
        : '';
  // Options without a template of any kind are a mixin, or another component's.
  const shows = keys.has('render') || keys.has('template') || keys.has('setup');
  return shows && (name === 'defineComponent' || name === 'extend');
}

/** The component that an object of options declares, wherever that stands in a script. */
export function vueOptionComponent(
  name: string,
  node: Node,
  options: OptionsObject,
  script: Script,
  facts: ModuleFacts,
): Component {
  const template = options.properties.find(
    (property) =>
      property.type === 'Property' && propertyName(property.key, property.computed) === 'template',
  );
  const literal =
    template?.type === 'Property' && literalText(template.value) !== undefined ? template.value : undefined;
  const parsed = literal && parsedTemplate(script, literal);
  const scripts = [{ setup: false, script }];
  const base = vueComponent(
    { source: script.source, scripts, template: parsed, languages: [], templateProblem: 'a render function' },
    facts,
    options,
  );
  return { ...base, name, place: { start: node.start, end: node.end } };
}

// The literal, set between tags in a text of blanks, so that positions are those of the script.
function parsedTemplate(script: Script, literal: Node): VueTemplate | undefined {
  const { source } = script;
  const start = literal.start + 1;
  if (start < OPENING.length) return undefined;
  const before = source.text.slice(0, start - OPENING.length).replace(/[^\n\r]/g, ' ');
  const text = `${before}${OPENING}${source.text.slice(start, literal.end - 1)}</template>`;
  const parsed = parseVue({ ...source, text });
  return 'reason' in parsed ? undefined : parsed.template;
}
