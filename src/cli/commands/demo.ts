import { cpSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ownFolder } from '../../util/own-package.js';
import { textReport } from '../../formats/text.js';
import { commandScope } from '../scope.js';
import { coloursFor, widthFor } from '../terminal.js';
import { auditScope } from './audit.js';

/** `wexlet demo`: copies the demo suite to a temporary folder and audits it there. The verdict is not the exit code. */
export async function runDemo({ all, color }: { all: boolean; color: boolean }): Promise<void> {
  const source = join(ownFolder(), 'demo/kilnroom');
  const folder = join(mkdtempSync(join(tmpdir(), 'wexlet-demo-')), 'kilnroom');
  cpSync(source, folder, { recursive: true });
  const report = await auditScope(commandScope([folder], folder), {});
  process.stdout.write(textReport(report, { width: widthFor(), colours: coloursFor(color), all }));
  process.stderr.write(`The suite is in ${folder}: change it there and run wexlet audit in it.\n`);
}
