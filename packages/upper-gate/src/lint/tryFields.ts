// Runs the rules of single fields on what these are tried with, one by one.

import { evaluateField, readValue } from '../evaluate/field.ts';
import { verdictsIn } from '../evaluate/verdicts.ts';
import type { ContextToken } from '../schema/context/context.ts';
import { swapSource } from '../schema/context/running.ts';
import { isField, type FieldPart } from '../schema/field.ts';
import { WAITING } from '../schema/noValue.ts';
import type { AnyRule } from '../schema/rule.ts';
import type { Courses } from './courses.ts';
import { NOW } from './now.ts';
import type { Pools } from './pools.ts';
import type { Site } from './sites.ts';

/** How many values of one field are tried. */
const MOST = 240;

function tryField(site: Site, part: FieldPart, raw: unknown, courses: Courses): void {
  let hasWaited = false;
  let fault: unknown;
  const source = {
    readContext(of: object): unknown {
      const token = of as ContextToken;
      const given = courses.context.find((each) => each.token === (token as unknown));
      if (courses.knows(token, site.path)) return given ? given.value : token.fallback;
      hasWaited = true;
      throw WAITING;
    },
  };
  const evaluation = {
    now: NOW,
    fault: (error: unknown) => void (fault = error),
    ran: (rule: object, result: unknown) => {
      const course = courses.of(rule as AnyRule, site);
      if (course && !hasWaited && fault === undefined) courses.note(course, verdictsIn(result as never));
      else if (course && fault !== undefined) course.thrown ??= { error: fault, raw };
      courses.clock.take();
      hasWaited = false;
      fault = undefined;
    },
  };
  const outer = swapSource(source);
  try {
    const value = readValue(part, raw, evaluation);
    courses.clock.watch(() => evaluateField(part, value, evaluation));
  } finally {
    swapSource(outer);
  }
}

/** Tries all fields. */
export function tryFields(sites: readonly Site[], pools: Pools, courses: Courses): void {
  for (const site of sites) {
    const { part, rules } = site;
    if (!isField(part)) continue;
    for (const raw of pools.of(site).slice(0, MOST)) tryField(site, part, raw, courses);
    for (const { rule, by } of rules) if (by === site) courses.of(rule, site)!.isSearched = true;
  }
}
