import { expect } from 'chai';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { auditFolder, placesOf } from '../support/audits.js';
import { readSamples, TEST_FOLDER, written } from '../support/samples.js';

const MANIFEST = {
  name: 's',
  scripts: { test: 'mocha' },
  devDependencies: { mocha: '^12', '@vue/test-utils': '^2' },
};
const samples = (name: string): ReturnType<typeof readSamples> =>
  readSamples(readFileSync(join(TEST_FOLDER, 'cannot-fail-suites', `${name}.txt`), 'utf8'));

// The same specs are run against a component that is broken, by `npm run verify:cannot-fail`.
describe('specs that cannot fail, and near misses', () => {
  const component = samples('component')[0]?.files ?? new Map<string, string>();
  for (const kind of ['hollow', 'sound']) {
    for (const { title, files, expected } of samples(kind)) {
      it(`${kind}: ${title}`, async () => {
        const all = new Map([...component, ...files]).set('package.json', JSON.stringify(MANIFEST));
        const found = placesOf(await auditFolder(written(all), ['O04', 'O19'])).map(
          (each) => expected.find((mark) => each.startsWith(mark)) ?? each,
        );
        expect(found.sort()).to.deep.equal([...expected].sort());
      });
    }
  }
});
