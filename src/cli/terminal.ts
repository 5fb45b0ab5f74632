import pico from 'picocolors';
import { PLAIN, type Colours } from '../formats/colours.js';

/** The colours for stdout: none where they are not wanted, or where it is no terminal. */
export function coloursFor(wanted: boolean, toFile = false): Colours {
  const forced = Boolean(process.env['FORCE_COLOR']) && process.env['FORCE_COLOR'] !== '0';
  if (!wanted || toFile || process.env['NO_COLOR'] || (!process.stdout.isTTY && !forced)) return PLAIN;
  const c = pico.createColors(true);
  return {
    blocker: (text) => c.bold(c.magenta(text)),
    risk: (text) => c.yellow(text),
    hint: (text) => c.cyan(text),
    good: (text) => c.green(text),
    strong: (text) => c.bold(text),
    faint: (text) => c.dim(text),
    code: (text) => c.bold(text),
  };
}

/** The columns to fill: the terminal's, between 80 and 160; 100 where there is none. */
export const widthFor = (): number => Math.min(160, Math.max(80, process.stdout.columns ?? 100));

/** Shows progress on stderr, on a terminal only. */
export function progress(): { at(done: number, all: number): void; end(): void } {
  const { stderr } = process;
  if (!stderr.isTTY) return { at: () => undefined, end: () => undefined };
  let last = 0;
  return {
    at(done, all) {
      const now = performance.now();
      if (now - last < 80) return;
      last = now;
      stderr.write(`\r\u001b[Kreading spec file ${done + 1} of ${all}`);
    },
    end: () => void stderr.write('\r\u001b[K'),
  };
}
