import { parseScript } from '../syntax/script.js';
import type { Source } from '../syntax/source.js';
import { moduleFacts } from '../syntax/module-facts.js';

const REFERENCE = /^\/\s*<reference\s+types=["']([^"']+)["']/;

/** The type packages that a script or declaration file brings in: by its references, and by what it imports. */
export function typeSources(source: Source): string[] {
  const script = parseScript(source);
  if ('reason' in script) return [];
  const references = script.comments.flatMap(({ value }) => REFERENCE.exec(value)?.[1] ?? []);
  const facts = moduleFacts(script.program);
  const imports = [...facts.imports.values()].map(({ specifier }) => specifier);
  return [...references, ...imports, ...facts.modules.map(({ specifier }) => specifier)];
}
