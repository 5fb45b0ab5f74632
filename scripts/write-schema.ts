// Writes the JSON Schemas of wexlet.json and of the report from the schemas that check them, and the catalogue of checks.
import { toJsonSchema } from '@valibot/to-json-schema';
import { writeFileSync } from 'node:fs';
import { CATALOGUE } from '#src/checks/index.js';
import type { CheckText } from '#src/checks/questions/check.js';
import { ConfigSchema } from '#src/config/schema.js';
import { FAMILIES } from '#src/finding.js';
import { inProject } from './mocha-suites.js';
import { ReportSchema } from './report-schema.js';

const write = (path: string, schema: object): void =>
  writeFileSync(inProject(path), `${JSON.stringify(schema, null, 2)}\n`);

const settings = toJsonSchema(ConfigSchema);
const { checks, ...others } = settings.properties ?? {};
const codes = { enum: CATALOGUE.map(({ code }) => code) };
write('schema/wexlet.schema.json', {
  ...settings,
  title: 'Settings of Wexlet',
  properties: { ...others, checks: { ...(checks as object), propertyNames: codes } },
});
write('schema/report.schema.json', {
  ...toJsonSchema(ReportSchema, { ignoreActions: ['readonly'] }),
  title: 'Report of Wexlet, version 1',
});

const fence = '```';
const entry = ({ code, title, level, why, certain, trouble, mended }: CheckText): string =>
  `### ${code} · ${title}\n\n${level}. ${why}\n\n${certain}\n\n${fence}ts\n// the trouble\n${trouble}\n\n// mended\n${mended}\n${fence}\n`;
const family = (name: string): string =>
  `## ${name}\n\n${CATALOGUE.filter((each) => each.family === name)
    .map(entry)
    .join('\n')}`;
const page = `# The checks\n\nMade by \`npm run schema\` from the same data that \`wexlet explain\` shows. A finding is sure only if each fact that it stands on is known. In a spec file where the meaning of a name had to be guessed, all are likely.\n\n${FAMILIES.map(family).join('\n')}`;
writeFileSync(inProject('docs/checks.md'), page);
