import { agreed } from '../../environment/environment.js';
import type { Mend } from '../../mends/edit.js';
import type { Block } from '../../model/specs/blocks.js';
import type { StandIn, Step, StepOf } from '../../model/specs/steps.js';
import { inFile, truePlace, type FileCheck, type FileContext, type Found } from '../check.js';
import { inEachHook } from '../hook-edits.js';
import { quoted } from '../order.js';
import { leftBy, type Left } from './ending.js';
import { leftLasting, sufferer, type LeftLasting } from './outliving.js';

const message = (what: string, later: string): string =>
  `${what} is overwritten and nobody puts it back: ${later} gets the new value.`;
const advice = 'Keep the value before, and write it back in an after-each hook.';
const adviceStub = 'Undo it in an after-each hook, or let the runner undo it by its settings.';

/** A global value that a spec or hook overwrites for all that follow. */
export const C04: FileCheck = {
  code: 'C04',
  family: 'cleanup',
  scope: 'file',
  title: 'Global value overwritten',
  level: 'risk',
  why: 'The page, the process and the prototypes are there once for the whole file.',
  trouble: "it('fits a narrow screen', () => {\n  window.innerWidth = 320;\n  …\n});",
  mended: 'const { innerWidth } = window;\nafterEach(() => {\n  window.innerWidth = innerWidth;\n});',
  run: (context) => [...written(context), ...stubbed(context)],
};

const WRITTEN = new Set(['global', 'environment', 'locale', 'seed'] as const);

function written(context: FileContext): Found[] {
  return leftLasting(context, WRITTEN).flatMap((left) => {
    const later = sufferer(left, context);
    if (left.ending.is !== 'never' || !later || isReplacedHere(left, context)) return [];
    const { step, block } = left;
    return [
      {
        ...foundAt(left, later, context),
        message: message(step.lasting.text, quoted(later)),
        advice,
        mend: step.via ? undefined : putBack(step, block, context),
      },
    ];
  });
}

const foundAt = ({ step, block }: Left, later: Block, context: FileContext) => ({
  place: inFile(context, step.place),
  block,
  certainty:
    step.maybe || context.file.unknownEffects || context.setup === undefined
      ? ('likely' as const)
      : ('sure' as const),
  evidence: [
    ...(step.via ? [{ ...truePlace(context, step), note: 'written in this helper' }] : []),
    { ...inFile(context, later.place), note: `${quoted(later)} runs later` },
  ],
});

// Written once for the whole file before, too: what is left is what the file means to have.
const isReplacedHere = ({ step }: LeftLasting, { file }: FileContext): boolean =>
  file.root.steps.some((other) => other.kind === 'lasting' && other.lasting.key === step.lasting.key);

function stubbed(context: FileContext): Found[] {
  const { runners } = context;
  // What can't be read may well undo it.
  if (context.setup === undefined || agreed(runners, ({ unstubs }) => unstubs) !== false) return [];
  const left = leftBy(context, (step) =>
    step.kind === 'stand-in' && isStub(step.standIn) ? (other) => unstubs(other, step.standIn) : undefined,
  );
  return left.flatMap((each) => {
    const { step, later, ending, block } = each;
    if (step.kind !== 'stand-in' || ending.is !== 'never') return [];
    return [
      {
        ...foundAt(each, later, context),
        message: message(step.standIn.member ?? 'A global value', quoted(later)),
        advice: adviceStub,
        mend: unstubbed(step.standIn, block, context),
      },
    ];
  });
}

/** Whether a stand-in is a global or an environment value stubbed by the runner's helper. */
export const isStub = ({ target }: StandIn): boolean => target === 'global' || target === 'env';

/** Whether a step undoes such a stub. */
export const unstubs = (step: Step, { target }: StandIn): boolean =>
  step.kind === 'restore' && step.scope === (target === 'env' ? 'env' : 'globals');

function unstubbed(standIn: StandIn, block: Block, context: FileContext): Mend | undefined {
  const [kit = ''] = standIn.made.by.split('.');
  const name = standIn.target === 'env' ? 'unstubAllEnvs' : 'unstubAllGlobals';
  const edits =
    block.parent &&
    inEachHook(context, block.parent, 'after-each', [`${kit}.${name}()${context.style.semicolon}`]);
  return edits && { summary: 'Undo the stub after each spec', safe: true, edits };
}

/** Keeps a value before the specs of a group, and writes it back after each; undefined where that is not plain. */
export function putBack(
  { lasting }: StepOf<'lasting'>,
  block: Block,
  context: FileContext,
): Mend | undefined {
  const { semicolon, quote } = context.style;
  const target = lasting.text;
  const group = block.parent;
  const name = nameFor(lasting.key);
  const { text } = context.source;
  if (!group || !/^[\w$.[\]'"() ]+$/.test(target) || new RegExp(`\\b${name}\\b`).test(text)) return undefined;
  const { defined, what } = lasting;
  if (what === 'locale' || what === 'seed') return undefined;
  if (defined && !defined.configurable) return undefined;
  const [object, member] = [
    target.slice(0, target.lastIndexOf('.')),
    target.slice(target.lastIndexOf('.') + 1),
  ];
  const key = `${quote}${member}${quote}`;
  const isValue = !defined && lasting.what !== 'environment';
  if (!isValue && !/^\w+$/.test(member)) return undefined;
  const kept = isValue ? target : defined ? `Object.getOwnPropertyDescriptor(${object}, ${key})` : target;
  const back = isValue
    ? [`${target} = ${name}${semicolon}`]
    : defined
      ? [
          `if (${name}) Object.defineProperty(${object}, ${key}, ${name})${semicolon}`,
          `else Reflect.deleteProperty(${object}, ${key})${semicolon}`,
        ]
      : [`if (${name} === undefined) delete ${target}${semicolon}`, `else ${target} = ${name}${semicolon}`];
  const edits = inEachHook(context, group, 'after-each', back, [`const ${name} = ${kept}${semicolon}`]);
  return edits && { summary: `Put ${target} back after each spec`, safe: true, edits };
}

// `process.env.KILN_UNIT` is kept as `savedKilnUnit`, `document.hidden` as `savedDocumentHidden`.
function nameFor(key: string): string {
  const words = key
    .replace(/^process\.env\.|^import\.meta\.env\./, '')
    .split(/[^A-Za-z0-9]+/)
    .filter(Boolean);
  const parts = words.map((word) => {
    const rest = word === word.toUpperCase() ? word.slice(1).toLowerCase() : word.slice(1);
    return (word[0] ?? '').toUpperCase() + rest;
  });
  return `saved${parts.join('')}`;
}
