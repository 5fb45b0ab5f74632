import { type CheckText } from '../../checks/questions/check.js';
import { FAMILIES } from '../../finding.js';
import { CATALOGUE, textOfCode } from '../../checks/index.js';
import { nearest } from '../../util/nearest.js';
import { printable } from '../../util/printable.js';
import type { Colours } from '../../formats/colours.js';
import { UsageError } from '../exit.js';
import { coloursFor } from '../terminal.js';

/** `wexlet explain`: one check, or all of them in short. */
export function runExplain(code: string | undefined, { color }: { color: boolean }): void {
  const colours = coloursFor(color);
  if (code === undefined) {
    process.stdout.write(overview(colours));
    return;
  }
  const text = textOfCode(code);
  if (!text) {
    const near = nearest(
      code,
      CATALOGUE.map((each) => each.code),
    );
    throw new UsageError(`no check is called ${printable(code)}${near ? `; did you mean ${near}?` : ''}`);
  }
  process.stdout.write(explained(text, colours));
}

function overview(colours: Colours): string {
  const families = FAMILIES.map((family) => {
    const checks = CATALOGUE.filter((each) => each.family === family);
    return [
      colours.strong(family),
      ...checks.map(
        (each) => `  ${colours.code(each.code)}  ${colours[each.level](each.level.padEnd(7))}  ${each.title}`,
      ),
    ].join('\n');
  });
  return `${families.join('\n\n')}\n`;
}

function explained(text: CheckText, colours: Colours): string {
  const indented = (code: string): string =>
    code
      .split('\n')
      .map((line) => `    ${line}`)
      .join('\n');
  return [
    `${colours.code(text.code)}  ${colours.strong(text.title)}`,
    `${colours.faint(`${text.family}, `)}${colours[text.level](text.level)}`,
    '',
    text.why,
    '',
    colours.faint('The trouble'),
    indented(text.trouble),
    '',
    colours.faint('Mended'),
    indented(text.mended),
    '',
    colours.faint(`Allow one place with a comment on the line before: wexlet: allow ${text.code} because …`),
    '',
  ].join('\n');
}
