import { CATALOGUE, textOfCode } from '../../checks/index.js';
import { orNearest } from '../../util/nearest.js';
import { printable } from '../../util/printable.js';
import { explainedCheck, overviewOfChecks } from '../../formats/explain.js';
import { UsageError } from '../exit.js';
import { coloursFor } from '../terminal.js';

/** `wexlet explain`: one check, or all of them in short. */
export function runExplain(code: string | undefined, { color }: { color: boolean }): void {
  const colours = coloursFor(color);
  if (code === undefined) {
    process.stdout.write(overviewOfChecks(colours));
    return;
  }
  const text = textOfCode(code);
  if (!text) {
    const codes = CATALOGUE.map((each) => each.code);
    throw new UsageError(`no check is called ${printable(code)}${orNearest(code, codes)}`);
  }
  process.stdout.write(explainedCheck(text, colours));
}
