import type { XMLParser } from 'fast-xml-parser';
import { lazily } from '../util/lazily.js';
import * as v from 'valibot';
import type { BranchRecord, FileCoverage } from './coverage.js';

const number = v.pipe(v.string(), v.transform(Number), v.number());
const Line = v.looseObject({
  '@number': number,
  '@hits': number,
  '@condition-coverage': v.optional(v.string()),
});
const Lines = v.optional(v.union([v.looseObject({ line: v.optional(v.array(Line), []) }), v.literal('')]));
const Class = v.looseObject({
  '@filename': v.string(),
  methods: v.optional(
    v.union([
      v.looseObject({
        method: v.optional(
          v.array(v.looseObject({ '@name': v.string(), '@hits': v.optional(number), lines: Lines })),
          [],
        ),
      }),
      v.literal(''),
    ]),
  ),
  lines: Lines,
});

// Entities stay as they are written: none is looked up or expanded.
// Most records are no XML: the others need not wait for its parser.
const load = lazily<typeof import('fast-xml-parser')>('fast-xml-parser');
const parser = (): XMLParser =>
  new (load().XMLParser)({
    ignoreAttributes: false,
    attributeNamePrefix: '@',
    processEntities: false,
    parseAttributeValue: false,
    isArray: (name) => ['source', 'package', 'class', 'method', 'line'].includes(name),
  });

/** Reads a Cobertura XML file; paths start from the first of its sources. Gives nothing where it is another kind of XML. */
export function readCobertura(text: string): FileCoverage[] {
  const root = asObject(asObject(tryParse(text))['coverage']);
  const [source] = asList(asObject(root['sources'])['source']).map(String);
  return asList(asObject(root['packages'])['package'])
    .flatMap((each) => asList(asObject(asObject(each)['classes'])['class']))
    .flatMap((each) => {
      const parsed = v.safeParse(Class, each);
      return parsed.success ? [fileOf(parsed.output, source)] : [];
    });
}

function tryParse(text: string): unknown {
  try {
    return parser().parse(text);
  } catch {
    return undefined;
  }
}

const asObject = (value: unknown): Record<string, unknown> =>
  typeof value === 'object' && value !== null ? (value as Record<string, unknown>) : {};
const asList = (value: unknown): unknown[] => (Array.isArray(value) ? value : []);
const linesIn = (lines: v.InferOutput<typeof Lines>): v.InferOutput<typeof Line>[] =>
  typeof lines === 'object' ? lines.line : [];

function fileOf(found: v.InferOutput<typeof Class>, source: string | undefined): FileCoverage {
  const lines = linesIn(found.lines);
  const name = found['@filename'];
  const isRelative = !/^(?:[A-Za-z]:|[\\/])/.test(name);
  const methods = typeof found.methods === 'object' ? found.methods.method : [];
  return {
    path: isRelative && source ? `${source.replace(/[\\/]$/, '')}/${name}` : name,
    lines: new Map(lines.map((line) => [line['@number'], line['@hits']])),
    branches: lines.flatMap((line) => branchOf(line['@number'], line['@condition-coverage'])),
    functions: methods.map((method) => {
      const [first] = linesIn(method.lines);
      return {
        name: method['@name'],
        line: first?.['@number'] ?? 0,
        hits: method['@hits'] ?? first?.['@hits'] ?? 0,
      };
    }),
  };
}

// `condition-coverage="50% (1/2)"`: how many ways out of a line were taken, but not which.
function branchOf(line: number, written: string | undefined): BranchRecord[] {
  const found = /\((\d+)\/(\d+)\)/.exec(written ?? '');
  return found ? [{ line, block: 0, hits: [], partly: [Number(found[1]), Number(found[2])] }] : [];
}
