import { CATALOGUE } from '../checks/index.js';
import type { CheckText } from '../checks/questions/check.js';
import { FAMILIES, type Family } from '../finding.js';
import type { Colours } from './colours.js';

/** Checks in short, by family. */
export function overviewOfChecks(colours: Colours, of: readonly Family[] = FAMILIES): string {
  const families = of.map((family) => {
    const checks = CATALOGUE.filter((each) => each.family === family);
    return [
      colours.strong(family),
      ...checks.map(
        (check) =>
          `  ${colours.code(check.code)}  ${colours[check.level](check.level.padEnd(7))}  ${check.title}`,
      ),
    ].join('\n');
  });
  return `${families.join('\n\n')}\n`;
}

/** What there is to say of one check. */
export function explainedCheck(text: CheckText, colours: Colours): string {
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
    colours.faint(text.certain),
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
