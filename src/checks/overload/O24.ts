import { titlesOf } from '../../specs/model/blocks.js';
import { isAssert } from '../../specs/model/rounds.js';
import type { Assertion } from '../../specs/model/steps.js';
import type { Value } from '../../specs/model/values.js';
import { inShort } from '../../util/printable.js';
import type { Finding } from '../../finding.js';
import type { FileCheck } from '../questions/check.js';
import { inFile } from '../questions/context.js';
import { onceAFile } from '../questions/once-a-file.js';
import { runningSpecs } from '../questions/order.js';

const message = (subject: string): string =>
  `${subject} takes one argument of one call by its place: when it fails, the report says nothing of what the call was.`;
const advice =
  'Assert on the call itself: toHaveBeenCalledWith(…), with expect.objectContaining(…) where only a part counts.';

/** An argument of a stand-in's call that is read by its place. One finding a file. */
export const O24: FileCheck = {
  code: 'O24',
  family: 'overload',
  scope: 'file',
  title: 'Call taken apart',
  level: 'hint',
  why: 'Where the call was never made, the spec ends in a TypeError; and a call more before it makes the spec look at another one.',
  certain: 'Sure: the place is written out.',
  trouble: 'expect(onFire.mock.calls[0][0]).toEqual({ cone: 6 });',
  mended: 'expect(onFire).toHaveBeenCalledWith({ cone: 6 });',
  run(context) {
    const found = runningSpecs(context.file).flatMap((spec) =>
      spec.steps
        .filter(isAssert)
        .filter((step) => !step.via && isOfOneCall(step.assertion))
        .map(({ assertion: { place, subjectText } }): Finding => ({
          place: inFile(context, place),
          within: titlesOf(spec),
          certainty: 'sure',
          message: message(inShort(subjectText, 60)),
          advice,
        })),
    );
    return onceAFile(found, 'and so here');
  },
};

// `onFire.mock.calls[0][0]`, `onFire.mock.lastCall[0].cone`, and what a name holds that was taken so: how many calls there
// are is another question.
function isOfOneCall({ subjectPath, subject, subjectText, matcher }: Assertion): boolean {
  if (matcher === 'toHaveLength') return false;
  const at = subjectPath.lastIndexOf('mock');
  if (at > 0) return leadsToOne(subjectPath.slice(at + 1));
  // What is called, or worked out from it, is more than what the call was made with.
  return subjectText === subjectPath.join('.') && leadsToOne(['calls', ...readOff(subject)]);
}

function leadsToOne([of = '', ...taken]: readonly string[]): boolean {
  const places = PLACES.get(of);
  return (
    places !== undefined &&
    taken.length >= places &&
    taken.slice(0, places).every((name) => name === 'at' || /^\d+$/.test(name))
  );
}

// The names that are read off a stand-in or its record, one after the other.
function readOff(value: Value): string[] {
  const names: string[] = [];
  let at = value;
  for (; at.is === 'read'; at = at.of) names.unshift(at.name);
  return at.is === 'thing' && at.standIn ? names : [];
}

// How many places lead to one argument.
const PLACES: ReadonlyMap<string, number> = new Map([
  ['calls', 2],
  ['lastCall', 1],
]);
