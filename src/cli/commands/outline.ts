import { environmentText } from '../../report/environment.js';
import { scopeOf } from '../scope.js';
import { coloursFor } from '../terminal.js';
import { auditScope } from './audit.js';

/** `wexlet outline`: how the suite runs, as far as its settings tell. */
export async function runOutline({ color }: { color: boolean }): Promise<void> {
  const { environment } = await auditScope(scopeOf([]), { only: ['environment'] });
  process.stdout.write(environmentText(environment, coloursFor(color)));
}
