import type { Mend } from '../finding.js';
import type { Block } from '../specs/model/blocks.js';
import type { StepOf } from '../specs/model/steps.js';
import type { FileContext } from '../checks/questions/context.js';
import { afterEachMend } from './hook-edits.js';

/** Keeps a value before the specs of a group, and writes it back after each; undefined where that is not plain. */
export function putBack(
  { lasting }: StepOf<'lasting'>,
  block: Block,
  context: FileContext,
): Mend | undefined {
  const { quote } = context.style;
  const { text: target, key: place, defined, what } = lasting;
  const name = nameFor(place);
  const isTaken = new RegExp(`\\b${name}\\b`).test(context.source.text);
  if (isTaken || what === 'locale' || what === 'seed' || !/^[\w$.[\]'"() ]+$/.test(target)) return undefined;
  const dot = target.lastIndexOf('.');
  const [object, member] = [target.slice(0, dot), target.slice(dot + 1)];
  const key = `${quote}${member}${quote}`;
  const isPlain = !defined && what !== 'environment';
  if (!isPlain && !/^\w+$/.test(member)) return undefined;
  const summary = `Put ${target} back after each spec`;
  const mended = (kept: string, ...back: string[]): Mend | undefined =>
    afterEachMend(context, block, summary, back, [`const ${name} = ${kept}`]);
  if (isPlain) return mended(target, `${target} = ${name}`);
  if (!defined)
    return mended(target, `if (${name} === undefined) delete ${target}`, `else ${target} = ${name}`);
  return defined.configurable
    ? mended(
        `Object.getOwnPropertyDescriptor(${object}, ${key})`,
        `if (${name}) Object.defineProperty(${object}, ${key}, ${name})`,
        `else Reflect.deleteProperty(${object}, ${key})`,
      )
    : undefined;
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
