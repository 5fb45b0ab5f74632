// usage: npm run sample -- C06 [--update]   runs the samples of one check; --update writes what they say anew
import Mocha from 'mocha';
import { inProject } from './mocha-suites.js';

const [code = '', ...options] = process.argv.slice(2);
if (!/^[A-Z]\d\d$/.test(code)) throw new Error('usage: npm run sample -- C06 [--update]');
if (options.includes('--update')) process.env['WEXLET_UPDATE'] = '1';
const mocha = new Mocha({ timeout: 60_000, reporter: 'spec', grep: new RegExp(`^checks ${code} `) });
mocha.addFile(inProject('build/test/checks.test.js'));
await mocha.loadFilesAsync();
mocha.run((failures) => (process.exitCode = failures > 0 ? 1 : 0));
