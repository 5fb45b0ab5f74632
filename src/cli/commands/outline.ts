import { outline } from '../../audit/outline.js';
import { DiskFiles } from '../../host/disk-files.js';
import { environmentText } from '../../formats/environment.js';
import { printable } from '../../util/printable.js';
import { EXIT } from '../exit.js';
import { commandScope } from '../scope.js';
import { coloursFor, widthFor } from '../terminal.js';
import { ownVersion } from '../../util/own-package.js';
import { auditScope } from './audit.js';

/** `wexlet outline`: how the suite runs, of a folder too; for a spec file, what its specs do and reach; for a component, what there is to reach. */
export async function runOutline(path: string | undefined, { color }: { color: boolean }): Promise<void> {
  const colours = coloursFor(color);
  const scope = commandScope(path === undefined ? [] : [path]);
  const { root, paths, settings } = scope;
  const files = new DiskFiles();
  const asked = paths[0] ?? root;
  if (path === undefined || files.kind(asked) === 'folder') {
    const inFolder = path === undefined ? scope : commandScope([], asked);
    const { environment } = await auditScope(inFolder, { only: ['environment'] });
    process.stdout.write(environmentText(environment, colours));
    return;
  }
  const request = { root, paths: [root], settings, version: ownVersion() };
  const found = await outline(files, request, asked);
  if ('reason' in found || (found.specs === 0 && found.components.length === 0)) {
    const why =
      'reason' in found
        ? `${found.reason}${found.line ? `, line ${found.line}` : ''}`
        : 'no spec and no component in it';
    process.stderr.write(`wexlet: ${printable(path)}: ${printable(why)}\n`);
    process.exitCode = EXIT.nothing;
    return;
  }
  const options = { width: widthFor(), colours };
  if (found.specs === 0) {
    const { componentOutlineText } = await import('../../formats/outline-component.js');
    process.stdout.write(componentOutlineText(found, options));
    return;
  }
  const { outlineText } = await import('../../formats/outline.js');
  process.stdout.write(outlineText(found, options));
}
