const DEEPEST_BRACKETS = 800;
const LONGEST_RUN = 1500;
const MOST_BRANCHES = 3000;

/**
 * The offset at which a text nests deeper than a parser's stack can surely take, else undefined.
 * The native parser dies with the process on such input, so it is asked before. Counts over the raw characters:
 * an upper bound, since brackets in strings count too.
 */
export function tooDeepAt(text: string): number | undefined {
  let depth = 0;
  let run = 0;
  let tags = 0;
  for (let i = 0; i < text.length; i++) {
    switch (text.charCodeAt(i)) {
      case 40 /* ( */:
      case 91 /* [ */:
      case 123 /* { */:
        if (++depth > DEEPEST_BRACKETS) return i;
        run = 0;
        break;
      case 41 /* ) */:
      case 93 /* ] */:
      case 125 /* } */:
        if (depth > 0) depth--;
        run = 0;
        break;
      case 59 /* ; */:
      case 44 /* , */:
        run = 0;
        break;
      case 60 /* < */:
        tags += text.charCodeAt(i + 1) === 47 ? -1 : 1;
        if (tags > MOST_BRANCHES * 4) return i;
        if (++run > LONGEST_RUN) return i;
        break;
      case 33 /* ! */:
      case 126 /* ~ */:
      case 61 /* = */:
      case 63 /* ? */:
      case 58 /* : */:
      case 42 /* * */:
      case 124 /* | */:
      case 38 /* & */:
        if (++run > LONGEST_RUN) return i;
        break;
    }
  }
  return keywordsTooMany(text);
}

// Statements and unary words that nest with no bracket: else if, for (;;) for (;;), new new, typeof typeof, a:b:c:
function keywordsTooMany(text: string): number | undefined {
  if (text.length < MOST_BRANCHES * 3) return undefined;
  const words = /\b(?:else|for|while|with|do|if|new|typeof|void|delete|await|yield|keyof|infer|extends)\b|:/g;
  let count = 0;
  let last = 0;
  for (const match of text.matchAll(words)) {
    // Words far apart stand in statements of their own: only dense runs nest.
    count = match.index - last < 24 ? count + 1 : 0;
    last = match.index;
    if (count > LONGEST_RUN && !text.slice(last - 200, last).includes(',')) return match.index;
  }
  return undefined;
}
