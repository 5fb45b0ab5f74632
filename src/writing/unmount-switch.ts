import { allVersionsWithin } from '../environment/versions.js';
import type { Mend } from '../finding.js';
import { lineStart } from './edits/style.js';
import type { FileContext } from '../checks/questions/context.js';
import { hookName } from './hook-edits.js';
import { exported } from './kit.js';

/** The library's own switch, where its version is known to have one. */
export function unmountedByItself(context: FileContext): Mend | undefined {
  const { file, style, project } = context;
  const [name] = [...file.imports.values()].flatMap((imported) => {
    const switches = project.libraries.of(imported.specifier)?.writes?.unmounts;
    const version = context.versionOf(imported.specifier);
    const known = switches?.find(({ versions }) => allVersionsWithin(version, versions));
    return known && !imported.typeOnly ? [known.name] : [];
  });
  const unmounting = name === undefined ? undefined : exported(name, context);
  const hook = hookName(context, 'after-each');
  const first = file.root.children[0];
  if (!unmounting || !hook || !first) return undefined;
  const { text } = context.source;
  const start = lineStart(text, first.place.start);
  if (text.slice(start, first.place.start).trim() !== '') return undefined;
  return {
    summary: 'Unmount after each spec',
    safe: true,
    edits: [
      ...unmounting.edits,
      ...hook.edits,
      {
        file: file.path,
        start,
        end: start,
        text: `${unmounting.name}(${hook.name})${style.semicolon}${style.newline}${style.newline}`,
      },
    ],
  };
}
