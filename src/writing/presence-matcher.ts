import type { FileContext } from '../checks/questions/context.js';
import type { Edit } from '../finding.js';
import type { Assertion } from '../specs/model/steps.js';

/** The change that makes an assertion say that its element is in the document: all behind `expect(…)` is written anew. */
export function presenceMatcher(
  { place, subjectEnd }: Assertion,
  { file, source }: FileContext,
): Edit | undefined {
  const close = subjectEnd === undefined ? -1 : source.text.indexOf(')', subjectEnd);
  if (close < 0 || close >= place.end) return undefined;
  return { file: file.path, start: close + 1, end: place.end, text: '.toBeInTheDocument()' };
}
