import { readFileSync } from 'node:fs';

const { dependencies } = JSON.parse(readFileSync(new URL('./package.json', import.meta.url), 'utf8'));
const isPackage = (name) =>
  /^node:/.test(name) ||
  Object.keys(dependencies).some((each) => name === each || name.startsWith(`${each}/`));

/** The program and the library in few files, since each module costs a start as much as parsing a spec file. */
export default {
  input: { main: 'dist/cli/main.js', index: 'dist/index.js' },
  external: isPackage,
  output: { dir: 'bundle', format: 'es', sourcemap: true, chunkFileNames: '[name].js' },
};
