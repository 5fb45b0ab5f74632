import { textOfCode } from '../../checks/index.js';
import { unknownName } from '../../checks/names.js';
import { FAMILIES } from '../../finding.js';
import { explainedCheck, overviewOfChecks } from '../../formats/explain.js';
import { UsageError } from '../exit.js';
import { coloursFor } from '../terminal.js';

/** `wexlet explain`: one check, or those of a family or all of them in short. */
export function runExplain(code: string | undefined, { color }: { color: boolean }): void {
  const colours = coloursFor(color);
  if (code === undefined) {
    process.stdout.write(overviewOfChecks(colours));
    return;
  }
  const family = FAMILIES.find((each) => each === code.toLowerCase());
  if (family) {
    process.stdout.write(overviewOfChecks(colours, [family]));
    return;
  }
  const text = textOfCode(code);
  if (!text) {
    throw new UsageError(unknownName(code));
  }
  process.stdout.write(explainedCheck(text, colours));
}
