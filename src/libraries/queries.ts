import type { By, Meaning, Missing, QueryNames } from './meaning.js';

const KINDS: QueryNames['kinds'] = {
  Role: 'role',
  LabelText: 'label',
  Text: 'text',
  PlaceholderText: 'placeholder',
  DisplayValue: 'value',
  AltText: 'alt',
  Title: 'title',
  TestId: 'testId',
};

const FORMS: QueryNames['forms'] = [
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
      table[prefix + suffix] = { kind: 'query', by, missing, waits, gives, container, asked: 'as-user' };
    }
  }
  return table;
}

/** The queries of a real browser's page: they only say how an element is found, and look for it each time they are used. */
export const LOCATING: Readonly<Record<string, Meaning>> = Object.fromEntries(
  Object.entries({ ...KINDS, Placeholder: 'placeholder' } as const).map(([suffix, by]) => [
    `getBy${suffix}`,
    { kind: 'query', by, missing: 'void', gives: 'located', asked: 'as-user' } as const,
  ]),
);

/** The names of the user-centred queries: `getByRole`, `findAllByText`… */
export const USER_QUERIES: QueryNames = { forms: FORMS, kinds: KINDS };

/** The name of a query of a library; undefined where it has none of that kind or form. */
export function queryName(
  { forms, kinds }: QueryNames,
  by: By,
  missing: Missing,
  waits: boolean,
): string | undefined {
  const suffix = Object.keys(kinds).find((key) => kinds[key] === by);
  const form = forms.find((form) => form.missing === missing && Boolean(form.waits) === waits);
  return suffix === undefined || !form ? undefined : form.prefix + suffix;
}
