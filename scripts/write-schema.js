// Writes the JSON Schema of wexlet.json from the schema that checks it, and the catalogue of checks.
import { toJsonSchema } from '@valibot/to-json-schema';
import { writeFileSync } from 'node:fs';
import { CATALOGUE } from '../dist/checks/index.js';
import { FAMILIES } from '../dist/checks/questions/check.js';
import { ConfigSchema } from '../dist/config/schema.js';

const schema = toJsonSchema(ConfigSchema);
schema.title = 'Settings of Wexlet';
schema.properties.checks.propertyNames = { enum: CATALOGUE.map(({ code }) => code) };
writeFileSync(
  new URL('../schema/wexlet.schema.json', import.meta.url),
  `${JSON.stringify(schema, null, 2)}\n`,
);

const fence = '```';
const entry = ({ code, title, level, why, trouble, mended }) =>
  `### ${code} · ${title}\n\n${level}. ${why}\n\n${fence}ts\n// the trouble\n${trouble}\n\n// mended\n${mended}\n${fence}\n`;
const family = (name) =>
  `## ${name}\n\n${CATALOGUE.filter((each) => each.family === name)
    .map(entry)
    .join('\n')}`;
const page = `# The checks\n\nMade by \`npm run schema\` from the same data that \`wexlet explain\` shows.\n\n${FAMILIES.map(family).join('\n')}`;
writeFileSync(new URL('../docs/checks.md', import.meta.url), page);
