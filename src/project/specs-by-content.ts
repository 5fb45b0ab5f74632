import type { Program } from 'oxc-parser';
import type { Libraries } from '../libraries/index.js';
import { literalText, unwrapped } from '../syntax/tree.js';
import type { ModuleFacts } from '../syntax/module-facts.js';

/** Whether a script calls a runner's functions for groups or specs at its top level, with a title. */
export function callsRunner(program: Program, facts: ModuleFacts, libraries: Libraries): boolean {
  return program.body.some((statement) => {
    if (statement.type !== 'ExpressionStatement') return false;
    const call = unwrapped(statement.expression);
    if (call.type !== 'CallExpression' || call.arguments.length < 2) return false;
    const [title] = call.arguments;
    return (
      title !== undefined &&
      (literalText(title) !== undefined || title.type === 'TemplateLiteral') &&
      isRunnerName(rootName(call.callee), facts, libraries)
    );
  });
}

function rootName(node: Parameters<typeof unwrapped>[0]): string | undefined {
  let at = unwrapped(node);
  while (at.type === 'MemberExpression') at = unwrapped(at.object);
  return at.type === 'Identifier' ? at.name : undefined;
}

function isRunnerName(name: string | undefined, facts: ModuleFacts, libraries: Libraries): boolean {
  if (name === undefined) return false;
  if (!facts.imports.has(name) && facts.declarations.has(name)) return false;
  const meaning = libraries.meaningIn(facts.imports, name);
  return meaning?.kind === 'group' || meaning?.kind === 'spec';
}

/** Whether a module is one that specs are written with: a runner, an assertion or a render library. */
export const isTestLibrary = (specifier: string, libraries: Libraries): boolean =>
  libraries.of(specifier) !== undefined && !ALSO_SHIPPED.has(specifier);

// Modules that a table names and that ordinary code imports as well.
const ALSO_SHIPPED = new Set([
  '@angular/platform-browser',
  'react',
  'vue',
  'react-dom',
  'react-dom/client',
  'react-dom/server',
  'react-dom/test-utils',
  'flush-promises',
  'node:assert',
  'assert',
  'test',
]);
