// The characters that count; most others need no more than this look.
const COUNTS = new Uint8Array(128);
for (const each of '{}()[];,<!~=?:*|&+-.`') COUNTS[each.charCodeAt(0)] = 1;

// How deep a native parser's stack surely reaches; beyond it, the parser takes the whole process with it.
const DEEPEST_BRACKETS = 800;
const LONGEST_RUN = 1500;
const LONGEST_CHAIN = 12000;
const MOST_HEADERS = 400;

/**
 * The offset at which a text nests deeper than a parser's stack can surely take, else undefined.
 * Counts over the raw characters: an upper bound, since what stands in strings counts too.
 */
export function tooDeepAt(text: string): number | undefined {
  // Brackets that are open; prefix operators in a row; links of one chain; `if (…) if (…)` in a row.
  let depth = 0;
  let run = 0;
  let chain = 0;
  let headers = 0;
  let tags = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (COUNTS[code] !== 1) continue;
    switch (code) {
      case 123 /* { */:
        headers = 0;
        chain = 0;
        depth++;
        run = 0;
        break;
      case 40 /* ( */:
      case 91 /* [ */:
        depth++;
        run = 0;
        break;
      case 125 /* } */:
        headers = 0;
        chain = 0;
        if (depth > 0) depth--;
        run = 0;
        break;
      case 41 /* ) */:
        if (opensAgain(text, i + 1)) headers++;
        chain++;
        if (depth > 0) depth--;
        run = 0;
        break;
      case 93 /* ] */:
        if (depth > 0) depth--;
        run = 0;
        break;
      case 59 /* ; */:
      case 44 /* , */:
        run = 0;
        chain = 0;
        break;
      case 60 /* < */:
        tags += text.charCodeAt(i + 1) === 47 ? -1 : 1;
        run++;
        break;
      case 33 /* ! */:
      case 126 /* ~ */:
      case 61 /* = */:
      case 63 /* ? */:
      case 58 /* : */:
      case 42 /* * */:
      case 124 /* | */:
      case 38 /* & */:
        run++;
        break;
      case 43 /* + */:
      case 45 /* - */:
      case 46 /* . */:
      case 96 /* ` */:
        chain++;
        break;
    }
    const isDeep = depth > DEEPEST_BRACKETS || run > LONGEST_RUN || chain > LONGEST_CHAIN;
    if (isDeep || headers > MOST_HEADERS || tags > LONGEST_CHAIN) return i;
  }
  return text.length < SHORT ? undefined : longestWords(text);
}

// Whether a header follows another one: the statement of the first is the second.
function opensAgain(text: string, from: number): boolean {
  let at = from;
  while (text.charCodeAt(at) <= 32) at++;
  return (
    text.startsWith('if', at) ||
    text.startsWith('for', at) ||
    text.startsWith('while', at) ||
    text.startsWith('with', at)
  );
}

// Below this length no chain of words can be long enough.
const SHORT = 4000;

// Statements and unary words that nest with no bracket, one right after the other.
const WORDS = [
  /(?:\belse\s+if\s*\([^()]*\)\s*(?:\{[^{}]*\}|[^;{}]*;)\s*){400}/,
  /(?:\b(?:new|typeof|void|delete|await|yield|keyof|infer|do|else)\s+){400}/,
  /(?:\bclass\s+\w*\s*extends\s+){200}/,
  /(?:\bas\s+\w+\s*){3000}/,
  /(?:\b\w+\s*:\s*){400}/,
];

function longestWords(text: string): number | undefined {
  const starts = WORDS.map((words) => text.search(words)).filter((at) => at >= 0);
  return starts.length ? Math.min(...starts) : undefined;
}
