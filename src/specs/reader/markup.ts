import type { Node } from 'oxc-parser';
import type { Env } from '../model/env.js';
import { lookUp } from './names.js';
import { callbackGuard } from './guards.js';
import { originOf } from './origins.js';
import type { SpecReading } from './spec-reading.js';
import { givenToComponent } from './uses.js';
import type { Value } from '../model/values.js';

/** Reads markup: it runs nothing but the expressions in it; functions that it hands on may run later. */
export function readMarkup(run: SpecReading, env: Env, node: Node): void {
  if (node.type === 'JSXElement') {
    for (const each of node.openingElement.attributes) {
      const value =
        each.type === 'JSXSpreadAttribute'
          ? each.argument
          : each.value?.type === 'JSXExpressionContainer'
            ? each.value.expression
            : each.value;
      if (!value || value.type === 'JSXEmptyExpression' || value.type === 'Literal') continue;
      const given = run.evaluate(env, value);
      const name =
        each.type === 'JSXAttribute' && each.name.type === 'JSXIdentifier' ? each.name.name : undefined;
      if (name !== undefined) givenToTag(run, node.openingElement.name, name, given, each);
      if (name !== undefined && isMaker(given)) {
        const { text } = run.tree.script.source;
        run.emit({ kind: 'maker-given', prop: name, name: text.slice(value.start, value.end) }, value);
      }
      // `onFire={() => expect(…)}` runs if the component calls it; a reference is always set.
      const isCalled = name !== undefined && name !== 'ref' && given.is === 'function';
      const guard = isCalled ? callbackGuard(run, 'event', value) : run.flags.guard;
      run.under({ guard }, () => run.handOut(given, name));
    }
    mentionTag(run, env, node.openingElement.name);
  }
  if (node.type !== 'JSXElement' && node.type !== 'JSXFragment') return;
  for (const child of node.children) {
    if (child.type === 'JSXElement' || child.type === 'JSXFragment') readMarkup(run, env, child);
    else if (child.type === 'JSXExpressionContainer' && child.expression.type !== 'JSXEmptyExpression') {
      run.handOut(run.evaluate(env, child.expression));
    }
  }
}

// `jest.fn`, which is not called.
const isMaker = (value: Value): boolean =>
  value.is === 'library' && value.meaning.kind === 'stand-in' && value.meaning.target === 'none';

function givenToTag(run: SpecReading, tag: Node, prop: string, value: Value, node: Node): void {
  if (tag.type !== 'JSXIdentifier' || !originOf(run, value)) return;
  const component = run.project.component(run.tree.path, { local: tag.name });
  if (component) givenToComponent(run, component, prop, value, node);
}

// A component that the spec makes for itself runs when it is rendered.
function mentionTag(run: SpecReading, env: Env, name: Node): void {
  if (name.type === 'JSXMemberExpression') return;
  if (name.type === 'JSXIdentifier' && /^[A-Z]/.test(name.name))
    run.under({ inComponent: true }, () => run.handOut(lookUp(run, env, name.name)));
}
