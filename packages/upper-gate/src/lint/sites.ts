// Where things stand in a schema: each part once, with the rules and conditions that groups around it put on it.

import { childPath } from '../schema/finding.ts';
import { isDictionary } from '../schema/dictionary/dictionary.ts';
import { isGroup, type Predicate } from '../schema/group.ts';
import { isList } from '../schema/list/list.ts';
import type { Part } from '../schema/part.ts';
import type { AnyRule } from '../schema/rule.ts';
import { isVariant } from '../schema/variant/variant.ts';

/** A part of a schema, at one place. */
export interface Site {
  /** Its path, without the indices of rows and the keys of entries. */
  readonly path: string;
  readonly part: Part;
  readonly around: Site | undefined;
  /** What clauses of groups further out call it; undefined where they pass through it, as through the rows of a list. */
  readonly name: string | undefined;
  readonly inner: readonly Site[];
  /** Its own rules, then those that groups put on it. */
  readonly rules: readonly PlacedRule[];
  readonly conditions: readonly PlacedCondition[];
}

/** A rule on a part. */
export interface PlacedRule {
  readonly rule: AnyRule;
  readonly site: Site;
  /** The part that declares it. */
  readonly by: Site;
}

/** A condition of a part. */
interface PlacedCondition {
  readonly when: Predicate;
  readonly site: Site;
  readonly by: Site;
}

interface Growing extends Site {
  readonly inner: Growing[];
  readonly rules: PlacedRule[];
  readonly conditions: PlacedCondition[];
}

/** The parts in a part, with their names and the ends of their paths. */
function innerOf(part: Part): readonly { readonly part: Part; readonly key?: string; readonly name?: string }[] {
  if (isGroup(part)) return part.keys.map((key, i) => ({ part: part.parts[i]!, key, name: key }));
  if (isList(part) || isDictionary(part)) return [{ part: part.part.row?.() ?? part.part }];
  if (isVariant(part))
    return [{ part: part.chooser, key: part.key, name: '' }, ...Object.entries(part.cases).map(([name, group]) => ({ part: group, name }))];
  return [];
}

/** The site that a clause of a group names. */
function inside(site: Growing | undefined, name: string): Growing | undefined {
  if (!site) return undefined;
  const found = site.inner.find((each) => each.name === name);
  return (
    found ??
    inside(
      site.inner.find((each) => each.name === undefined),
      name,
    )
  );
}

/** All parts of a schema with their places. A part within itself is followed once. */
export function sitesOf(root: Part): readonly Site[] {
  const all: Growing[] = [];
  const visit = (part: Part, path: string, around: Growing | undefined, name: string | undefined): Growing => {
    const site: Growing = { path, part, around, name, inner: [], rules: [], conditions: [] };
    all.push(site);
    for (const rule of part.ruleList) site.rules.push({ rule, site, by: site });
    for (const inner of innerOf(part)) {
      let isEntered = false;
      for (let at: Site | undefined = site; at; at = at.around) isEntered ||= at.part === inner.part;
      if (!isEntered) site.inner.push(visit(inner.part, inner.key === undefined ? path : childPath(path, inner.key), site, inner.name));
    }
    return site;
  };
  visit(root, '', undefined, undefined);
  for (const by of all) {
    if (!isGroup(by.part)) continue;
    const { fieldRules, conditions } = by.part.clauses;
    const at = (way: readonly string[]): Growing | undefined => way.reduce<Growing | undefined>(inside, by);
    for (const { way, what } of fieldRules?.list ?? []) {
      const site = at(way);
      site?.rules.push({ rule: what, site, by });
    }
    for (const { way, what } of conditions?.list ?? []) {
      const site = at(way);
      site?.conditions.push({ when: what, site, by });
    }
  }
  return all;
}

/** What stands in a path in place of rows and entries. */
const isPassedThrough = (part: Part | undefined): boolean => part !== undefined && (isList(part) || isDictionary(part));

/** A node of a live form, as far as its place goes. */
interface Placed {
  readonly part: Part;
  readonly parent: Placed | undefined;
  readonly key: string;
}

/** The path of a node of a live form, as sites have it. */
export const sitePath = ({ parent, key }: Placed): string =>
  parent === undefined ? '' : isPassedThrough(parent.part) ? sitePath(parent) : childPath(sitePath(parent), key);
