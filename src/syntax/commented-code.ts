import type { Statement } from 'oxc-parser';
import type { Span } from '../finding.js';
import { parseScript, type Script } from './script.js';

/** A statement that stands in a comment; its span is that of the lines it takes, in the file around it. */
interface CommentedStatement extends Span {
  statement: Statement;
}

/** The calls that stand as statements in the comments of a script; comments that document what follows are left out. */
export function commentedCalls(script: Script): CommentedStatement[] {
  return linesOfComments(script).flatMap((lines) => callsIn(lines, script));
}

interface Line extends Span {
  text: string;
}

// A statement is rarely longer; prose that starts like one ends the search early.
const MOST_LINES = 40;
const STARTS_WITH_CALL = /^\s*(?:await\s+)?[\w$]+\s*[.(]/;

function callsIn(lines: readonly Line[], { source }: Script): CommentedStatement[] {
  const found: CommentedStatement[] = [];
  for (let first = 0; first < lines.length; first++) {
    if (!STARTS_WITH_CALL.test(lines[first]?.text ?? '')) continue;
    for (let end = first + 1; end <= Math.min(lines.length, first + MOST_LINES); end++) {
      const taken = lines.slice(first, end);
      const text = taken.map((line) => line.text).join('\n');
      const script = parseScript({ ...source, text }, undefined, text);
      if (!('program' in script)) continue;
      const place = { start: taken[0]?.start ?? 0, end: taken.at(-1)?.end ?? 0 };
      found.push(...script.program.body.map((statement) => ({ ...place, statement })));
      first = end - 1;
      break;
    }
  }
  return found;
}

// Line comments with nothing but blank lines between them are one text.
function linesOfComments({ source, comments }: Script): Line[][] {
  const groups: Line[][] = [];
  let last: Line | undefined;
  for (const { type, value, start, end } of comments) {
    if (type === 'Block') {
      if (!value.startsWith('*')) groups.push(linesOf(value, start + 2));
      last = undefined;
      continue;
    }
    const line = { text: value, start, end };
    const isNext = last !== undefined && source.text.slice(last.end, start).trim() === '';
    if (isNext) groups.at(-1)?.push(line);
    else groups.push([line]);
    last = line;
  }
  return groups;
}

function linesOf(text: string, from: number): Line[] {
  let start = from;
  return text.split('\n').map((each) => {
    const line = { text: each, start, end: start + each.length };
    start = line.end + 1;
    return line;
  });
}
