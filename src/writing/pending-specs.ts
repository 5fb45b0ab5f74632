import { type Example, type InputValue, holdsFor } from '../branches/solve.js';
import type { ProjectContext } from '../checks/questions/context.js';
import { exampleText, inputsInWords } from './inputs.js';
import { queryFor } from './shown.js';
import type { ArmGap } from '../coverage/gaps.js';
import type { Component } from '../components/view.js';
import { quoted } from './edits/style.js';
import { grouped } from '../util/grouped.js';
import { basename, dirname, join, relativePath, relativeTo } from '../util/paths.js';
import { inShort } from '../util/printable.js';
import { code, jsxProps, objectText, plainGiven, requiredProps, withoutUndefined } from './spec-code.js';
import type { SpecForm } from './spec-form.js';

/** A spec file with pending specs added to it, or made for a component that has none. */
export interface PendingFile {
  /** Absolute path. */
  file: string;
  isNew: boolean;
  /** What is added, and where: a UTF-16 offset. */
  added: string;
  at: number;
  /** An import that the added code needs, for the top of the file; empty where there is none to add. */
  imports: string;
  specs: readonly PendingSpec[];
}

/** One pending spec: the arm that it takes, if it is for one, its code without indentation, and a whole spec file with nothing else. */
export interface PendingSpec {
  gap?: ArmGap;
  code: string;
  alone: string;
}

const LONGEST_TITLE = 90;

/** Pending specs for all gaps, and for components that no spec renders, each in the style of the file that it belongs to. */
export function pendingSpecs(
  context: ProjectContext,
  forms: readonly SpecForm[],
  unrendered: readonly Component[],
  testIdAttribute: string,
): PendingFile[] {
  const gaps = grouped(context.branches().gaps, (gap) => gap.component);
  const found = new Map<string, PendingFile>();
  for (const component of new Set([...gaps.keys(), ...unrendered])) {
    const form = formFor(component, forms, context);
    if (!form?.render) continue;
    const writer = new Writer(form, component, context, testIdAttribute);
    const own = (gaps.get(component) ?? []).flatMap((gap) => writer.spec(gap) ?? []);
    const all = unrendered.includes(component) ? [writer.first(), ...own] : own;
    // What was added before is still waiting to be filled in.
    const there = context.sourceOf(form.file)?.text ?? '';
    const specs = all.filter(({ code }) => !there.includes(code.slice(0, code.indexOf('\n'))));
    if (specs.length === 0) continue;
    const target = form.rendered.has(component) ? writer.appended(specs) : writer.made(specs);
    const known = found.get(target.file);
    found.set(target.file, known && !known.isNew ? joined(known, target) : target);
  }
  return [...found.values()].sort((a, b) => (a.file < b.file ? -1 : 1));
}

const joined = (a: PendingFile, b: PendingFile): PendingFile => ({
  ...a,
  added: a.added + b.added,
  imports: a.imports + b.imports,
  specs: [...a.specs, ...b.specs],
});

// The file that is named like the component, then the one that renders it most; for one that nobody renders, a neighbour.
function formFor(
  component: Component,
  forms: readonly SpecForm[],
  context: ProjectContext,
): SpecForm | undefined {
  const stem = stemOf(component.file);
  const rank = (form: SpecForm): number =>
    (form.rendered.get(component) ?? 0) + (stemOf(form.file) === stem ? 1000 : 0);
  const own = forms.filter(({ rendered }) => rendered.has(component)).sort((a, b) => rank(b) - rank(a))[0];
  if (own) return own;
  const folder = context.environmentOf(component.file).folder;
  return forms.find((form) => {
    const [first] = form.rendered.keys();
    return (
      form.render &&
      first?.framework === component.framework &&
      context.environmentOf(form.file).folder === folder
    );
  });
}

const stemOf = (path: string): string => basename(path).replace(/\..*$/, '').toLowerCase();

class Writer {
  readonly #form: SpecForm;
  readonly #component: Component;
  readonly #context: ProjectContext;
  readonly #testIdAttribute: string;

  constructor(form: SpecForm, component: Component, context: ProjectContext, testIdAttribute: string) {
    this.#form = form;
    this.#component = component;
    this.#context = context;
    this.#testIdAttribute = testIdAttribute;
  }

  /** One pending spec as lines without indentation; undefined where no inputs are known. */
  spec(gap: ArmGap): PendingSpec | undefined {
    const [example] = gap.answer.is === 'inputs' ? gap.answer.examples : [];
    if (!example) return undefined;
    const { style, writes } = this.#form;
    const props = this.#props(gap, example);
    const comments = [`Takes “${gap.arm.arm}”: when ${inputsInWords(gap.conditions)}.`];
    if (Object.keys(example.state).length > 0)
      comments.push(`To be brought about first: ${exampleText({ props: {}, state: example.state })}.`);
    const query = writes
      ? queryFor(gap, { props }, this.#context.project, {
          writes,
          quote: style.quote,
          testIdAttribute: this.#testIdAttribute,
        })
      : undefined;
    const title = inShort(`… with ${exampleText(example) || 'nothing given'}`, LONGEST_TITLE);
    return { gap, ...this.#written(title, comments, props, query) };
  }

  /** A spec for a component that none renders, given what its types ask for. */
  first(): PendingSpec {
    return this.#written(
      'shows …',
      [`No spec renders ${this.#component.name} yet.`],
      requiredProps(this.#component),
    );
  }

  #written(
    title: string,
    comments: readonly string[],
    props: Record<string, InputValue>,
    query?: string,
  ): PendingSpec {
    const { style, skipped } = this.#form;
    const lines = [
      ...comments.map((text) => `// ${text}`),
      ...this.#render(props),
      query ? `// expect(${query})…` : '// expect(…)',
    ];
    const isAsync = this.#isAsync ? 'async ' : '';
    const code = [
      `${skipped}(${quoted(title, style.quote)}, ${isAsync}() => {`,
      ...lines.map((line) => style.indent + line),
      `})${style.semicolon}`,
    ].join('\n');
    return { code, alone: this.#whole([code], dirname(this.#component.file)) };
  }

  // What another spec gives the component, so that it renders; then what takes the arm.
  #props({ conditions }: ArmGap, { props, state }: Example): Record<string, InputValue> {
    const uses = this.#context.usesOf(this.#component).filter(({ open }) => !open);
    const bases = uses
      .map((use) => plainGiven(use.given))
      .sort((a, b) => Object.keys(a).length - Object.keys(b).length);
    for (const base of bases) {
      const merged = withoutUndefined({ ...base, ...props });
      if (conditions.every(({ test }) => holdsFor(test, { props: merged, state }) !== false)) return merged;
    }
    return withoutUndefined({ ...props });
  }

  get #isAsync(): boolean {
    return this.#form.render?.gives === 'queries' && this.#component.framework === 'angular';
  }

  #render(props: Record<string, InputValue>): string[] {
    const { render, style } = this.#form;
    const { framework } = this.#component;
    const name = this.#name;
    const end = style.semicolon;
    const call = render?.call ?? 'render';
    if (framework === 'react') return [`${call}(<${[name, ...jsxProps(props)].join(' ')} />)${end}`];
    const object = objectText(props, style.quote);
    if (framework === 'vue') {
      const key = render?.propsKey ?? 'props';
      return [`${call}(${name}${object === '{}' ? '' : `, { ${key}: ${object} }`})${end}`];
    }
    if (this.#isAsync)
      return [`await ${call}(${name}${object === '{}' ? '' : `, { inputs: ${object} }`})${end}`];
    return [
      `const fixture = TestBed.createComponent(${name})${end}`,
      ...Object.entries(props).map(
        ([key, value]) =>
          `fixture.componentRef.setInput(${quoted(key, style.quote)}, ${code(value, style.quote)})${end}`,
      ),
      `fixture.detectChanges()${end}`,
    ];
  }

  get #name(): string {
    return this.#form.names.get(this.#component) ?? this.#component.name;
  }

  /** The specs at the end of the form's own file. */
  appended(specs: readonly PendingSpec[]): PendingFile {
    const { file, style, end, names } = this.#form;
    const indent = style.indent.repeat(end.depth);
    const text = specs
      .map(({ code }) => `${style.newline}${style.newline}${this.#indented(code, indent)}`)
      .join('');
    const added = end.depth === 0 ? `${text.replace(/^(?:\r?\n){2}/, style.newline)}${style.newline}` : text;
    const imports = names.has(this.#component) ? '' : `${this.#import(dirname(file))}${style.newline}`;
    return { file, isNew: false, added, at: end.offset, imports, specs };
  }

  /** A spec file of their own, named and placed like the form's. */
  made(specs: readonly PendingSpec[]): PendingFile {
    const file = this.#placed(this.#form.file);
    const added = this.#whole(
      specs.map(({ code }) => code),
      dirname(file),
    );
    return { file, isNew: true, added, at: 0, imports: '', specs };
  }

  // A whole spec file in a folder.
  #whole(specs: readonly string[], folder: string): string {
    const { style, imports, groups } = this.#form;
    const { newline, quote, semicolon, indent } = style;
    const body = specs.map((spec) => this.#indented(spec, groups ? indent : '')).join(`${newline}${newline}`);
    const open = `describe(${quoted(this.#component.name, quote)}, () => {`;
    const whole = groups ? [open, body, `})${semicolon}`].join(newline) : body;
    const used = imports.flatMap((imported) => importText(imported, whole, semicolon));
    return [...used, this.#import(folder), '', whole, ''].join(newline);
  }

  #indented(spec: string, indent: string): string {
    return spec
      .split('\n')
      .map((line) => indent + line)
      .join(this.#form.style.newline);
  }

  // `kiln-card.spec.tsx` beside the component, or in the folder of specs beside it.
  #placed(like: string): string {
    const [rendered] = this.#form.rendered.keys();
    const between = rendered ? relativeTo(dirname(rendered.file), dirname(like)) : '';
    const folder = /^[\w-]+$/.test(between)
      ? join(dirname(this.#component.file), between)
      : dirname(this.#component.file);
    const ending = basename(like).replace(/^[^.]*/, '');
    return join(folder, basename(this.#component.file).replace(/\.(?:vue|[mc]?[jt]sx?)$/, '') + ending);
  }

  #import(folder: string): string {
    const { style } = this.#form;
    const { file, name, framework } = this.#component;
    const path = relativePath(folder, framework === 'vue' ? file : file.replace(/\.[mc]?[jt]sx?$/, ''));
    const exports = this.#context.project.summary(file)?.exports;
    const isNamed = [...(exports ?? [])].some(([as, each]) => as === name && 'local' in each);
    const what = isNamed ? `{ ${name} }` : name;
    return `import ${what} from ${quoted(path, style.quote)}${style.semicolon}`;
  }
}

// Of plain names, those that the code uses.
function importText(
  { names, text, from, plain }: SpecForm['imports'][number],
  code: string,
  semicolon: string,
): string[] {
  const used = names.filter((name) => new RegExp(`\\b${name}\\b`).test(code));
  if (!plain || names.length === 0) return [text];
  return used.length ? [`import { ${used.join(', ')} } from ${from}${semicolon}`] : [];
}
