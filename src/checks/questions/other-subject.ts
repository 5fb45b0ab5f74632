import { isProviderName } from '../../components/view.js';
import type { Place, Span } from '../../finding.js';
import { basename } from '../../util/paths.js';
import { wordsOf } from '../../util/words.js';
import { fileFact, inSpecFile, type ProjectContext } from './context.js';

/** A group that speaks of one component, while all its specs render another. */
interface OtherSubject {
  place: Place;
  told: string;
  rendered: string;
}

/** The groups at the top of a file whose titles do not name the only component that its specs render. */
interface Subject {
  rendered: string;
  groups: readonly Group[];
}

interface Group extends Span {
  words: readonly string[];
  /** It holds words of what is rendered, and begins with a name that is another one: only that name may tell. */
  name?: string;
}

/** What a spec file is about, where its groups may be about something else. */
export const SUBJECT = fileFact('subject', ({ file, rendering }): Subject | undefined => {
  const components = new Set(file.renders.map((render) => rendering.subject(render)));
  const [component] = components;
  // One that the spec writes for itself says nothing of what it is about.
  if (components.size !== 1 || !component || component.file === file.path) return undefined;
  const rendered = component.name;
  // What stands in a provider is what a group is about.
  if (isProviderName(rendered) && !nameOfFile(file.path).includes(bare(rendered))) return undefined;
  const groups = file.root.children.flatMap(({ kind, title, titlePlace }): Group[] => {
    const words = kind === 'group' && title.exact && titlePlace ? wordsOf(title.text) : [];
    if (!titlePlace || words.length === 0) return [];
    if (!named(rendered, words)) return [{ words, ...titlePlace }];
    const [name] = /^[A-Z]\w+/.exec(title.text) ?? [];
    const isOther = name !== undefined && !bare(title.text).includes(bare(rendered));
    return isOther && bare(name) !== nameOfFile(file.path) ? [{ words, name, ...titlePlace }] : [];
  });
  // A name that the file imports may well be what the group is about.
  const imported = [...file.imports.keys()].flatMap(wordsOf);
  const free = groups.filter(({ name, words: [first] }) =>
    name === undefined ? first !== undefined && !imported.includes(first) : !file.imports.has(name),
  );
  return free.length > 0 ? { rendered, groups: free } : undefined;
});

/** Groups whose titles begin with the name of another component of the project than the one that they, and their file, are about. */
export function otherSubjects({ specFiles, components }: ProjectContext): OtherSubject[] {
  const names = new Set(components.map(({ name }) => name));
  // Some go by the name of their file: `move-kiln.modal.tsx`.
  const files = new Set(
    components.flatMap(({ name, file }) => {
      const own = [bare(name), nameOfFile(file)];
      return [...own, ...own.map((each) => each.replace(/component$/, ''))];
    }),
  );
  return specFiles.flatMap((file) => {
    const subject = file.get(SUBJECT);
    if (!subject || !named(subject.rendered, wordsOf(basename(file.path)))) return [];
    const { rendered, groups } = subject;
    return groups.flatMap(({ words, name: own, ...place }) => {
      const others =
        own === undefined
          ? [...names].filter((name) => name !== rendered && startsWith(words, coreOf(name, rendered)))
          : names.has(own) || files.has(bare(own))
            ? [own]
            : [];
      // Of `Menu` and `MenuItem`, the longer one is meant.
      const [told] = others.sort((a, b) => b.length - a.length);
      const isFile = own === undefined && told !== undefined && named(told, wordsOf(basename(file.path)));
      return told === undefined || isFile ? [] : [{ place: inSpecFile(file, place), told, rendered }];
    });
  });
}

const bare = (text: string): string => text.replace(/\W/g, '').toLowerCase();

const nameOfFile = (file: string): string =>
  bare(basename(file).replace(/(?:[._-](?:test|spec))?\.\w+$/, ''));

// The words of a name without the letters that all components of a library begin with: `OMenu` beside `OTree`.
function coreOf(name: string, beside: string): readonly string[] {
  const prefix = /^[A-Z][a-z]?(?=[A-Z])/.exec(beside)?.[0] ?? '';
  return wordsOf(prefix !== '' && name.startsWith(prefix) ? name.slice(prefix.length) : name);
}

const startsWith = (words: readonly string[], start: readonly string[]): boolean =>
  start.length > 0 && start.every((word, i) => words[i] === word);

// Whether words hold a name, as one word or as its own words in a row.
function named(name: string, words: readonly string[]): boolean {
  const core = coreOf(name, name);
  const text = words.join('');
  return text.includes(core.join('')) || core.some((word) => word.length > 3 && words.includes(word));
}
