import * as compiler from '@angular/compiler';
import { expect } from 'chai';
import { parseSync, type Node } from 'oxc-parser';
import { TemplateExpressions } from '#src/components/frameworks/angular/angular-expression.js';
import { dataOfExpr } from '#src/components/expr.js';
import { outcome } from '#src/components/expr-filling.js';
import { exprOf, conditionOf } from '#src/components/read-expr.js';
import type { NameBinding, ComponentScope } from '#src/components/scope.js';
import { scriptSettings } from '#src/environment/settings/script-settings.js';
import { dataOfSetting as dataOfSetting } from '#src/environment/settings/setting-values.js';
import { completion } from '#src/language/completion.js';
import type { Value } from '#src/specs/model/values.js';
import { LineIndex } from '#src/util/line-index.js';
import { ANGULAR, JAVASCRIPT, judged, sampled, type Verdict } from '../support/expressions.js';
import { specFileOf } from '../support/views.js';

const COUNT = 20_000;
const SEED = 14;

const parsed = (text: string): Node => {
  const [statement] = parseSync('a.ts', `(${text})`).program.body;
  if (statement?.type !== 'ExpressionStatement') throw new Error(text);
  return statement.expression;
};

const nowhere = (bound?: NameBinding): ComponentScope => ({
  text: '',
  ref: () => undefined,
  lookup: () => bound,
});

/** A value of a spec as plain data. */
function plain(value: Value | undefined): { value: unknown } | undefined {
  if (value?.is === 'constant') return value;
  if ((value?.is !== 'list' && value?.is !== 'object') || value.open) return undefined;
  const keys = value.is === 'object' ? [...value.entries.keys()] : [];
  const parts = (value.is === 'list' ? value.items : [...value.entries.values()]).map(plain);
  if (parts.some((part) => part === undefined)) return undefined;
  const values = parts.map((part) => part?.value);
  return { value: value.is === 'list' ? values : Object.fromEntries(keys.map((key, i) => [key, values[i]])) };
}

function right({ wrong, unknown, count }: Verdict): void {
  expect(wrong).to.deep.equal([]);
  if (process.env.SHOW) console.log(unknown, count);
  expect(unknown / count).to.be.below(0.15);
}

describe('the reader of expressions is right or unknown', () => {
  const samples = sampled(JAVASCRIPT, COUNT, SEED);

  it('in components', () => {
    right(
      judged(
        samples,
        samples.map(({ text }) => dataOfExpr(exprOf(parsed(text), nowhere()))),
      ),
    );
  });

  it('as conditions of components', () => {
    const truths = samples.map((each) => ({ ...each, value: Boolean(each.value) }));
    const holds = samples.map(({ text }) => outcome(conditionOf(parsed(text), nowhere()), () => undefined));
    right(
      judged(
        truths,
        holds.map((value) => (value === undefined ? undefined : { value })),
      ),
    );
  });

  it('in settings', () => {
    const answers = samples.map(({ text }) => {
      const source = {
        path: '/a.ts',
        text: `export default (${text})`,
        encoding: 'utf-8' as const,
        bom: false,
      };
      const setting = scriptSettings({ ...source, lines: new LineIndex(source.text) }, () => undefined);
      return 'reason' in setting ? undefined : dataOfSetting(setting);
    });
    right(judged(samples, answers));
  });

  it('in specs', async () => {
    const asserts = samples.map(({ text }, i) => `it('is ${i}', () => { expect(${text}).toBe(1); });`);
    const { file } = await specFileOf({ 'a.spec.ts': asserts.join('\n') }, 'a.spec.ts');
    const answers = file.blocks
      .filter(({ kind }) => kind === 'spec')
      .map(
        ({ steps }) => steps.flatMap((step) => (step.kind === 'assert' ? [step.assertion.subject] : []))[0],
      );
    expect(answers).to.have.length(samples.length);
    right(judged(samples, answers.map(plain)));
  });

  it('in Angular templates', () => {
    const expressions = new TemplateExpressions(compiler);
    const parser = new compiler.Parser(new compiler.Lexer());
    const templates = sampled(ANGULAR, COUNT, SEED);
    const answers = templates.map(({ text }) => {
      const span = new compiler.ParseSourceSpan(...spanEnds(text));
      const ast = parser.parseBinding(text, span, 0);
      expect(ast.errors, text).to.deep.equal([]);
      return dataOfExpr(exprOf(expressions.node(ast), nowhere({ is: 'unknown' })));
    });
    right(judged(templates, answers));
  });
});

function spanEnds(text: string): [compiler.ParseLocation, compiler.ParseLocation] {
  const file = new compiler.ParseSourceFile(text, 'a.html');
  return [
    new compiler.ParseLocation(file, 0, 0, 0),
    new compiler.ParseLocation(file, text.length, 0, text.length),
  ];
}

describe('the completion of statements', () => {
  const endings = (body: string): string => {
    const [fn] = parseSync('a.ts', `function f() { for (;;) { ${body} } }`).program.body;
    const loop = fn?.type === 'FunctionDeclaration' ? fn.body?.body[0] : undefined;
    if (loop?.type !== 'ForStatement' || loop.body.type !== 'BlockStatement') throw new Error(body);
    return [...completion(loop.body)].sort().join(' ');
  };
  const cases: Record<string, string> = {
    'open();': 'falls',
    'return 1; open();': 'returns',
    'if (a) return 1; else throw b;': 'returns throws',
    'if (a) return 1;': 'falls returns',
    'if (a) { if (b) return 1; else return 2; } open();': 'falls returns',
    'switch (a) { case 1: return 1; default: throw b; }': 'returns throws',
    'switch (a) { case 1: return 1; }': 'falls returns',
    'switch (a) { case 1: break; default: return 2; }': 'falls returns',
    'switch (a) { case 1: open(); default: return 2; }': 'returns',
    'try { return a(); } catch { open(); }': 'falls returns',
    'try { throw a; } catch { return 1; }': 'returns',
    'try { open(); } finally { return 1; }': 'returns',
    'while (true) { if (a) return 1; }': 'returns',
    'while (true) { if (a) break; }': 'falls',
    'while (a) { return 1; }': 'falls returns',
    'do { return 1; } while (a);': 'returns',
    'if (a) break; else continue;': 'breaks continues',
    'out: { if (a) break out; return 1; }': 'falls returns',
  };
  for (const [body, ends] of Object.entries(cases))
    it(body, () => {
      expect(endings(body)).to.equal(ends);
    });
});
