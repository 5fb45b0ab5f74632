import { titlesOf, blocksAround, type Block } from '../../specs/model/blocks.js';
import { basename } from '../../util/paths.js';
import { roundsOf } from '../../specs/model/rounds.js';
import type { FileCheck } from '../questions/check.js';
import type { Finding } from '../../finding.js';
import type { FileContext } from '../questions/context.js';
import { runningSpecs } from '../questions/order.js';
import { titleFromSteps } from '../../writing/phrases.js';
import { retitled, titlePlaceOf } from '../../writing/retitled.js';
import { kebabCase } from '../../util/case.js';
import { isSlipOf } from '../../util/slip.js';
import { stemOf, stemsOf, wordsOf } from '../../util/words.js';

const messageEmpty = 'This spec has no title: a report of its failure names nothing.';
const messageNoGroup = 'This group has no title: a report names its specs alone.';
const adviceGroup = 'Say what its specs have in common, or take the group away.';
const messageVague = (title: string): string =>
  `“${title}” says nothing of what should happen: neither do the groups around it.`;
const messageWorks = (title: string): string =>
  `“${title}” says that it works, and not what should happen when it does.`;
const adviceTitle = (title: string | undefined): string =>
  title === undefined ? 'Say what a user sees, and when.' : `Say what it asserts, as “${title}”.`;

/** Titles that say nothing of what should happen. */
export const O03: FileCheck = {
  code: 'O03',
  family: 'overload',
  scope: 'file',
  tally: { name: 'vagueTitles' },
  title: 'Title that says nothing',
  level: 'hint',
  why: 'When a spec fails, its title is the first thing that is read, and often the only one.',
  certain: 'Sure where the title is written out.',
  trouble: "it('works', () => { … });",
  mended: "it('disables the Fire button when the lid is opened', () => { … });",
  run(context) {
    let made: Subject | undefined;
    const subject = (): Subject => (made ??= subjectOf(context));
    const vague = runningSpecs(context.file).filter((spec) => isVague(spec, subject));
    const found = vague.map((spec) => {
      const title = newTitle(spec, context);
      return {
        place: titlePlaceOf(spec, context),
        within: titlesOf(spec),
        certainty: 'sure',
        message: messageOf(spec, subject),
        advice: adviceTitle(title),
        suggestion: title,
        mend: title === undefined ? undefined : retitled(spec, title, context),
      } satisfies Finding;
    });
    return [...untitledGroups(context), ...found];
  },
};

function messageOf({ title: { text } }: Block, subject: () => Subject): string {
  if (text.trim() === '') return messageEmpty;
  // Which thing it is about, it does say.
  const isOfSome = WORKS.test(text) && wordsOf(text).some((word) => saysMore(word, subject()));
  return isOfSome ? messageWorks(text) : messageVague(text);
}

// “v-model works”: which thing it is about, and nothing of what that does.
const WORKS = /\bworks?(?: (?:correctly|properly|as expected|fine|well))?\W*$/i;

const untitledGroups = (context: FileContext): Finding[] =>
  context.file.blocks
    .filter(
      ({ kind, title, titlePlace }) => kind === 'group' && titlePlace && title.exact && !title.text.trim(),
    )
    .map((group) => ({
      place: titlePlaceOf(group, context),
      within: titlesOf(group),
      certainty: 'sure',
      message: messageNoGroup,
      advice: adviceGroup,
    }));

// Its title, with those of its groups, says nothing of what should happen.
function isVague(spec: Block, subject: () => Subject): boolean {
  const { title, repeated, place } = spec;
  // What a helper makes has its title from elsewhere.
  const isOwn = spec.titlePlace !== undefined && place.start <= spec.titlePlace.start;
  if (!title.exact || repeated || !isOwn) return false;
  const path = blocksAround(spec).filter(({ kind }) => kind !== 'file');
  if (path.some((each) => !each.title.exact)) return false;
  if (WORKS.test(title.text)) return true;
  if (OF_FIGURE.test(title.text)) return false;
  const says = (word: string): boolean => saysMore(word, subject());
  const tokens = title.text.split(/\s+/);
  // What is a success is one of several outcomes, but as the whole of a title.
  if (tokens.some((token) => token.toLowerCase() === 'success') && tokens.length > 2) return false;
  const saysNothing = ({ title: { text }, kind }: Block): boolean =>
    text
      .replace(WITH_PROPS, '')
      .split(/\s+/)
      .every(
        (token) =>
          !wordsOf(token).some((word) => says(word) && !(kind === 'group' && OF_ALL.has(word))) ||
          subject().isNamedBy(token, kind, text),
      );
  if (path.slice(1).every(saysNothing) && onlyNamesProps(title.text, subject())) return true;
  // The bare name of what is tested says at least which function is broken.
  if (tokens.every((token) => wordsOf(token).some(says))) return false;
  return path.every(saysNothing);
}

// “renders a count of 11”: a figure that should come out, not the number of a spec.
const OF_FIGURE = /\b(?:of|to|as|is|at|shows?|equals?) \d+\b/i;

const saysMore = (word: string, { words, letters }: Subject): boolean =>
  !SAYING_NOTHING.has(word) &&
  !isSlipOf(word, 'correctly') &&
  !/^\d+$/.test(word) &&
  !words.has(stemOf(word)) &&
  (word.length < SHORTEST_PART || !letters.includes(word));

// “control panel” for `Controlpanel`.
const SHORTEST_PART = 4;

const HANDLING =
  /^(?:it )?(?:should )?(?:handles?|tests?|checks?) (?:the )?([\w-]+) (?:prop|property|option|attribute)s?$/i;

// “isDisabled”, “Radio description”, “should handle className prop”: which prop it is about, and nothing of what that does.
function onlyNamesProps(title: string, { words, props }: Subject): boolean {
  const handled = HANDLING.exec(title.trim())?.[1];
  if (handled !== undefined) return true;
  const tokens = title.trim().split(/\s+/);
  const isProp = (token: string): boolean => props.has(token) && token.length > 1;
  return (
    tokens.some(isProp) &&
    tokens.every((token) => isProp(token) || wordsOf(token).every((word) => words.has(stemOf(word))))
  );
}

/** What a spec file is about, which a title need not say again. */
interface Subject {
  /** The words of the component's name and of the file's own, as stems. */
  words: ReadonlySet<string>;
  /** The letters of the file's own name, where what it renders goes by it. */
  letters: string;
  /** The props of the components that it renders. */
  props: ReadonlySet<string>;
  /** Whether a part of a title is the name of something that the file imports, or of the path to it. */
  isNamedBy: (token: string, kind: Block['kind'], title: string) => boolean;
}

const SHOWS = /\b(?:render|show|display|use|contain|include)s?\b/i;

function subjectOf(context: FileContext): Subject {
  const { file } = context;
  const folders = new Set(file.path.split('/'));
  const stem = basename(file.path).split('.')[0] ?? '';
  const letters = stem.replace(/\W/g, '').toLowerCase();
  const rendered = new Set(
    file.renders.flatMap(({ view }) => (view?.[0]?.kind === 'component' ? [view[0].name] : [])),
  );
  return {
    words: subjectWords(context),
    letters: [...rendered].some((name) => name.toLowerCase() === letters) ? letters : '',
    props: new Set(
      file.renders.flatMap((render) => [...(context.rendering.subject(render)?.props.keys() ?? [])]),
    ),
    isNamedBy(token, kind, title) {
      const name = token.replace(/^[^\w$]+|[^\w$]+$/g, '');
      // “renders the Lid”: a part that is shown is not what is tested, where something else is rendered.
      const isShown = kind !== 'group' && rendered.size > 0 && !rendered.has(name) && SHOWS.test(title);
      if (file.imports.has(name)) return !isShown;
      const parts = name.split('/');
      return (
        (parts.length > 1 || kind === 'group') &&
        parts.every((part) => folders.has(part) || folders.has(kebabCase(part)) || part === stem)
      );
    },
  };
}

// The component's name and the file's own: they are known from where the spec stands.
function subjectWords({ file, rendering }: FileContext): Set<string> {
  const own = stemsOf(basename(file.path).split('.')[0] ?? '');
  const names = new Set(file.renders.map((render) => rendering.subject(render)?.name ?? ''));
  const words = [...names].map(stemsOf);
  // `card.spec` for `KilnCard`; beside `Card` itself, `CardTitle` is a part, which a title may name.
  const longer = words.filter((each) => own.every((word) => each.includes(word)));
  const isItself = longer.some((each) => each.length === own.length);
  return new Set([...own, ...(isItself ? [] : longer.flat())]);
}

const SAYING_NOTHING: ReadonlySet<string> = new Set(
  (
    'a an the it its is are be been and or of to in for on as that this should will can does do must ' +
    'work works working worked render renders rendered rendering correct correctly right properly well fine ok good ' +
    'basic basics simple simply general common main misc various test tests testing tested spec specs check checks ' +
    'checking verify verifies ensure ensures default defaults expected expectedly exist exists create creates created ' +
    'mount mounts mounted mounting success successful successfully behave behaves behavior behaviour functionality ' +
    'feature features component components unit case cases scenario example happy path sanity smoke ' +
    'called compile compiles compiled instance fixture directive directives pipe service'
  ).split(' '),
);

const WITH_PROPS =
  /\bwith (?:the |all |its )?(?:required|default|minimal|basic|given|necessary) (?:props|properties)\b/i;

// What the specs of a group do in any case: “Loads and displays the Lid”.
const OF_ALL: ReadonlySet<string> = new Set(
  'load loads display displays show shows customize customizes'.split(' '),
);

function newTitle(spec: Block, context: FileContext): string | undefined {
  const rounds = roundsOf(spec);
  // What several rounds have in common, no title made here can say.
  const [round] = rounds;
  const title = rounds.length === 1 && round ? titleFromSteps(round, context) : undefined;
  return spec.parent?.children.some((child) => child.title.text === title) ? undefined : title;
}
