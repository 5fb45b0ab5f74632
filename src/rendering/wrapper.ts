import { NO_CLASSES, type ComponentNode, type ViewNode } from '../components/view.js';
import type { Project } from '../project/project.js';
import type { Render } from '../specs/model/steps.js';
import { rendered } from './rendered.js';

// Stands for the markup that a wrapper is handed.
const HANDED = {
  kind: 'element',
  tag: '?',
  place: { start: 0, end: 0 },
  attributes: new Map(),
  classes: NO_CLASSES,
  open: false,
  events: [],
  children: [],
} satisfies ViewNode;

/** What a render is wrapped in, where that is read down to the place where it surely shows what it is handed. */
export function readWrapper(
  { wrapper, file, writtenIn }: Pick<Render, 'file' | 'writtenIn'> & { wrapper: ComponentNode },
  project: Project,
  replaced: ReadonlySet<string>,
): ComponentNode | 'unknown' {
  const { elements, complete } = rendered(project, { file, writtenIn, view: [HANDED], wrapper, replaced });
  const [shown, ...more] = elements.filter(({ place }) => place === HANDED.place);
  const isRead = complete && shown?.guards.length === 0 && !shown.repeated && more.length === 0;
  return isRead ? wrapper : 'unknown';
}
