import type { Finding } from '../../finding.js';
import { titlesOf } from '../../specs/model/blocks.js';
import { nameOption } from '../../specs/model/asked.js';
import type { Reach } from '../../specs/model/steps.js';
import type { Value } from '../../specs/model/values.js';
import type { FileCheck } from '../questions/check.js';
import { inFile, type FileContext } from '../questions/context.js';
import { onceAFile } from '../questions/once-a-file.js';

const message = (pattern: string, words: string): string =>
  `${pattern} is found in any text with “${words}” in it: other words, figures and dates, too.`;
const advice = (pattern: string): string => `Say where it begins and ends: ${pattern}`;

/** Words asked for by a pattern that fits many others. One finding a file. */
export const Q18: FileCheck = {
  code: 'Q18',
  family: 'queries',
  scope: 'file',
  title: 'Pattern that fits other words',
  level: 'hint',
  why: 'The spec goes by whatever holds these letters: the next text that the component shows may be found in its place, or beside it.',
  certain: 'Sure: the pattern is one or two letters or figures, and nothing says where they begin and end.',
  trouble: 'await user.click(screen.getByText(/no/i)); // “Not now”, “Notes”, “Unknown”',
  mended: "await user.click(screen.getByRole('button', { name: /^no$/i }));",
  run(context) {
    const found = context.used.flatMap(({ reach }) => check(reach, context) ?? []);
    return onceAFile(found, 'and here');
  },
};

function check(reach: Reach, context: FileContext): Finding | undefined {
  const asked = reach.by === 'role' ? nameOption(reach) : reach.args[0];
  if (!reach.asUser || !isLoose(asked)) return undefined;
  const { source, flags } = asked;
  return {
    place: inFile(context, reach.place),
    within: titlesOf(reach.block),
    certainty: 'sure',
    message: message(`/${source}/${flags}`, source),
    advice: advice(`/^${source}$/${flags}`),
  };
}

// Letters and figures alone, and no more than two of them.
const isLoose = (asked: Value | undefined): asked is Extract<Value, { is: 'pattern' }> =>
  asked?.is === 'pattern' && /^[\p{L}\p{N}]{1,2}$/u.test(asked.source);
