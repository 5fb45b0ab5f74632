import { expect } from 'chai';
import { join } from 'node:path';
import { auditFolder, placesOf } from '../support/audits.js';
import { samplesIn, TEST_FOLDER, written } from '../support/samples.js';

const MANIFEST = {
  name: 's',
  scripts: { test: 'mocha' },
  devDependencies: { mocha: '^12', '@vue/test-utils': '^2' },
};

// The same suites are run under a runner, in other orders, by `npm run verify:state`.
describe('suites with a leak, and suites without one', () => {
  for (const { title, files, expected } of samplesIn(join(TEST_FOLDER, 'state-suites'))) {
    it(title, async () => {
      files.set('package.json', JSON.stringify(MANIFEST));
      files.set('.mocharc.json', JSON.stringify({ spec: ['*.spec.js'] }));
      const report = await auditFolder(written(files), ['state', 'cleanup']);
      const found = placesOf(report).map((each) => expected.find((mark) => each.startsWith(mark)) ?? each);
      expect(found.sort()).to.deep.equal([...expected].sort());
    });
  }
});
