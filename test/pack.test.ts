import { expect } from 'chai';
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, readdirSync, renameSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { TEST_FOLDER } from './support/samples.js';
import { newFolder } from './support/folders.js';

const ROOT = join(TEST_FOLDER, '..');

describe('the package', () => {
  it('runs from its tarball in another folder, as a program and as a library', function () {
    this.timeout(60000);
    const folder = newFolder();
    execFileSync('npm', ['pack', '--ignore-scripts', '--silent', '--pack-destination', folder], {
      cwd: ROOT,
      stdio: 'ignore',
    });
    const [tarball = ''] = readdirSync(folder);
    execFileSync('tar', ['xzf', tarball], { cwd: folder });
    mkdirSync(join(folder, 'node_modules'));
    renameSync(join(folder, 'package'), join(folder, 'node_modules/wexlet'));
    // What an install would fetch is lent from here, so that no network is needed.
    symlinkSync(join(ROOT, 'node_modules'), join(folder, 'node_modules/wexlet/node_modules'));
    const files = readdirSync(join(folder, 'node_modules/wexlet'), {
      recursive: true,
      encoding: 'utf8',
    }).filter((path) => !path.startsWith('node_modules'));
    expect(files.filter((path) => /^(?:src|test|bench|docs|scripts|build)/.test(path))).to.deep.equal([]);
    const demo = spawnSync(process.execPath, [join(folder, 'node_modules/wexlet/bundle/main.js'), 'demo'], {
      cwd: folder,
      encoding: 'utf8',
    });
    expect(demo.status, demo.stderr).to.equal(0);
    expect(demo.stdout).to.include('3 packages');
    writeFileSync(
      join(folder, 'use.mjs'),
      "import { audit, CATALOGUE } from 'wexlet';\nconsole.log(typeof audit, CATALOGUE.length > 0);",
    );
    expect(execFileSync(process.execPath, ['use.mjs'], { cwd: folder, encoding: 'utf8' })).to.equal(
      'function true\n',
    );
  });
});
