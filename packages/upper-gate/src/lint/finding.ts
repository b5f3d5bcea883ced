// A finding about a schema, and what makes one.

import { placeOf } from '#development';
import type { Place } from '../development/places.ts';
import { LINT_IDS, type LintId } from './ids.ts';
import type { Site } from './sites.ts';

/** Something that is wrong with a schema, or may be. */
export interface LintFinding {
  readonly id: LintId;
  /** `'error'`: it is wrong for certain. `'warning'`: it may be meant so. */
  readonly severity: 'error' | 'warning';
  /** The path of the part. Rows of lists, and entries of dictionaries, have no index in it: `crew.name`. `''` is the whole. */
  readonly path: string;
  /** The name of the rule that it is about. */
  readonly rule?: string;
  /** What is wrong. */
  readonly what: string;
  /** What comes of it. */
  readonly why: string;
  readonly fix: string;
  /** In how many samples it was seen, or not seen. Absent: proven from the declaration. */
  readonly samples?: number;
  /** Where it was declared, if that was recorded (`recordPlaces`). */
  readonly place?: Place;
}

/** What a check has found. */
export interface Found {
  readonly id: LintId;
  readonly site: Site;
  readonly what: string;
  readonly rule?: string;
  readonly samples?: number;
  /** What was declared: a rule, or else the part. */
  readonly declared?: object | undefined;
}

/** Makes the finding. What is only not seen is never certain. */
export function toLintFinding({ id, site, what, rule, samples, declared }: Found): LintFinding {
  const { severity, why, fix } = LINT_IDS[id];
  const place = placeOf(declared ?? site.part) ?? placeOf(site.part);
  return {
    id,
    severity: samples === undefined ? severity : 'warning',
    path: site.path,
    ...(rule !== undefined && { rule }),
    what,
    why,
    fix,
    ...(samples !== undefined && { samples }),
    ...(place && { place }),
  };
}
