import { functionKey } from '../../components/expr.js';
import type { Binding } from '../model/blocks.js';
import type { Env } from '../model/env.js';
import { standsIn } from '../model/blocks.js';
import { replacedValue } from './replaced-modules.js';
import type { Declared } from '../../project/project.js';
import type { SpecReading } from './spec-reading.js';
import type { Source } from '../../syntax/source.js';
import { UNKNOWN_VALUE, type Value } from '../model/values.js';

/** The value of a name: declared, imported, a helper of the project's settings, or global. */
export function lookUp(run: SpecReading, env: Env, name: string): Value {
  const slot = env.find(name);
  if (slot) {
    if (slot.lazy) {
      const { lazy } = slot;
      slot.lazy = undefined;
      slot.value = lazy();
    }
    return slot.value;
  }
  const meaning = run.project.libraries.globalMeaning(name);
  if (meaning) return { is: 'library', meaning, module: '', name };
  if (name === 'document') return { is: 'thing', type: 'page' };
  return { is: 'global', path: name };
}

/** What an import stands for, seen from the module that has it. */
export function importedValue(
  run: SpecReading,
  from: string,
  specifier: string,
  name: string,
  binding?: Binding,
): Value {
  // Only the spec file's own imports are the stand-ins that it makes.
  const inPlaceOf = (module: string, exported: string): Value =>
    from === run.file.path ? replacedValue(run, module, exported, binding) : UNKNOWN_VALUE;
  const meaning = run.project.libraries.meaningOf(specifier, name);
  if (meaning) return { is: 'library', meaning, module: specifier, name };
  if (standsIn(run, specifier, name)) return inPlaceOf(specifier, name);
  const file = run.project.resolve(from, specifier);
  if (!file) {
    const guessed = byCompany(run, from, specifier, name);
    if (guessed) return guessed;
    return specifier.startsWith('.') ? UNKNOWN_VALUE : { is: 'external', module: specifier, name };
  }
  if (standsIn(run, file, name)) return inPlaceOf(file, name);
  if (name === '*') return { is: 'project', declared: { file, name: '*' } };
  const declared = run.project.declared(file, name);
  if (!declared) {
    const handed = run.project.handedOn(file, name);
    return handed ? importedValue(run, file, handed.specifier, handed.name) : UNKNOWN_VALUE;
  }
  return standsIn(run, declared.file, declared.name)
    ? inPlaceOf(declared.file, declared.name)
    : (madeElsewhere(run, declared) ?? declaredElsewhere(run, declared));
}

// Most modules name no kit of stand-ins: these are not read for it.
const NAMES_A_KIT = /\b(?:vi|jest|jasmine|sinon|mock)\.\w|\bfrom ['"]sinon['"]/;
const knownKits = new WeakMap<Source, boolean>();

function namesKit(source: Source): boolean {
  const names = knownKits.get(source) ?? NAMES_A_KIT.test(source.text);
  knownKits.set(source, names);
  return names;
}

// What is known to be a component holds no data.
const declaredElsewhere = (run: SpecReading, declared: Declared): Value => ({
  is: 'project',
  declared,
  held: () =>
    run.writtenTo.has(keyOf(declared)) || run.project.componentAt(declared)
      ? UNKNOWN_VALUE
      : run.declaredValue({ is: 'project', declared }),
});

const keyOf = ({ file, name }: Declared): string => functionKey(file, name);

/** Keeps that something is done to what another module declares, or to a part of it. */
export function writesTo(run: SpecReading, value: Value | undefined): void {
  if (value?.is === 'read') writesTo(run, value.of);
  if (value?.is === 'project') run.writtenTo.add(keyOf(value.declared));
}

/** The stand-in that another module of the project makes, once for all that import it; `part`: kept in an object by that name. */
export function madeElsewhere(run: SpecReading, declared: Declared, part?: string): Value | undefined {
  const source = run.project.source(declared.file);
  if (!source || !namesKit(source)) return undefined;
  const held = run.declaredValue({ is: 'project', declared });
  const found = part === undefined ? held : held.is === 'object' ? held.entries.get(part) : undefined;
  return found?.is === 'thing' && found.standIn ? found : undefined;
}

// A module that is out of sight, and from which a runner's or a library's names are taken together, hands them on.
function byCompany(run: SpecReading, from: string, specifier: string, name: string): Value | undefined {
  const imports = run.project.summary(from)?.imports.values() ?? [];
  const names = [...imports].flatMap((each) => (each.specifier === specifier ? [each.name] : []));
  const known = run.project.libraries.byCompany(names, name, /\.[jt]sx$/.test(from));
  // Groups and specs are what they are called.
  if (known && !['group', 'spec', 'hook', 'expect'].includes(known.meaning.kind)) run.file.isGuessed = true;
  return known && { is: 'library', ...known, name };
}

/** Names of the global object itself. */
export const GLOBAL_OBJECTS: ReadonlySet<string> = new Set(['window', 'globalThis', 'global', 'self']);
/** What a member of a whole module, `import * as kiln`, is. */
export function moduleMember(run: SpecReading, file: string, name: string): Value {
  const declared = run.project.declared(file, name);
  return declared && !standsIn(run, declared.file, declared.name)
    ? declaredElsewhere(run, declared)
    : UNKNOWN_VALUE;
}
