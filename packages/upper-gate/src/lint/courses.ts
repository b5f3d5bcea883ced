// What was seen of rules and conditions on samples.

import { textFor, type Catalogue } from '../messages/text.ts';
import type { ContextToken, ContextValue } from '../schema/context/context.ts';
import type { AnyRule } from '../schema/rule.ts';
import type { Verdict } from '../schema/verdict.ts';
import { WatchedClock } from './clock.ts';
import type { PlacedRule, Site } from './sites.ts';

/** What a rule has done. */
export interface RuleCourse {
  readonly placed: PlacedRule;
  passes: number;
  fails: number;
  /** Whether it was looked for what has not been seen. */
  isSearched: boolean;
  /** The codes that it has reported without a message of their own. */
  readonly codes: Set<string>;
  /** Whether it has read all rows of the list that it is in. */
  isSquare: boolean;
  readsClock: boolean;
  /** What it threw first, and on which value. */
  thrown?: { readonly error: unknown; readonly raw: unknown };
}

/** What the conditions of a part have come to. */
export interface ConditionCourse {
  readonly site: Site;
  held: number;
  runs: number;
  isSearched: boolean;
  readsClock: boolean;
  /** The paths of the parts whose conditions read each other, this one among them. */
  circle?: readonly string[];
}

/** From how many samples on something that was never seen is told. */
const ENOUGH = 8;

/** Whether it was tried often enough to tell what was never seen. */
export const isTried = (course: RuleCourse | ConditionCourse): boolean =>
  course.isSearched && ('runs' in course ? course.runs : course.passes + course.fails) >= ENOUGH;

export class Courses {
  readonly #rules = new Map<AnyRule, RuleCourse[]>();
  readonly conditions: ReadonlyMap<Site, ConditionCourse>;
  /** The facts that were read, but are neither given nor have a fallback, with the paths of those that read them. */
  readonly lacking = new Map<ContextToken, Set<string>>();
  /** The private parts whose values were found in messages, with the path of the message. */
  readonly told = new Map<Site, string>();
  readonly clock = new WatchedClock();
  readonly context: readonly ContextValue[];
  readonly catalogue: Catalogue | undefined;

  constructor(sites: readonly Site[], context: readonly ContextValue[], catalogue: Catalogue | undefined) {
    this.context = context;
    this.catalogue = catalogue;
    for (const placed of sites.flatMap(({ rules }) => rules)) {
      const all = this.#rules.get(placed.rule) ?? [];
      this.#rules.set(placed.rule, all);
      all.push({ placed, passes: 0, fails: 0, isSearched: false, codes: new Set(), isSquare: false, readsClock: false });
    }
    this.conditions = new Map(
      sites
        .filter((site) => site.conditions.length > 0)
        .map((site): [Site, ConditionCourse] => [site, { site, held: 0, runs: 0, isSearched: false, readsClock: false }]),
    );
  }

  get rules(): readonly RuleCourse[] {
    return [...this.#rules.values()].flat();
  }

  /** The course of a rule at a place. */
  of(rule: AnyRule, site: Site | undefined): RuleCourse | undefined {
    return this.#rules.get(rule)?.find(({ placed }) => placed.site === site);
  }

  /** Notes what a rule has reported. */
  note(course: RuleCourse, verdicts: readonly Verdict[]): void {
    course.readsClock ||= this.clock.take();
    if (verdicts.length === 0) course.passes += 1;
    else course.fails += 1;
    for (const { code, message, text } of verdicts)
      if (message === undefined && (text === undefined || textFor(this.catalogue, code) === undefined)) course.codes.add(code);
  }

  /** Whether a fact is known: given, or by its fallback. Notes it otherwise. */
  knows(token: ContextToken, path: string | undefined): boolean {
    if (token.hasFallback || this.context.some((each) => each.token === (token as unknown))) return true;
    const paths = this.lacking.get(token) ?? new Set();
    this.lacking.set(token, paths);
    if (path !== undefined) paths.add(path);
    return false;
  }
}
