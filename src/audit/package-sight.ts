import { SIGHT, type Hidden } from '../checks/questions/sight.js';
import { grouped } from '../util/grouped.js';
import { relativeTo } from '../util/paths.js';
import type { Sight, Unseen } from './report.js';
import type { Gathered } from './gathered.js';
import type { CheckedSpecFile } from './spec-file.js';

type Context = Gathered['context'];

/** What of some spec files could not be seen, each cause once, worst first, and what would open it. */
export function packageSight(checked: readonly CheckedSpecFile[], context: Context): Sight {
  const sights = checked.map(({ facts }) => ({ path: facts.path, ...facts.get(SIGHT) }));
  const sum = (figure: (sight: (typeof sights)[number]) => number): number =>
    sights.reduce((all, each) => all + figure(each), 0);
  const hidden = sights.flatMap(({ path, hidden }) => hidden.map((each) => ({ ...each, path })));
  const elements = hidden.filter(({ what }) => what === 'element').length;
  const causes = [...grouped(hidden, (each) => `${each.what}\0${causeOf(each)}`).values()];
  return {
    queries: sum(({ reaches }) => reaches),
    elements: sum(({ reaches }) => reaches) - elements,
    renders: sum(({ renders }) => renders),
    unseen: causes.flatMap((cause) => unseen(cause, context)).sort(worstFirst),
  };
}

const causeOf = (each: Hidden): string =>
  each.what === 'element' ? `${each.why} ${each.part ?? ''}` : each.name;

const GRAVITY: readonly Unseen['what'][] = ['import', 'render', 'call', 'element'];

const worstFirst = (a: Unseen, b: Unseen): number =>
  GRAVITY.indexOf(a.what) - GRAVITY.indexOf(b.what) || b.count - a.count || (a.name < b.name ? -1 : 1);

function unseen(cause: readonly (Hidden & { path: string })[], context: Context): Unseen[] {
  const [first] = cause;
  const source = first && context.sourceOf(first.path);
  if (!first || !source) return [];
  return [
    {
      what: first.what,
      name: first.what === 'element' ? (first.part ?? first.why) : first.name,
      reason: reasonOf(first),
      opens: openedBy(first),
      count: cause.length,
      files: new Set(cause.map(({ path }) => path)).size,
      file: relativeTo(context.root, first.path),
      line: source.lines.at(first.place.start).line,
    },
  ];
}

function reasonOf(each: Hidden): string {
  switch (each.what) {
    case 'import':
      return 'leads to no file and to no package that a manifest declares';
    case 'render':
      return 'which component it renders is not told';
    case 'call':
      return each.module
        ? `is handed a component, and ${each.module} is not known`
        : 'is handed a component, and can’t be read';
    case 'element':
      return each.part ? `${each.why}: ${each.part}` : each.why;
  }
}

const RENDER_HELPER = 'name it in wexlet.json under helpers.render, if it renders';

function openedBy(each: Hidden): string | undefined {
  switch (each.what) {
    case 'import':
      return each.name.startsWith('.')
        ? 'add the file, or correct the path'
        : 'name it in the compiler’s paths or the runner’s aliases, or declare the package';
    case 'render':
      return 'render a component that the spec imports by name';
    case 'call':
      return RENDER_HELPER;
    case 'element':
      return each.why === 'nothing rendered'
        ? 'name the function that renders in wexlet.json under helpers.render'
        : undefined;
  }
}
