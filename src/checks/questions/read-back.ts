import type { Expr } from '../../components/expr.js';
import { changeBy } from '../../libraries/changes.js';
import { hooksFor, type Block } from '../../specs/model/blocks.js';
import type { Render, StepOf } from '../../specs/model/steps.js';
import { textOfValue, type Value } from '../../specs/model/values.js';
import type { FileContext } from './context.js';
import type { HollowAssertion } from './presence.js';

/** An assertion that a prop of what the spec renders is what the spec itself gave; undefined for all others. */
export function readBack(
  { assertion }: StepOf<'assert'>,
  spec: Block,
  context: FileContext,
): HollowAssertion | undefined {
  const { subject, asks, not, args } = assertion;
  const [expected] = args;
  if (asks !== 'equal' || not || expected?.is !== 'constant') return undefined;
  const asked = propOf(subject);
  if (!asked || isGivenAgain(spec)) return undefined;
  const { render, name, own } = asked;
  // A field of the instance that is no prop is the component's own.
  if (own && !context.rendering.component(render)?.props.has(name)) return undefined;
  const given = givenTo(render, name);
  return given?.is === 'constant' && given.value === expected.value
    ? {
        reason: `it reads back ${name} as the spec itself gave it, whatever the component makes of that`,
        advice: 'Assert on what the component shows, or does, because of it.',
        always: true,
        little: true,
        level: 'risk',
      }
    : undefined;
}

interface AskedProp {
  render: Render;
  name: string;
  /** It is read off the instance, beside fields of the component's own. */
  own: boolean;
}

// `wrapper.props('size')`, `wrapper.props().size`, `wrapper.vm.$props.size`, `wrapper.vm.size`.
function propOf(subject: Value): AskedProp | undefined {
  if (subject.is !== 'read') return undefined;
  const { of, name, than } = subject;
  if (name === 'props' || name === 'prop') {
    const key = textOfValue(than);
    const render = key === undefined ? undefined : renderOf(of, 'wrapper');
    return render && key !== undefined ? { render, name: key, own: false } : undefined;
  }
  const all = of.is === 'read' && (of.name === 'props' || of.name === '$props') ? of.of : undefined;
  const render = all && renderOf(all, 'wrapper', 'instance');
  if (render) return { render, name, own: false };
  const instance = renderOf(of, 'instance');
  return instance && instance.gives !== 'fixture' ? { render: instance, name, own: true } : undefined;
}

// The render of a thing of some type, but not of a child of it. A shallow tree starts from what the component shows.
function renderOf(value: Value, ...types: ('wrapper' | 'instance')[]): Render | undefined {
  if (value.is !== 'thing' || value.reach || !value.render) return undefined;
  if (value.type === 'tree-wrapper')
    return types.includes('wrapper') && !value.render.shallow ? value.render : undefined;
  return types.some((type) => type === value.type) ? value.render : undefined;
}

/** What a spec gives to the component at the root of a render by a name; undefined where that is nothing that can be told. */
export function givenTo({ view }: Render, name: string): Expr | undefined {
  const [root] = view ?? [];
  const prop = root?.kind === 'component' ? root.props.get(name) : undefined;
  return prop && 'expr' in prop ? prop.expr : undefined;
}

const isGivenAgain = (spec: Block): boolean =>
  [...hooksFor(spec, 'before-each'), spec].some(({ steps }) =>
    steps.some((step) => step.kind === 'act' && changeBy(step.name, step.args.length) === 'rerenders'),
  );
