// What a function of an author mentions: the values that it compares with are those that are worth a try. Read from its source, so that
// the samples for `(name) => name !== 'Titanic'` hold that name.

/** The literals in a function. */
export interface Literals {
  readonly texts: readonly string[];
  readonly numbers: readonly number[];
  readonly patterns: readonly RegExp[];
}

/** How many of each are taken from one function. */
const MOST = 40;
/** Longer sources are cut: nobody compares with what stands behind. */
const LONGEST = 20_000;

const TEXT = /'((?:[^'\\\n]|\\.){0,80})'|"((?:[^"\\\n]|\\.){0,80})"|`((?:[^`\\$]|\\.){0,80})`/g;
const NUMBER = /(?<![\w.$])\d[\d_]*(?:\.\d+)?(?:e[+-]?\d+)?(?![\w.])/gi;
const PATTERN =
  /(?<=[(,=:[!&|?{};\n]\s*|return\s+)\/((?:[^/\\\n[*]|\\.|\[(?:[^\]\\\n]|\\.)*\])(?:[^/\\\n[]|\\.|\[(?:[^\]\\\n]|\\.)*\])*)\/([dgimsuvy]*)/g;

/** A text as it is written in a source. */
function unescaped(written: string): string | undefined {
  try {
    return JSON.parse(
      `"${written
        .replace(/\\'/g, "'")
        .replace(/\\`/g, '`')
        .replace(/(?<!\\)"/g, '\\"')}"`,
    ) as string;
  } catch {
    return undefined;
  }
}

function patternOf(source: string, flags: string): RegExp | undefined {
  try {
    return new RegExp(source, flags);
  } catch {
    return undefined;
  }
}

const first = <T>(found: readonly (T | undefined)[]): readonly T[] =>
  [...new Set(found.filter((each) => each !== undefined))].slice(0, MOST);

const known = new WeakMap<object, Literals>();

/** What a function mentions. */
export function literalsIn(of: object): Literals {
  const before = known.get(of);
  if (before) return before;
  let source = '';
  try {
    source = Function.prototype.toString.call(of).slice(0, LONGEST);
  } catch {
    // No function, or one that hides its source: nothing is known of it.
  }
  const literals: Literals = {
    texts: first([...source.matchAll(TEXT)].map(([, a, b, c]) => unescaped(a ?? b ?? c ?? ''))),
    numbers: first([...source.matchAll(NUMBER)].map(([text]) => Number(text.replaceAll('_', '')))),
    patterns: first([...source.matchAll(PATTERN)].map(([, pattern = '', flags = '']) => patternOf(pattern, flags))),
  };
  known.set(of, literals);
  return literals;
}
