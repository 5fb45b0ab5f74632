import { textOfCode } from '../../checks/index.js';
import { unknownName } from '../../checks/names.js';
import { FAMILIES } from '../../finding.js';
import { explainedCheck, overviewOfChecks } from '../../formats/explain.js';
import { declares } from '../../environment/facts/environment.js';
import { Environments } from '../../environment/read.js';
import { DiskFiles } from '../../host/disk-files.js';
import { join, slashed } from '../../util/paths.js';
import { rendersIn, type NamedRenders } from '../../writing/render-words.js';
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
  const framework = ownFramework();
  const written = (code: string): string => (framework ? rendersIn(framework, code) : code);
  const { trouble, mended } = text;
  process.stdout.write(
    explainedCheck({ ...text, trouble: written(trouble), mended: written(mended) }, colours),
  );
}

// The framework that the package around declares, where its renders are no markup.
function ownFramework(): NamedRenders | undefined {
  const environment = new Environments(new DiskFiles()).of(join(slashed(process.cwd()), 'spec'));
  if (declares(environment, 'react')) return undefined;
  return declares(environment, 'vue')
    ? 'vue'
    : declares(environment, '@angular/core')
      ? 'angular'
      : undefined;
}
