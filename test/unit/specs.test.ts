import { expect } from 'chai';
import { groupTitles, specsOf, type Block } from '#src/specs/model/blocks.js';
import type { Step, Use } from '#src/specs/model/steps.js';
import { specFileOf } from '../support/views.js';

const read = (text: string, more: Record<string, string> = {}, path = 'a.spec.tsx') =>
  specFileOf({ [path]: text, ...more }, path);

/** A block as a line: kind, title, mark. */
const inLine = (block: Block): string =>
  [block.hook ?? block.kind, block.title.text, block.mark ?? '', block.repeated ? 'repeated' : '']
    .filter(Boolean)
    .join(' ');

/** A step as a line, uses of names left out. */
function line(step: Step): string | undefined {
  const flags = [
    step.maybe ? 'maybe' : '',
    step.dead ? 'dead' : '',
    step.inCatch ? 'catch' : '',
    step.swallowed ? 'swallowed' : '',
    step.inCallback ? 'callback' : '',
    step.via ? 'via' : '',
  ].filter(Boolean);
  const what = kindOf(step);
  return what && [what, ...flags].join(' ');
}

function kindOf(step: Step): string | undefined {
  switch (step.kind) {
    case 'render':
      return `render ${step.render.name}${step.render.view ? '' : ' unseen'}`;
    case 'reach':
      return `reach ${step.reach.by}`;
    case 'act':
      return `act ${step.name}${step.reach ? ` on ${step.reach.by}` : ''}`;
    case 'assert':
      return `assert ${step.assertion.not ? 'not ' : ''}${step.assertion.matcher ?? 'nothing'}${step.assertion.uncalled ? ' uncalled' : ''}`;
    case 'stand-in':
      return `stand-in ${step.standIn.target}`;
    case 'restore':
      return `restore ${step.scope}`;
    case 'clock':
      return `clock ${step.on ? 'on' : 'off'}`;
    case 'unknown-call':
      return `unknown ${step.name}`;
    case 'lasting':
      return (
        `${step.lasting.does} ${step.lasting.what} ${step.lasting.key}`.trim() +
        (step.inFinally ? ' finally' : '')
      );
    case 'unwaited':
      return `unwaited ${step.unwaited.by}${step.unwaited.asserts ? ' asserts' : ''}`;
    case 'answer':
      return `answer${step.once ? ' once' : ''}`;
    case 'use':
      return undefined;
    default:
      return step.kind;
  }
}

const stepsOf = async (body: string, head = '', more: Record<string, string> = {}): Promise<string[]> => {
  const { file } = await read(`${head}\nit('a', async () => { ${body} });`, more);
  return specsOf(file)
    .flatMap(({ steps }) => steps.map(line))
    .filter((each) => each !== undefined);
};

describe('blocks', () => {
  const rows: [title: string, code: string, wanted: string[]][] = [
    [
      'groups, hooks and specs',
      "describe('A', () => { beforeEach(() => {}); it('b', () => {}); test('c', () => {}); afterAll(() => {}); });",
      ['group A', 'before-each', 'spec b', 'spec c', 'after-all'],
    ],
    [
      'suite style',
      "suite('A', () => { setup(() => {}); test('b', () => {}); suiteTeardown(() => {}); });",
      ['group A', 'before-each', 'spec b', 'after-all'],
    ],
    [
      'context and specify',
      "context('A', () => { before(() => {}); specify('b', () => {}); });",
      ['group A', 'before-all', 'spec b'],
    ],
    [
      'marks',
      "describe.only('A', () => { it.skip('b', () => {}); xit('c', () => {}); fit('d', () => {}); it.todo('e'); it.fails('f', () => {}); });",
      ['group A only', 'spec b skip', 'spec c skip', 'spec d only', 'spec e todo', 'spec f fails'],
    ],
    [
      'marks on marks',
      "describe.concurrent.only('A', () => { it.concurrent('b', () => {}); });",
      ['group A only', 'spec b'],
    ],
    [
      'options',
      "it('a', { skip: true }, () => {}); it('b', { timeout: 5 }, () => {}); it('c', () => {}, 500);",
      ['spec a skip', 'spec b', 'spec c'],
    ],
    ['no body', "it('a');", ['spec a todo']],
    [
      'conditions',
      "it.skipIf(x)('a', () => {}); const on = cond ? it : it.skip; on('b', () => {});",
      ['spec a conditional', 'spec b conditional'],
    ],
    [
      'tables',
      "it.each([1, 2])('a %s', (n) => {}); describe.each`x\n${1}`('B $x', () => { it('c', () => {}); }); it.for([1])('d', () => {});",
      ['spec a %s repeated', 'group B $x repeated', 'spec c', 'spec d repeated'],
    ],
    [
      'loops',
      "for (const n of [1, 2]) it(`a ${n}`, () => {}); ['x'].forEach((n) => it(`b ${n}`, () => {}));",
      ['spec a … repeated', 'spec b x repeated'],
    ],
    [
      'aliases',
      "const spec = it; const group = describe; group('A', () => { spec.only('b', () => {}); });",
      ['group A', 'spec b only'],
    ],
    [
      'a helper of the file',
      "const both = (title, fn) => it(`${title} twice`, fn); both('a', () => {});",
      ['spec a twice'],
    ],
    ['conditions around', "if (x) { it('a', () => {}); } else { it('b', () => {}); }", ['spec a', 'spec b']],
    [
      'titles of other kinds',
      "describe(Kiln, () => { it(`a ${b}`, () => {}); it('c' + 'd', () => {}); });",
      ['group Kiln', 'spec a …', 'spec cd'],
    ],
    ['a name that is declared here is no runner', "const it = (a, b) => b(); it('a', () => {});", []],
  ];
  for (const [title, code, wanted] of rows)
    it(title, async () => expect((await read(code)).file.blocks.map(inLine)).to.deep.equal(wanted));

  const modules: [string, string, string][] = [
    ['vitest', 'describe, it', "describe('A', () => { it('b', () => {}); });"],
    ['@jest/globals', 'describe, it', "describe('A', () => { it('b', () => {}); });"],
    ['mocha', 'describe, it', "describe('A', () => { it('b', () => {}); });"],
    ['node:test', 'describe, it', "describe('A', () => { it('b', () => {}); });"],
    ['bun:test', 'describe as group, test as spec', "group('A', () => { spec('b', () => {}); });"],
  ];
  for (const [module, names, code] of modules)
    it(`imported from ${module}`, async () =>
      expect(
        (await read(`import { ${names} } from '${module}';\n${code}`)).file.blocks.map(inLine),
      ).to.deep.equal(['group A', 'spec b']));

  it('made by a helper of another module', async () => {
    const { file } = await read("import { specs } from './specs';\ndescribe('A', () => { specs('x'); });", {
      'specs.ts':
        'export function specs(name) { it(`is ${name}`, () => { expect(name).toBe(document.title); }); }',
    });
    expect(file.blocks.map(inLine)).to.deep.equal(['group A', 'spec is x']);
    expect(specsOf(file)[0]?.steps.map(line)).to.deep.equal(['assert toBe via']);
  });

  it('know their groups, and whether they wait for a callback', async () => {
    const { file } = await read(
      "describe('A', () => { describe('B', () => { it('c', (done) => { done(); }); it('d', ({ expect }) => { expect(1).toBe(document.title); }); }); });",
    );
    const [c, d] = specsOf(file);
    expect(c && groupTitles(c)).to.deep.equal(['A', 'B']);
    expect([c?.waitsForCallback, d?.waitsForCallback]).to.deep.equal([true, false]);
    expect([c?.steps.map(line), d?.steps.map(line)]).to.deep.equal([['assert done'], ['assert toBe']]);
  });
});

describe('steps', () => {
  const RTL =
    "import { render, screen, within, waitFor, act, fireEvent } from '@testing-library/react';\nimport userEvent from '@testing-library/user-event';";
  const VTU = "import { mount, shallowMount } from '@vue/test-utils';\nimport Card from './Card.vue';";
  const NG =
    "import { TestBed } from '@angular/core/testing';\nimport { By } from '@angular/platform-browser';";
  const rows: [title: string, head: string, body: string, wanted: string[]][] = [
    [
      'user-centred',
      RTL,
      "render(<p>a</p>); await userEvent.click(screen.getByText('a')); expect(screen.getByRole('x')).toBeVisible();",
      ['render render', 'reach text', 'act click on text', 'reach role', 'assert toBeVisible'],
    ],
    [
      'a user that is set up',
      RTL,
      "const user = userEvent.setup(); await user.type(screen.getByLabelText('a'), 'b');",
      ['reach label', 'act type on label'],
    ],
    [
      'raw events',
      RTL,
      "fireEvent.click(screen.getByText('a')); fireEvent(screen.getByText('a'), e);",
      ['reach text', 'act click on text', 'reach text', 'act fireEvent on text'],
    ],
    [
      'destructured queries',
      RTL,
      "const { getByText, container, unmount } = render(<p/>); getByText('a'); container.querySelector('.a').click(); unmount();",
      ['render render', 'reach text', 'reach selector', 'act click on selector', 'unmount'],
    ],
    [
      'waiting and acting',
      RTL,
      "await waitFor(() => expect(screen.getByText('a')).toBe(1)); await act(async () => { render(<p/>); });",
      ['reach text', 'assert toBe', 'render render'],
    ],
    ['within', RTL, "within(screen.getByRole('x')).getByText('y');", ['reach role', 'reach text']],
    [
      'wrapper style',
      VTU,
      "const w = mount(Card); await w.find('.a').trigger('click'); expect(w.text()).toBe('b'); w.findAll('li').at(1).text(); w.unmount();",
      [
        'render mount',
        'reach selector',
        'act trigger on selector',
        'assert toBe',
        'reach selector',
        'unmount',
      ],
    ],
    [
      'props and data from outside',
      VTU,
      'const w = mount(Card); await w.setProps({ a: 1 }); await w.setData({ b: 1 });',
      ['render mount', 'act setProps', 'act setData'],
    ],
    [
      'test bed',
      NG,
      "const f = TestBed.createComponent(Card); f.detectChanges(); f.debugElement.query(By.css('.a')).triggerEventHandler('click'); f.nativeElement.querySelector('b').click();",
      [
        'render createComponent unseen',
        'act detectChanges',
        'reach selector',
        'act triggerEventHandler on selector',
        'reach selector',
        'act click on selector',
      ],
    ],
    [
      'chained assertions',
      '',
      "expect(a).to.be.true; expect(a).to.not.equal(1); a.should.exist; expect(a).to.be.a('string').and.not.be.empty;",
      ['assert true', 'assert not equal', 'assert exist', 'assert a', 'assert not empty'],
    ],
    [
      'assertions by call',
      "import assert from 'node:assert';",
      'assert(a); assert.strictEqual(a, 1); fail();',
      ['assert assert', 'assert strictEqual', 'assert fail'],
    ],
    [
      'promises',
      '',
      'await expect(a).resolves.toBe(1); return expect(b).rejects.toThrow();',
      ['assert toBe', 'assert toThrow'],
    ],
    [
      'no matcher',
      '',
      'expect(a); expect(a).toBe; expect(a).not;',
      ['assert nothing uncalled', 'assert toBe uncalled', 'assert not nothing uncalled'],
    ],
    [
      'conditions, loops and callbacks',
      '',
      'if (a) expect(a).toBe(1); for (const x of xs) expect(x).toBe(1); on("x", () => { expect(a).toBe(1); });',
      ['assert toBe maybe', 'assert toBe', 'assert toBe maybe callback', 'unknown on'],
    ],
    [
      'a list that may be empty',
      RTL,
      "screen.queryAllByRole('x').forEach((each) => expect(each).toBe(1));",
      ['reach role', 'assert toBe maybe'],
    ],
    ['after a return', '', 'return; expect(a).toBe(1);', ['assert toBe dead']],
    [
      'try and catch',
      '',
      'try { expect(a).toBe(1); } catch (e) { expect(e).toBe(2); }',
      ['assert toBe', 'assert toBe maybe catch'],
    ],
    ['swallowed', '', 'try { expect(a).toBe(1); } catch {}', ['assert toBe swallowed']],
    [
      'stand-ins',
      '',
      "vi.fn(); vi.spyOn(window, 'fetch').mockReturnValue(1); sinon.stub(window, 'open'); vi.stubGlobal('x', 1); vi.restoreAllMocks();",
      ['stand-in none', 'stand-in member', 'answer', 'stand-in member', 'stand-in global', 'restore all'],
    ],
    [
      'clocks',
      '',
      'jest.useFakeTimers(); jest.useRealTimers(); const c = sinon.useFakeTimers(); c.restore(); jasmine.clock().install(); jasmine.clock().uninstall();',
      ['clock on', 'clock off', 'clock on', 'clock off', 'clock on', 'clock off'],
    ],
    [
      'what outlives the spec',
      '',
      "window.innerWidth = 3; delete process.env.UNIT; localStorage.setItem('a', 1); location.hash = 'x'; document.title = 'y'; document.body.append(p); document.addEventListener('z', f); clearInterval(4); try { a(); } finally { document.body.innerHTML = ''; }",
      [
        'set global innerWidth',
        'set environment process.env.UNIT',
        'open storage localStorage',
        'set address location',
        'set title title',
        'open page body',
        'act append',
        'open listener document:z',
        'close interval setInterval',
        'unknown a',
        'close page body finally',
      ],
    ],
    [
      'what opens and closes',
      "import { bell } from 'bell';",
      "const o = new ResizeObserver(f); o.observe(p); o.disconnect(); const s = new WebSocket('w'); s.close(); const u = bell.subscribe(f); u.unsubscribe();",
      [
        'open observer ResizeObserver',
        'close observer ResizeObserver',
        'open connection WebSocket',
        'close connection WebSocket',
        'open subscription bell.subscribe',
        'close subscription bell.subscribe',
      ],
    ],
    [
      'names of the page that the spec declares itself',
      '',
      'const window = {}; window.innerWidth = 3; const localStorage = new Map(); localStorage.setItem(1, 2);',
      [],
    ],
    [
      'work that nobody waits for',
      `${RTL} const later = async () => { await 1; }; const soon = async () => {};`,
      "screen.findByText('a'); later(); soon(); void later(); later().then(() => { expect(1).toBe(2); }); expect(later()).resolves.toBe(1); await later();",
      ['reach text', 'unwaited query', 'waited via', 'unwaited helper', 'waited via'].concat(
        ['waited via', 'waited', 'assert toBe', 'unwaited chain asserts', 'waited via', 'assert toBe'],
        ['unwaited assertion asserts', 'waited via'],
      ),
    ],
    [
      'answers',
      '',
      'const f = vi.fn(); f.mockReturnValue(1); f.mockReturnValueOnce(2); f.mock.mockImplementation(g);',
      ['stand-in none', 'answer', 'answer once', 'answer'],
    ],
    ['helpers of the file', 'const check = (a) => { expect(a).toBe(1); };', 'check(2);', ['assert toBe via']],
    ['helpers that call themselves', 'const loop = () => loop();', 'loop();', []],
    [
      'helpers that the settings name',
      '',
      'showBoard(); await fireKiln(); mustBeHot(a);',
      ['render showBoard unseen', 'act fireKiln', 'assert mustBeHot'],
    ],
    [
      'calls that can’t be read',
      "import { x } from 'some-package';",
      'x(); const y = other();',
      ['unknown x', 'unknown other'],
    ],
    ['shadowed names', RTL, "const screen = { getByText: () => 1 }; screen.getByText('a');", []],
  ];
  for (const [title, head, body, wanted] of rows)
    it(title, async () =>
      expect(await stepsOf(body, head, { 'Card.vue': '<template><p/></template>' })).to.deep.equal(wanted),
    );

  it('through helpers of other modules, with their place', async () => {
    const { file, text } = await read("import { open } from './open';\nit('a', () => { open('lid'); });", {
      'open.ts':
        "import { screen } from '@testing-library/react';\nexport function open(name) { screen.getByText(name).click(); }",
    });
    const [reach] = file.reaches;
    expect(reach?.via?.file.endsWith('/open.ts')).to.equal(true);
    expect(text.slice(reach?.place.start, reach?.place.end)).to.equal("open('lid')");
    expect(reach?.args[0]).to.deep.equal({ is: 'constant', value: 'lid' });
  });

  it('with what hooks have made', async () => {
    const { file } = await read(
      "import { mount } from '@vue/test-utils';\nimport Card from './Card.vue';\nlet w;\nbeforeEach(() => { w = mount(Card); });\nit('a', () => { w.find('p'); });",
      { 'Card.vue': '<template><p/></template>' },
    );
    expect(file.reaches[0]?.from).to.equal(file.renders[0]);
  });

  it('without what another spec has made', async () => {
    const { file } = await read(
      "let kiln = 'a';\nit('a', () => { kiln = 'b'; });\nit('b', () => { expect(kiln).toBe('a'); });",
    );
    const assertion = file.blocks[1]?.steps.find((step) => step.kind === 'assert');
    expect(assertion?.kind === 'assert' && assertion.assertion.subject).to.deep.equal({
      is: 'constant',
      value: 'a',
    });
  });
});

describe('uses of names from outside', () => {
  const rows: [title: string, body: string, wanted: string[]][] = [
    ['a property', 'kiln.temp = 3;', ['write temp: temp']],
    ['a method', 'kiln.fire();', ['call fire: temp']],
    ['an alias', 'const own = kiln; own.fire();', ['call fire: temp']],
    ['a pattern', 'const { lid } = kiln; lid.open = true;', ['read lid', 'write lid.open: lid']],
    ['a parameter', 'heat(kiln);', ['call fire: temp']],
    ['what a helper gives', 'get().fire();', ['read', 'call fire: temp']],
    ['a setter', 'kiln.cone = 6;', ['write cone: cone,temp']],
    ['a method of a part', 'kiln.lid.lift();', ['call lid.lift: lid']],
    ['counting on', 'kiln.temp += 1;', ['write temp: temp compound']],
    ['a copy', 'const own = { ...list[0] }; own.name = 1;', []],
    ['a shared part of a copy', 'const own = [...list]; own[0].name = 1;', []],
  ];
  const head =
    'class Lid { open = false; lift() { this.open = true; } }\nclass Kiln { temp = 20; lid = new Lid(); fire() { this.temp = 900; } set cone(to) { this.temp = to; } }\nconst kiln = new Kiln(); const list = [{ name: 1 }];\nconst heat = (oven) => oven.fire(); const get = () => kiln;\n';
  for (const [title, body, wanted] of rows)
    it(title, async () => {
      const { file } = await read(`${head}it('a', () => { ${body} });`);
      const [binding] = file.bindings;
      const uses = binding ? (specsOf(file)[0]?.uses.get(binding) ?? []) : [];
      expect(uses.map(({ use }) => usedBy(use))).to.deep.equal(wanted);
    });

  const usedBy = ({ how, path, effect, compound }: Use): string => {
    const writes =
      effect?.writes === 'all' ? ['all'] : [...(effect?.writes ?? (how === 'write' ? path.slice(0, 1) : []))];
    return (
      `${how} ${path.join('.')}`.trim() +
      (writes.length ? `: ${writes.join()}` : '') +
      (compound ? ' compound' : '')
    );
  };
});

describe('bindings', () => {
  it('say what they hold first', async () => {
    const { file } = await read(
      "import { Kiln } from './kiln';\nconst a = 1; const b = { c: 1 }; const d = [1]; const e = new Map(); const f = new Kiln(); const g = make(); const h = () => 1; let i; const j = vi.fn(); const k = { l: () => 1 }; const m = Object.freeze({}); const [n] = [2];",
      { 'kiln.ts': 'export class Kiln {}' },
    );
    const holds = Object.fromEntries(file.bindings.map((each) => [each.name, each.holds]));
    expect(holds).to.deep.equal({
      Kiln: 'module',
      a: 'constant',
      b: 'literal',
      d: 'literal',
      e: 'instance',
      f: 'instance',
      g: 'made',
      h: 'function',
      i: 'none',
      j: 'stand-in',
      k: 'closure',
      m: 'literal',
      n: 'constant',
    });
    expect(file.bindings.find(({ name }) => name === 'm')?.frozen).to.equal(true);
  });

  it('know their uses, and what methods do to them', async () => {
    const code =
      "class Kiln { temp = 0; fire() { this.temp = 9; this.#note(); } #note() { this.log.push(1); } get hot() { return this.temp > 5; } grow() { this.temp += 1; } }\nconst kiln = new Kiln();\nit('a', () => { kiln.fire(); kiln.temp; kiln.hot; kiln.temp = 2; show(kiln); kiln.grow(); kiln.log.push(2); });";
    const { file } = await read(code, {}, 'a.spec.ts');
    const fields = (set: ReadonlySet<string> | 'all' | undefined): string =>
      set === 'all' ? 'all' : [...(set ?? [])].sort().join(' ');
    const uses = file.blocks[0]?.steps.flatMap((step) =>
      step.kind === 'use' && step.use.binding.name === 'kiln'
        ? [
            `${step.use.how} ${step.use.path.join('.')} w:${fields(step.use.effect?.writes)} r:${fields(step.use.effect?.reads ?? step.use.reads)}`,
          ]
        : [],
    );
    expect(uses).to.deep.equal([
      'call fire w:log temp r:',
      'read temp w: r:temp',
      'read hot w: r:temp',
      'write temp w: r:',
      'read  w: r:',
      'pass  w: r:',
      'call grow w:temp r:temp',
      'call log.push w:log r:log',
    ]);
  });
});
