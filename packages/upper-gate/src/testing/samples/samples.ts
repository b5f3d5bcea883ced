// Samples of a schema: values that are right, and for each rule values that just pass and just fail. What no rule says of itself
// is found by search, and what is not found is told.

import { childPath, keysOf, pathOf } from '../../schema/finding.ts';
import { makeGate } from '../../gate/createGate.ts';
import type { ContextValue } from '../../schema/context/context.ts';
import { isField, type FieldPart } from '../../schema/field.ts';
import type { Finding } from '../../schema/finding.ts';
import { isGroup, type GroupPart } from '../../schema/group.ts';
import type { Node, RAW } from '../../schema/node.ts';
import { partOf, type Part } from '../../schema/part.ts';
import { piecesOf } from '../../schema/pieces.ts';
import type { AnyRule } from '../../schema/rule.ts';
import { sameValue } from '../../schema/sameValue.ts';
import { blocks } from '../../schema/severity.ts';
import { factsOf, isRuleName, RULES } from '../../schema/vocabulary.ts';
import { validate } from '../../validate/validate.ts';
import { arbitraryIn, findIn, loadGenerators, poolOf, textMaker } from './arbitrary.ts';
import { limitsOf } from './candidates.ts';

/** The options of `samples`. */
export interface SampleOptions {
  /** Another seed, other values. Default 1. */
  readonly seed?: number;
  /** How many right values. Default 10. */
  readonly count?: number;
  /** `'limits'`: for each rule, also values that just pass and just fail. */
  readonly near?: 'limits';
  /** Facts from outside that the schema reads. */
  readonly context?: readonly ContextValue[];
}

/** A value at the limit of a rule. */
export interface LimitSample<R = unknown> {
  /** The path of what the rule is on, and its name. */
  readonly path: string;
  readonly rule: string;
  /** The whole value. */
  readonly raw: R;
  /** The code that the rule reports; undefined where it passes. */
  readonly expected: string | undefined;
}

/** What was not found, by which search. */
export interface GaveUp {
  readonly path: string;
  readonly rule: string;
  /** `'value'`: a right value of the whole. */
  readonly what: 'value' | 'pass' | 'fail';
  readonly why: string;
}

/** Samples of a schema. */
export interface Samples<R = unknown> {
  /** Right values of the whole schema. */
  readonly valid: readonly R[];
  /** Values at the limits of each rule, if they were asked for. */
  readonly limits: readonly LimitSample<R>[];
  /** What could not be found. */
  readonly gaveUp: readonly GaveUp[];
}

/** How many changes a search makes at most to a value. */
const STEPS = 40;
/** How many right values rules are tried in. */
const MOST_BASES = 20;
/** How many values at the limits of one rule are tried. */
const MOST_LIMITS = 12;
/** How many changes of each right value a search tries for a rule that reads several fields, and for a condition, which takes longer. */
const TRIES = { rule: 300, condition: 60 } as const;

/** A field in a value: where it stands, and what is worth a try there. */
interface Place {
  readonly path: string;
  readonly part: FieldPart;
}

/** The same value with another one at a path. */
function put(whole: unknown, keys: readonly string[], value: unknown): unknown {
  const [key, ...rest] = keys;
  if (key === undefined) return value;
  if (Array.isArray(whole)) return whole.map((each, i) => (i === Number(key) ? put(each, rest, value) : (each as unknown)));
  const object = typeof whole === 'object' && whole !== null ? (whole as Readonly<Record<string, unknown>>) : {};
  return { ...object, [key]: put(object[key], rest, value) };
}

const at = (whole: unknown, path: string): unknown =>
  keysOf(path).reduce<unknown>((of, key) => (of as Readonly<Record<string, unknown>> | undefined)?.[key], whole);

/** The parts in a value, with their paths. */
function* partsIn(part: Part, raw: unknown, path = ''): Iterable<readonly [path: string, part: Part]> {
  yield [path, part];
  for (const piece of piecesOf(part, raw) ?? []) {
    yield* partsIn(piece.part, piece.raw, childPath(path, piece.key));
  }
}

/**
 * Makes samples of a schema, for tests: raw values that are right, and with `near: 'limits'` values that just pass and just fail each
 * rule, with the code that is expected. The same seed makes the same ones. It needs `fast-check`, for texts that match patterns.
 *
 * @param schema the schema
 * @param options how many, and whether those at the limits, too
 * @returns the samples, and what could not be found
 * @throws Error where `fast-check` is not installed
 *
 * @example
 * const { limits, gaveUp } = await samples(passage, { near: 'limits' });
 * for (const { raw, expected } of limits) console.log(expected, validate(passage, raw).findings);
 */
export async function samples<N extends Node>(schema: N, options: SampleOptions = {}): Promise<Samples<N[typeof RAW]>> {
  const { seed = 1, count = 10, near, context } = options;
  const fc = await loadGenerators('samples');
  const texts = textMaker(fc, seed);
  const root = partOf(schema);
  const gaveUp: GaveUp[] = [];
  const pools = new Map<FieldPart, readonly unknown[]>();
  /** What is worth a try in a field, what is right by its own rules first. */
  const poolFor = (part: FieldPart): readonly unknown[] => {
    const known = pools.get(part);
    if (known) return known;
    const { right, wrong } = poolOf(part, texts);
    const pool = [...right, ...wrong];
    pools.set(part, pool);
    return pool;
  };
  const findingsOf = (raw: unknown): readonly Finding[] =>
    validate(schema, raw as never, { async: 'skip', ...(context && { context }) }).findings;
  const errorsOf = (raw: unknown): readonly Finding[] => findingsOf(raw).filter(blocks);
  const placesIn = (raw: unknown): readonly Place[] =>
    [...partsIn(root, raw)].flatMap(([path, part]) => (isField(part) ? [{ path, part }] : []));
  /** What may stand at a place: what is worth a try there, and what its neighbours hold. */
  const triesAt = (raw: unknown, { path, part }: Place): readonly unknown[] => {
    const beside = at(raw, pathOf(keysOf(path).slice(0, -1)));
    const neighbours =
      typeof beside === 'object' && beside !== null ? Object.values(beside).filter((each) => typeof each === typeof part.emptyRaw) : [];
    return [...poolFor(part), ...(neighbours as readonly unknown[])];
  };

  /** Changes a value until no rule finds an error, field by field, each time where that helps most. */
  const repair = (start: unknown): unknown => {
    let raw = start;
    let errors = errorsOf(raw);
    for (let step = 0; step < STEPS && errors.length > 0; step += 1) {
      const [{ path }] = errors as [Finding];
      const places = placesIn(raw);
      const own = places.filter((place) => place.path === path || place.path.startsWith(`${path}.`));
      const around = pathOf(keysOf(path).slice(0, -1));
      const others = places.filter((place) => !own.includes(place) && place.path.startsWith(around));
      let best: readonly [raw: unknown, errors: readonly Finding[]] | undefined;
      for (const place of [...own, ...others]) {
        for (const value of triesAt(raw, place)) {
          const next = put(raw, keysOf(place.path), value);
          const left = errorsOf(next);
          if (left.length < (best?.[1] ?? errors).length) best = [next, left];
        }
        if (best) break;
      }
      if (!best) return undefined;
      [raw, errors] = best;
    }
    return errors.length === 0 ? raw : undefined;
  };

  const drawn = fc.sample(arbitraryIn(root, fc, texts), { seed, numRuns: Math.max(20, count * 3) });
  const valid: unknown[] = [];
  let last: readonly Finding[] = [];
  for (const raw of drawn) {
    if (valid.length >= Math.max(count, 5)) break;
    const right = repair(raw);
    if (right === undefined) last = errorsOf(raw);
    else if (!valid.some((known) => sameValue(known, right))) valid.push(right);
  }
  if (valid.length === 0)
    gaveUp.push({
      path: last[0]?.path ?? '',
      rule: last[0]?.code ?? '',
      what: 'value',
      why: `none of ${drawn.length} values could be made right`,
    });

  const limits: LimitSample[] = [];
  if (near === 'limits') {
    // (More of them, so that each case of an either-or is there, and what applies only sometimes.)
    const bases = [...valid, ...drawn.slice(0, MOST_BASES).flatMap((raw) => repair(raw) ?? [])];
    const goals = new Map<Part, Map<AnyRule, Goal>>();
    const goalFor = (path: string, part: Part, rule: AnyRule): Goal => {
      const own = goals.get(part) ?? new Map<AnyRule, Goal>();
      goals.set(part, own);
      const goal = own.get(rule) ?? { path, rule, codes: new Set(), tries: 0 };
      own.set(rule, goal);
      return goal;
    };
    /** Notes a value if it is news: a code that the rule has not reported yet, or that it passes. */
    const add = (goal: Goal, path: string, raw: unknown, code: string | undefined, isNews = !goal.codes.has(code)): void => {
      goal.codes.add(code);
      if (isNews) limits.push({ path, rule: goal.rule.name, raw, expected: code });
    };
    const search = (goal: Goal, path: string, changes: Iterable<unknown>, codeOf: (raw: unknown) => string | undefined): void => {
      const most = goal.tries + TRIES.rule;
      for (const raw of changes) {
        if (isReached(goal) || goal.tries >= most) return;
        goal.tries += 1;
        const code = codeOf(raw);
        if (code !== undefined || errorsOf(raw).length === 0) add(goal, path, raw, code);
      }
    };
    /** The rules of a field itself: at their limits, else with whatever is worth a try. */
    const searchField = (path: string, part: FieldPart, rule: AnyRule, base: unknown): void => {
      const goal = goalFor(path, part, rule);
      if (isReached(goal)) return;
      const codeOf = (value: unknown, raw: unknown): string | false | undefined => {
        const found = findIn(part, value);
        if (found.length === 0) return errorsOf(raw).length === 0 && value !== part.emptyRaw ? undefined : false;
        return found.length === 1 && found[0]!.rule === rule ? (codeAt(findingsOf(raw), path) ?? false) : false;
      };
      const atLimits = limitsOf(part, rule, texts).slice(0, MOST_LIMITS);
      for (const value of new Set([...atLimits, at(base, path), ...poolFor(part)])) {
        const raw = put(base, keysOf(path), value);
        const code = codeOf(value, raw);
        goal.tries += 1;
        if (code !== false) add(goal, path, raw, code, atLimits.includes(value) || !goal.codes.has(code));
      }
    };
    const addAcross = (path: string, { clauses: { fieldRules, conditions } }: GroupPart, base: unknown): void => {
      const whole = (way: readonly string[]): string => pathOf([...keysOf(path), ...way]);
      for (const { way, what } of fieldRules?.list ?? []) {
        const target = pathIn(whole(way), base);
        const part = target === undefined ? undefined : partIn(root, base, target);
        if (target === undefined || !part || what.async) continue;
        search(goalFor(target, part, what), target, variations(base, target), (raw) =>
          reportedBy(what, target, findingsOf(base), findingsOf(raw)),
        );
      }
      for (const condition of conditions?.list ?? []) {
        const target = pathIn(whole(condition.way), base);
        const part = target === undefined ? undefined : partIn(root, base, target);
        if (target === undefined || !part) continue;
        const goal = goalFor(target, part, CONDITION);
        const most = goal.tries + TRIES.condition;
        for (const raw of variations(base, target)) {
          if (isReached(goal) || goal.tries >= most) break;
          goal.tries += 1;
          if (errorsOf(raw).length > 0) continue;
          const key = appliesIn(schema, raw, target, context) ? undefined : 'not';
          if (!goal.codes.has(key)) limits.push({ path: target, rule: CONDITION.name, raw, expected: undefined });
          goal.codes.add(key);
        }
      }
    };
    /** Values that differ from a right one in one place at a path or below, or beside it; or in how many rows there are. */
    function* variations(base: unknown, path: string): Iterable<unknown> {
      yield base;
      const rows = at(base, path);
      if (Array.isArray(rows)) {
        const [first] = rows as readonly unknown[];
        for (let many = 0; many < 20 && (many <= rows.length || first !== undefined); many += 1)
          yield put(
            base,
            keysOf(path),
            Array.from({ length: many }, (_, i) => (rows[i] ?? first) as unknown),
          );
      }
      const around = pathOf(keysOf(path).slice(0, -1));
      const places = placesIn(base);
      const own = places.filter((place) => path === '' || place.path === path || place.path.startsWith(`${path}.`));
      const beside = places.filter((place) => !own.includes(place) && place.path.startsWith(around));
      for (const place of [...own, ...beside]) for (const value of triesAt(base, place)) yield put(base, keysOf(place.path), value);
    }

    for (const base of bases)
      for (const [path, part] of partsIn(root, base)) {
        for (const rule of part.ruleList) {
          if (rule.async) continue;
          if (isField(part) && (rule.test ?? rule.requires)) searchField(path, part, rule, base);
          else
            search(goalFor(path, part, rule), path, variations(base, path), (raw) =>
              reportedBy(rule, path, findingsOf(base), findingsOf(raw)),
            );
        }
        if (isGroup(part)) addAcross(path, part, base);
      }
    for (const { path, rule, codes, tries } of [...goals.values()].flatMap((of) => [...of.values()])) {
      const why = `not among ${tries} values`;
      if (!codes.has(undefined)) gaveUp.push({ path, rule: rule.name, what: 'pass', why });
      if (![...codes].some((code) => code !== undefined)) gaveUp.push({ path, rule: rule.name, what: 'fail', why });
    }
  }
  return { valid: valid.slice(0, count), limits, gaveUp };
}

/** What is looked for: a value that a rule passes (undefined), and one for each code that it reports. */
interface Goal {
  readonly path: string;
  readonly rule: AnyRule;
  readonly codes: Set<string | undefined>;
  tries: number;
}

/** What stands for the rule that a condition is. */
const CONDITION = { name: 'appliesWhen', params: {} } as unknown as AnyRule;

/** Whether enough was found. Of the limits of a list, both sides. */
const isReached = ({ codes, rule: { name, params } }: Goal): boolean => {
  const sides = name === 'length' && params['min'] !== undefined && params['max'] !== undefined ? 2 : 1;
  return codes.has(undefined) && codes.size > sides;
};

/** The part at a path of a value. */
const partIn = (root: Part, raw: unknown, path: string): Part | undefined => [...partsIn(root, raw)].find(([at]) => at === path)?.[1];

const codeAt = (findings: readonly Finding[], path: string): string | undefined => findings.find((finding) => finding.path === path)?.code;

/** The code that a rule reports in a value, at its path or below, and not in a right one. */
function reportedBy(rule: AnyRule, path: string, before: readonly Finding[], now: readonly Finding[]): string | undefined {
  const isOther = (finding: Finding): boolean => !before.some((each) => each.path === finding.path && each.code === finding.code);
  const fresh = now.filter(isOther).filter((finding) => finding.path === path || finding.path.startsWith(path === '' ? '' : `${path}.`));
  return fresh.find(({ code }) => codesOf(rule).includes(code) || !STANDARD.includes(code))?.code;
}

/** The codes that a rule may report, as far as that is known. */
export const codesOf = ({ code, name, definition }: AnyRule): readonly string[] =>
  code !== undefined ? [code] : definition ? [definition.name] : isRuleName(name) ? factsOf(name).codes : [];
/** What built-in rules report: nothing that a function of the author made up. */
const STANDARD: readonly string[] = ['badInput', 'unknown', ...Object.values(RULES).flatMap(({ codes }) => codes)];

/** A path with an index for each list on the way, if the value has a row there. */
function pathIn(path: string, raw: unknown): string | undefined {
  const keys: string[] = [];
  let value = raw;
  for (const key of keysOf(path)) {
    if (Array.isArray(value) && !/^\d+$/.test(key)) {
      if (value.length === 0) return undefined;
      keys.push('0');
      value = (value as readonly unknown[])[0];
    }
    keys.push(key);
    value = (value as Readonly<Record<string, unknown>> | undefined)?.[key];
  }
  return pathOf(keys);
}

/** Whether a part applies in a value. */
function appliesIn(schema: Node, raw: unknown, path: string, context: readonly ContextValue[] | undefined): boolean | undefined {
  const gate = makeGate(schema, { initial: raw, onFault: () => undefined, ...(context && { context }) });
  try {
    return gate.has(path) ? gate.field(path).applies : undefined;
  } finally {
    gate.dispose();
  }
}
