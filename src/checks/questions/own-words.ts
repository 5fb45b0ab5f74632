import type { SpecFile } from '../../specs/model/blocks.js';
import { textOfValue } from '../../specs/model/values.js';
import { wordsOf } from '../../util/words.js';

/** What is typed or chosen in: a user finds it by its label. */
export const FIELD = 'field';

/** `FIELD`, or the role that a spec's own word for an element says: by the last word of a name or a test id, figures aside. */
export const toldRole = (text: string | undefined): string | undefined =>
  text === undefined
    ? undefined
    : ROLES.get(
        wordsOf(text)
          .filter((word) => !/^\d+$/.test(word))
          .at(-1) ?? '',
      );

const ROLES: ReadonlyMap<string, string> = new Map([
  ['btn', 'button'],
  ...'input field textarea textbox select combobox'.split(' ').map((word) => [word, FIELD] as const),
  ...'button link checkbox radio switch tab heading'.split(' ').map((role) => [role, role] as const),
]);

/** Whether a file says a text in its code beside the queries that ask for it: in what it gives or renders itself. */
export function isSaidBeside(text: string, { reaches, said }: SpecFile): boolean {
  const asking = reaches.filter(({ args }) => textOfValue(args[0]) === text);
  return (said().get(text) ?? 0) > new Set(asking.map(({ place }) => place.start)).size;
}
