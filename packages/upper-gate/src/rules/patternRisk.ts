// Whether a regular expression from outside can hang: one that repeats what repeats itself, or whose repetitions overlap, may
// take exponentially long on a short text.
//
// The expression is read into items with the characters that they may match, as ranges. Two repetitions overlap where one may
// end and the other begin with the same character, with nothing between that must be there. What the reader does not
// understand (back references, set operations, properties) counts as any character: it errs on the safe side.

/** Characters, as ranges of code points, both ends included. */
type Chars = readonly (readonly [from: number, to: number])[];

const ANY: Chars = [[0, 0x10ffff]];
const DIGITS: Chars = [[48, 57]];
const WORDS: Chars = [...DIGITS, [65, 90], [95, 95], [97, 122]];
const BLANKS: Chars = [
  [9, 13],
  [32, 32],
  [0xa0, 0xa0],
  [0x1680, 0x1680],
  [0x2000, 0x200a],
  [0x2028, 0x2029],
  [0x202f, 0x202f],
  [0x205f, 0x205f],
  [0x3000, 0x3000],
  [0xfeff, 0xfeff],
];
const CLASSES: Readonly<Record<string, Chars>> = { d: DIGITS, w: WORDS, s: BLANKS };
const ESCAPES: Readonly<Record<string, number>> = { t: 9, n: 10, v: 11, f: 12, r: 13, 0: 0 };

/** From how often on a repetition within a repetition is dangerous, and one beside another. */
const SEVERAL = 20;
const MANY = 500;

const overlap = (a: Chars, b: Chars): boolean => a.some(([from, to]) => b.some(([start, end]) => from <= end && start <= to));

function without(chars: Chars): Chars {
  const rest: [number, number][] = [];
  let next = 0;
  for (const [from, to] of [...chars].sort((a, b) => a[0] - b[0])) {
    if (from > next) rest.push([next, from - 1]);
    next = Math.max(next, to + 1);
  }
  if (next <= 0x10ffff) rest.push([next, 0x10ffff]);
  return rest;
}

/** What one item of a sequence, or a whole sequence, may match. */
interface Shape {
  /** Whether it may match nothing. */
  readonly empty: boolean;
  readonly first: Chars;
  readonly last: Chars;
  /** The characters that are repeated at its beginning, and at its end: several times, and many times. */
  readonly head: Chars;
  readonly tail: Chars;
  readonly manyAhead: Chars;
  readonly manyBehind: Chars;
  /** The characters one by one, if it is nothing but such. */
  readonly letters: readonly Chars[] | undefined;
}

const NOTHING: Shape = { empty: true, first: [], last: [], head: [], tail: [], manyAhead: [], manyBehind: [], letters: [] };

/** Thrown for what is found. */
class Risk extends Error {}

class PatternReader {
  readonly #source: readonly string[];
  readonly #ignoresCase: boolean;
  #at = 0;

  constructor(source: string, flags: string) {
    this.#source = Array.from(source);
    this.#ignoresCase = flags.includes('i');
  }

  /** Reads alternatives, up to the end or a closing parenthesis. */
  alternatives(): readonly Shape[] {
    const found = [this.#sequence()];
    while (this.#take('|')) found.push(this.#sequence());
    return found;
  }

  #peek(): string | undefined {
    return this.#source[this.#at];
  }

  #take(text: string): boolean {
    if (this.#source.slice(this.#at, this.#at + text.length).join('') !== text) return false;
    this.#at += text.length;
    return true;
  }

  #sequence(): Shape {
    let shape = NOTHING;
    for (let next = this.#peek(); next !== undefined && next !== '|' && next !== ')'; next = this.#peek()) {
      const start = this.#at;
      const alternatives = this.#item();
      const [min, max] = this.#quantifier();
      shape = this.#join(shape, this.#repeat(alternatives, min, max, start), start);
    }
    return shape;
  }

  #textFrom(start: number): string {
    return this.#source.slice(start, this.#at).join('');
  }

  /** @throws Risk where the end of one and the beginning of the other repeat the same characters */
  #join(a: Shape, b: Shape, start: number): Shape {
    if (overlap(a.manyBehind, b.manyAhead))
      throw new Risk(`${this.#textFrom(start)} repeats what the repetition before it may match as well`);
    return {
      empty: a.empty && b.empty,
      first: a.empty ? [...a.first, ...b.first] : a.first,
      last: b.empty ? [...b.last, ...a.last] : b.last,
      head: a.empty ? [...a.head, ...b.head] : a.head,
      tail: b.empty ? [...b.tail, ...a.tail] : b.tail,
      manyAhead: a.empty ? [...a.manyAhead, ...b.manyAhead] : a.manyAhead,
      manyBehind: b.empty ? [...b.manyBehind, ...a.manyBehind] : b.manyBehind,
      letters: a.letters && b.letters && [...a.letters, ...b.letters],
    };
  }

  /** @throws Risk for a repetition that can match a text in many ways */
  #repeat(alternatives: readonly Shape[], min: number, max: number, start: number): Shape {
    const either = (pick: (shape: Shape) => Chars): Chars => alternatives.flatMap(pick);
    const [only] = alternatives as readonly [Shape];
    const one: Shape =
      alternatives.length === 1
        ? only
        : {
            empty: alternatives.some(({ empty }) => empty),
            first: either(({ first }) => first),
            last: either(({ last }) => last),
            head: either(({ head }) => head),
            tail: either(({ tail }) => tail),
            manyAhead: either(({ manyAhead }) => manyAhead),
            manyBehind: either(({ manyBehind }) => manyBehind),
            letters: undefined,
          };
    if (one.empty && min >= SEVERAL) throw new Risk(`${this.#textFrom(start)} repeats what may be nothing`);
    if (max >= SEVERAL) {
      if (alternatives.some((a, i) => alternatives.slice(i + 1).some((b) => areAlike(a, b))))
        throw new Risk(`${this.#textFrom(start)} repeats alternatives that may match the same`);
      if (overlap(one.tail, one.first) || overlap(one.head, one.last))
        throw new Risk(`${this.#textFrom(start)} repeats what repeats itself`);
    }
    const isLetter = only.letters?.length === 1;
    return {
      ...one,
      empty: one.empty || min === 0,
      ...(max >= SEVERAL && isLetter && { head: one.first, tail: one.first }),
      ...(max >= MANY && isLetter && { manyAhead: one.first, manyBehind: one.first }),
      letters: min === 1 && max === 1 ? one.letters : undefined,
    };
  }

  #quantifier(): readonly [min: number, max: number] {
    const counted = /^\{(\d+)(,?)(\d*)\}/.exec(this.#source.slice(this.#at, this.#at + 24).join(''));
    let range: readonly [number, number] = [1, 1];
    if (this.#take('*')) range = [0, Infinity];
    else if (this.#take('+')) range = [1, Infinity];
    else if (this.#take('?')) range = [0, 1];
    else if (counted) {
      const [text, min, comma, max] = counted as unknown as readonly [string, string, string, string];
      this.#at += text.length;
      range = [Number(min), comma === '' ? Number(min) : max === '' ? Infinity : Number(max)];
    } else return range;
    this.#take('?');
    return range;
  }

  /** One item, without its quantifier. */
  #item(): readonly Shape[] {
    if (this.#take('(')) return this.#group();
    if (this.#take('[')) return [letter(this.#class())];
    if (this.#take('^') || this.#take('$')) return [NOTHING];
    if (this.#take('.')) return [letter(ANY)];
    if (this.#take('\\')) return [this.#escape()];
    return [letter(this.#cased(this.#next()))];
  }

  #group(): readonly Shape[] {
    const looksAround = ['?=', '?!', '?<=', '?<!'].some((start) => this.#take(start));
    if (!looksAround && !this.#take('?:') && this.#take('?<')) while (this.#next() !== '>');
    const found = this.alternatives();
    this.#take(')');
    return looksAround ? [NOTHING] : found;
  }

  #next(): string {
    const next = this.#peek() ?? '>';
    this.#at += 1;
    return next;
  }

  #cased(character: string): Chars {
    const all = this.#ignoresCase ? [character, character.toLowerCase(), character.toUpperCase()] : [character];
    return all.map((each) => [each.codePointAt(0)!, each.codePointAt(0)!] as const);
  }

  /** What follows a backslash. */
  #escape(): Shape {
    const next = this.#next();
    if (next === 'b' || next === 'B') return NOTHING;
    if (/[1-9k]/.test(next)) return { ...letter(ANY), empty: true, letters: undefined };
    return letter(this.#escaped(next));
  }

  #escaped(next: string): Chars {
    const known = CLASSES[next.toLowerCase()];
    if (known) return next === next.toLowerCase() ? known : without(known);
    if (next === 'p' || next === 'P') {
      if (this.#take('{')) while (this.#next() !== '}');
      return ANY;
    }
    const code = /^(?:x([\da-f]{2})|u([\da-f]{4})|u\{([\da-f]+)\})/i.exec(next + this.#source.slice(this.#at, this.#at + 10).join(''));
    if (code) {
      this.#at += code[0].length - 1;
      const point = Number.parseInt(code[1] ?? code[2] ?? code[3]!, 16);
      return [[point, point]];
    }
    const escape = ESCAPES[next];
    return escape === undefined ? this.#cased(next) : [[escape, escape]];
  }

  /** A class, after its opening bracket. */
  #class(): Chars {
    const isNegated = this.#take('^');
    const chars: (readonly [number, number])[] = [];
    let isPlain = true;
    for (let next = this.#peek(); next !== undefined && next !== ']'; next = this.#peek()) {
      // Sets in sets, and operations on them, are not taken apart.
      if (this.#take('[')) {
        this.#class();
        isPlain = false;
      } else if (this.#take('--') || this.#take('&&')) isPlain = false;
      else {
        const from = this.#classItem();
        const isRange = this.#peek() === '-' && ![']', '-', undefined].includes(this.#source[this.#at + 1]);
        if (!isRange || from.length !== 1) chars.push(...from);
        else {
          this.#at += 1;
          const to = this.#classItem();
          chars.push([from[0]![0], to.at(-1)![1]], ...this.#otherCase(from[0]![0], to.at(-1)![1]));
        }
      }
    }
    this.#take(']');
    if (!isPlain) return ANY;
    return isNegated ? without(chars) : chars;
  }

  #classItem(): Chars {
    return this.#take('\\') ? this.#escaped(this.#next()) : this.#cased(this.#next());
  }

  /** Of a range of letters, where case does not matter, that of the other case: in ASCII shifted, else any. */
  #otherCase(from: number, to: number): Chars {
    if (!this.#ignoresCase) return [];
    if (from >= 65 && to <= 90) return [[from + 32, to + 32]];
    if (from >= 97 && to <= 122) return [[from - 32, to - 32]];
    return ANY;
  }
}

const letter = (chars: Chars): Shape => ({ ...NOTHING, empty: false, first: chars, last: chars, letters: [chars] });

/** Whether two alternatives may match the same text, or one the beginning of the other's. */
function areAlike(a: Shape, b: Shape): boolean {
  if (a.letters && b.letters) {
    const { letters } = b;
    return a.letters.every((chars, i) => letters[i] === undefined || overlap(chars, letters[i]));
  }
  return a.empty || b.empty || overlap(a.first, b.first);
}

/**
 * What makes a regular expression hang on some text, as far as this check sees.
 *
 * @returns the part that does, and why; nothing if it does not
 *
 * @example
 * patternRisk('^(a+)+$', ''); // '(a+)+ repeats what repeats itself'
 */
export function patternRisk(source: string, flags: string): string | undefined {
  try {
    new PatternReader(source, flags).alternatives();
    return undefined;
  } catch (error) {
    if (error instanceof Risk) return error.message;
    throw error;
  }
}
