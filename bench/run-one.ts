// usage: node build/bench/run-one.js audit|parse|read FOLDER: does one thing once, cold, and prints its milliseconds and peak memory as JSON.
import { readFileSync } from 'node:fs';
import { performance } from 'node:perf_hooks';
import { globSync } from 'tinyglobby';

const [what, folder = '.'] = process.argv.slice(2);
const start = performance.now();
if (what === 'audit') {
  const { audit } = await import('#src/audit/audit.js');
  const { DiskFiles } = await import('#src/host/disk-files.js');
  const { settingsFrom } = await import('#src/config/settings.js');
  await audit(new DiskFiles(), { root: folder, paths: [folder], settings: settingsFrom(), version: 'bench' });
} else {
  const { parseSync } = await import('oxc-parser');
  const files = globSync('**/*.{ts,tsx,vue}', { cwd: folder, absolute: true });
  for (const file of files) {
    const text = readFileSync(file, 'utf8');
    if (file.endsWith('.vue')) {
      const { parse } = await import('@vue/compiler-sfc');
      const { descriptor } = parse(text, { sourceMap: false });
      parseSync('a.ts', descriptor.scriptSetup?.content ?? '').program;
    } else parseSync(file, text).program;
  }
}
const ms = performance.now() - start;
console.log(JSON.stringify({ ms, mib: process.resourceUsage().maxRSS / 1024 }));
