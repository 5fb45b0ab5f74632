import { titlesOf, assigns, type Binding } from '../../specs/model/blocks.js';
import type { LastingKind } from '../../libraries/platform.js';
import { type FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { eachHooksAround, quotedTitle } from '../questions/order.js';
import { fakesClock } from '../questions/clocks.js';
import { traces } from '../questions/ending.js';
import { leftLasting, type LeftLasting } from '../questions/outliving.js';

const WHAT: Readonly<Partial<Record<LastingKind, string>>> = {
  listener: 'The listener',
  interval: 'The interval',
  observer: 'The observer',
  connection: 'The connection',
  server: 'The server',
  subscription: 'The subscription',
  file: 'The file',
};
const message = (what: string, call: string, later: string): string =>
  `${what} of ${call} is never closed: it goes on while ${later} runs.`;
const messageFile = (call: string): string => `What ${call} writes is never removed.`;
function messageOf({ step: { lasting }, later }: LeftLasting): string {
  return lasting.what === 'file'
    ? messageFile(lasting.text)
    : message(WHAT[lasting.what] ?? 'What is opened', lasting.text, quotedTitle(later));
}
const advice = 'Keep what the call gives, and close it in an after-each hook.';

/** Something that is opened and goes on once its spec is over. */
export const C05: FileCheck = {
  code: 'C05',
  family: 'cleanup',
  scope: 'file',
  title: 'Opened and never closed',
  level: 'risk',
  why: 'It reacts to what later specs do, and keeps the runner from ending.',
  certain:
    'Sure where it always runs, is no subscription, and every hook and set-up file around it can be read.',
  trouble: "it('follows the width', () => {\n  window.addEventListener('resize', onResize);\n  …\n});",
  mended: "afterEach(() => {\n  window.removeEventListener('resize', onResize);\n});",
  run: (context) =>
    leftLasting(context, OPENED)
      .filter((left) => left.ending.is === 'never' && !isOwn(left) && !isFaked(left, context))
      .map((left) => ({
        place: inFile(context, left.step.place),
        within: titlesOf(left.block),
        level: watchesForTheTested(left, context) ? ('hint' as const) : undefined,
        certainty: left.step.lasting.what === 'subscription' ? ('likely' as const) : left.certainty,
        message: messageOf(left),
        advice,
        evidence: traces(left, 'opened in this helper', context),
      })),
};

const OPENED = new Set([
  'listener',
  'interval',
  'observer',
  'connection',
  'server',
  'subscription',
  'file',
] as const);

// What is tested watches elements: those of an earlier spec change no more.
const watchesForTheTested = ({ step: { lasting, via } }: LeftLasting, { project }: FileContext): boolean =>
  lasting.what === 'observer' && via !== undefined && !project.summary(via.file)?.usesTestLibrary;

// A subscription ends with what is subscribed to, unless that is there before the spec and after it.
function isOwn({ step, block }: LeftLasting): boolean {
  const { what, binding } = step.lasting;
  return what === 'subscription' && !(binding && outlives(binding, block));
}

const outlives = (binding: Binding, block: LeftLasting['block']): boolean =>
  (binding.kind === 'import' || binding.file !== undefined || KEPT.has(binding.holds)) &&
  !eachHooksAround(block).some((hook) => assigns(hook, binding));

const KEPT: ReadonlySet<Binding['holds']> = new Set(['instance', 'made', 'closure', 'literal']);

// Intervals of a fake clock go with it.
const isFaked = ({ step, block }: LeftLasting, { file }: FileContext): boolean =>
  step.lasting.what === 'interval' && [...eachHooksAround(block), block, file.root].some(fakesClock);
