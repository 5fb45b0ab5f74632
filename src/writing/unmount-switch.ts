import { allVersionsWithin } from '../environment/versions.js';
import type { Mend } from '../finding.js';
import { lineStart } from './edits/style.js';
import type { FileContext } from '../checks/questions/context.js';
import { hookName } from './hook-edits.js';

/** The library's own switch, where its version is known to have one. */
export function unmountedByItself(context: FileContext): Mend | undefined {
  const { file, style, project } = context;
  const found = [...file.imports.values()].flatMap((imported) => {
    const switches = project.libraries.of(imported.specifier)?.writes?.unmounts;
    const version = context.versionOf(imported.specifier);
    const name = imported.typeOnly
      ? undefined
      : switches?.find(({ versions }) => allVersionsWithin(version, versions))?.name;
    return name ? [{ name, specifier: imported.specifier }] : [];
  });
  const [{ name, specifier } = { name: undefined, specifier: undefined }] = found;
  const imports = [...file.imports].filter(([, each]) => each.specifier === specifier && !each.typeOnly);
  const last = imports
    .map(([, each]) => each)
    .findLast((each) => each.name !== 'default' && each.name !== '*');
  const hook = hookName(context, 'after-each');
  const first = file.root.children[0];
  if (!name || !last || !hook || !first) return undefined;
  const { text } = context.source;
  const start = lineStart(text, first.place.start);
  if (text.slice(start, first.place.start).trim() !== '') return undefined;
  return {
    summary: 'Unmount after each spec',
    safe: true,
    edits: [
      { file: file.path, start: last.end, end: last.end, text: `, ${name}` },
      ...hook.edits,
      {
        file: file.path,
        start,
        end: start,
        text: `${name}(${hook.name})${style.semicolon}${style.newline}${style.newline}`,
      },
    ],
  };
}
