import { titlesOf } from '../../specs/model/blocks.js';
import { pageQuery } from '../../writing/kit.js';
import type { RenderedElement, RenderedTree } from '../../rendering/rendered-tree.js';
import { bestHandle } from '../../rendering/replacement.js';
import { searchScope } from '../../rendering/scope.js';
import type { Inside, Render } from '../../specs/model/steps.js';
import { type FileCheck } from '../questions/check.js';
import type { Finding, Level } from '../../finding.js';
import { inFile, type FileContext } from '../questions/context.js';
import { markupOf } from '../questions/element-markup.js';
import { argsOf } from '../../writing/rewrite.js';

const message = (name: string, component: string, how: 'read' | 'set'): string =>
  how === 'set'
    ? `${/^set[A-Z]/.test(name) ? 'The state' : name} of ${component} is set from outside, as no user and no parent can.`
    : `${name} is an inner matter of ${component}: no user sees it.`;
const messageHook = (hook: string): string =>
  `${hook} is replaced: the spec sets what the component keeps to itself, and nothing that it does changes it.`;
const adviceShown = (markup: string, query: string | undefined): string =>
  `${markup} shows it${query ? `: assert on ${query}` : '; assert on that'}.`;
const adviceSet = 'Bring the component there as a user does: by its props and by acting on its elements.';
const adviceBare =
  'Render it: what a user sees of it is in its template, and what is only reckoned can be a function of its own.';
const advice = 'Assert on what the component shows, or emits, because of it.';

/** State, fields or methods of a rendered component, read or set by a spec. */
export const Q05: FileCheck = {
  code: 'Q05',
  family: 'queries',
  scope: 'file',
  title: 'Reads the component’s insides',
  level: 'risk',
  why: 'A spec on inner state breaks with every rewrite that changes nothing for the user, and stays green when the state is right but the page is wrong.',
  certain: 'Sure where the component is known, and the member is neither a prop nor offered by it.',
  trouble: 'expect(wrapper.vm.isOpen).toBe(true);',
  mended: "expect(screen.getByRole('status')).toHaveTextContent('Open');",
  run(context) {
    const found = new Map<number, Finding>();
    for (const inside of context.file.insides) {
      const each = check(inside, context);
      if (each && !found.has(each.place.start)) found.set(each.place.start, each);
    }
    return [...found.values(), ...replacedState(context)];
  },
};

// react 16.8 to 19: the hooks that hold what a component keeps to itself.
const STATE_HOOKS: ReadonlySet<string> = new Set(['useState', 'useReducer', 'useRef']);

// A stand-in for a hook that holds state: what the component keeps to itself is the spec's to set.
const replacedState = ({ file, ...context }: FileContext): Finding[] =>
  file.blocks.flatMap((block) =>
    block.steps.flatMap((step): Finding[] => {
      if (step.kind !== 'stand-in' || step.via) return [];
      const { member = '', objectText = '', target, place } = step.standIn;
      const isReact = file.imports.get(objectText)?.specifier === 'react';
      if (target !== 'member' || !isReact || !STATE_HOOKS.has(member)) return [];
      return [
        {
          place: inFile({ file, ...context }, place),
          within: titlesOf(block),
          certainty: 'sure',
          message: messageHook(`${objectText}.${member}`),
          advice: adviceSet,
        },
      ];
    }),
  );

function check(inside: Inside, context: FileContext): Finding | undefined {
  const { render, name, how, on, bare } = inside;
  const component = bare ?? (render && context.rendering.component(render));
  // What a child offers is not known here.
  if (!component || inside.ofChild) return undefined;
  // Where the spec has blanked the template, that is what there is to mend.
  if (render?.template === 'blank') return undefined;
  if (component.props.has(name) || component.offered?.has(name)) return undefined;
  // What another component calls by a reference to it is offered, too.
  if (component.framework === 'vue' && how === 'read' && context.project.isUsedByReference(component, name))
    return undefined;
  // A host that the spec makes for itself is the spec's own means.
  if (component.file === context.file.path) return undefined;
  if (on === 'instance' && component.ownMembers && !component.ownMembers.has(name)) return undefined;
  const shown = how === 'read' && render ? shownBy(name, context.rendering.tree(render)) : undefined;
  return {
    place: inFile(context, inside.place),
    within: titlesOf(inside.block),
    level: levelOf(inside),
    certainty: 'sure',
    message: message(name, component.name, how),
    advice:
      shown && render
        ? adviceShown(markupOf(shown), queryFor(shown, render, context))
        : bare
          ? adviceBare
          : how === 'set'
            ? adviceSet
            : advice,
    evidence: shown ? [{ file: shown.file, ...shown.place, note: `shows ${name}` }] : [],
  };
}

// Public members of a test-bed component, and all of a bare instance, are a matter of craft.
function levelOf({ render, bare, on, forced, name }: Inside): Level | undefined {
  if (bare) return 'hint';
  const isPublic = on === 'instance' && !forced && !/^[_#]/.test(name);
  return render?.gives === 'fixture' && isPublic ? 'hint' : undefined;
}

// The element whose text shows a field.
const shownBy = (name: string, { elements }: RenderedTree): RenderedElement | undefined =>
  elements.find(({ children }) =>
    children.some((child) => child.kind !== 'element' && child.reads.includes(name)),
  );

function queryFor(element: RenderedElement, render: Render, context: FileContext): string | undefined {
  const handle = bestHandle(element, searchScope(context.rendering.tree(render)), context.testIdAttribute);
  return handle && context.userCentred
    ? pageQuery(context, handle.by, argsOf(handle, context.style.quote))
    : undefined;
}
