import type { By, Meaning, Missing } from './meaning.js';

const KINDS: Readonly<Record<string, By>> = {
  Role: 'role',
  LabelText: 'label',
  Text: 'text',
  PlaceholderText: 'placeholder',
  DisplayValue: 'value',
  AltText: 'alt',
  Title: 'title',
  TestId: 'testId',
};

const FORMS: readonly { prefix: string; missing: Missing; waits?: boolean }[] = [
  { prefix: 'getBy', missing: 'throws' },
  { prefix: 'getAllBy', missing: 'many-throws' },
  { prefix: 'queryBy', missing: 'null' },
  { prefix: 'queryAllBy', missing: 'many' },
  { prefix: 'findBy', missing: 'throws', waits: true },
  { prefix: 'findAllBy', missing: 'many-throws', waits: true },
];

/** The user-centred queries, six forms for each of eight kinds, by name. `container`: the element comes first. */
export function userQueries(container: boolean): Record<string, Meaning> {
  const table: Record<string, Meaning> = {};
  for (const { prefix, missing, waits } of FORMS) {
    for (const [suffix, by] of Object.entries(KINDS)) {
      const gives = missing.startsWith('many') ? 'elements' : 'element';
      table[prefix + suffix] = { kind: 'query', by, missing, waits, gives, container };
    }
  }
  return table;
}

/** The name of a user-centred query: `getByRole`, `findAllByText`… */
export function userQueryName(by: By, missing: Missing, waits: boolean): string | undefined {
  const suffix = Object.keys(KINDS).find((key) => KINDS[key] === by);
  const form = FORMS.find((each) => each.missing === missing && Boolean(each.waits) === waits);
  return suffix && form && form.prefix + suffix;
}
