import type { Assertion, Render } from '../../specs/model/steps.js';
import type { Value } from '../../specs/model/values.js';

/** The render whose whole markup an assertion compares, by a snapshot or with a text. */
export function comparedRender({ asks, not, subject, args }: Assertion): Render | undefined {
  if (not) return undefined;
  if (asks === 'snapshot') return wholeOf(subject);
  const isLong = args[0]?.is === 'constant' && /<\w[^]*<\w/.test(String(args[0].value));
  return asks === 'equal' && isLong && subject.is === 'read' ? wholeOf(subject) : undefined;
}

function wholeOf(subject: Value): Render | undefined {
  if (subject.is === 'read') return MARKUP.has(subject.name) ? wholeOf(subject.of) : undefined;
  if (subject.is !== 'thing' || !subject.render) return undefined;
  const { reach, render } = subject;
  if (!reach) return render;
  // The first child of a container is all that was rendered.
  const isRoot = reach.by === 'hop' && ['firstChild', 'firstElementChild', 'children'].includes(reach.name);
  return isRoot && reach.from === render ? render : undefined;
}

const MARKUP = new Set(['html', 'innerHTML', 'outerHTML', 'toJSON', 'debug']);
