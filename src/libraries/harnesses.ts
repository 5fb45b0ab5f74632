import type { Dialect, Meaning, TypeName } from './meaning.js';
import { each, plain, reads, type TypeTable } from './type-table.js';

// Every method gives a promise, and brings the page up to date. Read from @angular/cdk 9 to 21, testing/index.d.ts.
const ask = (by: 'harness' | 'selector', missing: 'throws' | 'null' | 'many', gives: TypeName): Meaning => ({
  kind: 'query',
  by,
  missing,
  gives,
  waits: true,
});

/** Objects through which specs drive a component as its author offers it, and what gives them. */
export const HARNESSES = {
  'harness-environment': {
    members: {
      loader: { kind: 'within', gives: 'harness-loader' },
      documentRootLoader: { kind: 'gives', type: 'harness-loader' },
      harnessForFixture: { kind: 'within', gives: 'harness', waits: true },
      getNativeElement: { kind: 'within', gives: 'element' },
    },
    rest: reads,
  },
  'harness-loader': {
    members: {
      ...each('getHarness getHarnessAtIndex', ask('harness', 'throws', 'harness')),
      getHarnessOrNull: ask('harness', 'null', 'harness'),
      getAllHarnesses: ask('harness', 'many', 'harnesses'),
      getChildLoader: ask('selector', 'throws', 'harness-loader'),
      getAllChildLoaders: ask('selector', 'many', 'chain'),
    },
    rest: reads,
  },
  harness: {
    members: {
      host: { kind: 'gives', type: 'harness' },
      ...each('getHarness', ask('harness', 'throws', 'harness')),
      getHarnessOrNull: ask('harness', 'null', 'harness'),
      getAllHarnesses: ask('harness', 'many', 'harnesses'),
      getChildLoader: ask('selector', 'throws', 'harness-loader'),
      text: reads,
    },
    reading: /^(?:get|is|has|matches|locator|count)[A-Z]/,
    // Whatever else its author offers is done as a user does it.
    rest: { kind: 'act', by: 'user', waits: true },
  },
  harnesses: { members: each('length', reads), rest: reads },
} satisfies Partial<Record<TypeName, TypeTable>>;

/** Harnesses of the component dev kit. */
export const harnessLibraries: readonly Dialect[] = [
  {
    name: 'Angular harnesses',
    modules: ['@angular/cdk/testing/testbed'],
    exports: { TestbedHarnessEnvironment: { kind: 'object', type: 'harness-environment' } },
  },
  {
    name: 'Angular harnesses, the words',
    modules: ['@angular/cdk/testing'],
    exports: {
      parallel: { kind: 'runs', waits: true },
      ...each('manualChangeDetection', { kind: 'runs', waits: true }),
      ...each('ComponentHarness ContentContainerComponentHarness HarnessPredicate TestKey', plain),
    },
  },
];
