import type { RenderedElement } from '../../rendering/rendered-tree.js';
import type { StepOf } from '../../specs/model/steps.js';
import type { FileContext } from './context.js';
import { eventOf } from '../../specs/model/acts.js';
import { runningBlocks } from './order.js';

/** What the specs of a file fire. */
interface Fired {
  /** Events by the element that they are fired on, or that they rise to: file and offset of its opening tag. */
  onElements: ReadonlyMap<string, ReadonlySet<string>>;
  /** Events fired on what can't be told. */
  anywhere: ReadonlySet<string>;
  /** Members of components that are read or called from outside: a handler may be called by its name. */
  members: ReadonlySet<string>;
  /** Something is done that can't be read: any event may be fired. */
  blind: boolean;
}

/** The key of an element. */
export const elementKey = (file: string, start: number): string => `${file}:${start}`;

const POINTER =
  'pointerdown pointerup pointerover pointerenter pointermove mousedown mouseup mouseover mouseenter mousemove';
const KEYS =
  'keydown keypress keyup beforeinput input change focus focusin blur focusout click submit select paste cut copy';

// What one act of a user brings about, beside the event of its own name.
const BRINGS: Readonly<Record<string, string>> = {
  click: `click focus focusin blur focusout change input submit reset toggle select ${POINTER}`,
  dblclick: `click dblclick focus focusin change input select ${POINTER}`,
  tripleclick: `click dblclick focus focusin select ${POINTER}`,
  hover: POINTER,
  unhover: 'mouseout mouseleave mousemove pointerout pointerleave pointermove',
  type: `${KEYS} ${POINTER}`,
  clear: KEYS,
  keyboard: KEYS,
  tab: KEYS,
  paste: KEYS,
  upload: `${KEYS} ${POINTER}`,
  setvalue: 'input change',
  setchecked: 'click input change',
  setselected: 'input change',
  selectoptions: `${KEYS} ${POINTER}`,
  deselectoptions: `${KEYS} ${POINTER}`,
  focus: 'focus focusin',
  blur: 'blur focusout',
};
const LEFT = 'blur focusout mouseleave mouseout pointerleave pointerout'.split(' ');

// These may fire whatever their arguments say.
const ANY = new Set(['pointer', 'dispatchevent', 'fireevent', 'triggereventhandler']);

/** The events that the specs and hooks of a file fire, as far as they can be told. */
export function firedIn(context: FileContext): Fired {
  const onElements = new Map<string, Set<string>>();
  const anywhere = new Set<string>();
  const { file } = context;
  const members = new Set(file.insides.map(({ name }) => name));
  let blind = false;
  for (const block of runningBlocks(file))
    for (const step of block.steps) {
      if (step.kind === 'unknown-call' && step.discarded) blind = true;
      if (step.kind !== 'act' || (step.by === 'program' && !step.reach)) continue;
      const event = eventOf(step).toLowerCase();
      blind ||= ANY.has(event);
      const events = (BRINGS[event] ?? event).split(' ');
      // A pointer or focus that goes somewhere else leaves where it was.
      if (step.by === 'user') LEFT.forEach((each) => anywhere.add(each));
      const element = elementOf(step, context);
      if (!element) events.forEach((event) => anywhere.add(event));
      for (let at = element; at; at = at.parent) {
        const key = elementKey(at.file, at.place.start);
        onElements.set(key, new Set([...(onElements.get(key) ?? []), ...events]));
      }
    }
  return { onElements, anywhere, members, blind };
}

function elementOf({ reach }: StepOf<'act'>, { rendering }: FileContext): RenderedElement | undefined {
  const target = reach && rendering.target(reach);
  return target?.kind === 'one' && target.proven ? target.element : undefined;
}
