// Schemas of other libraries (`~standard`) as rules: what they get of a part, and where their issues go.

import { pathOf } from '../schema/finding.ts';
import { DEV, explain, warnOnce } from '#development';
import { groupRules } from '../clauses/groupRules.ts';
import { sortByPath } from '../evaluate/order.ts';
import { walkRule } from '../evaluate/walkRule.ts';
import { asyncCheck, type AsyncCheckOptions } from '../rules/asyncCheck/asyncCheck.ts';
import { check, toResult, type CheckFinding } from '../rules/crossField/check.ts';
import { inLanguage } from '../messages/text.ts';
import { assertUse } from '../schema/assertUse.ts';
import type { LiveNode } from '../schema/kit.ts';
import { group, type Fields, type Group, type GroupSettings } from '../schema/group.ts';
import type { LabelOr, Node } from '../schema/node.ts';
import { WAITING } from '../schema/noValue.ts';
import type { Part } from '../schema/part.ts';
import type { Rule, RuleBody } from '../schema/rule.ts';
import { atOnce, ownValue } from '../schema/safeAccess.ts';
import { blocks, type Severity } from '../schema/severity.ts';
import type { RuleOptions, Verdict } from '../schema/verdict.ts';
import type { Walker, WalkView } from '../schema/walker.ts';
import { verdictsIn } from '../evaluate/verdicts.ts';
import type { StandardIssue, StandardResult, StandardSchema } from './standardSchemaTypes.ts';

/** What `standardSchemaRule` and `asyncStandardSchemaRule` take beside what other rules take. */
export interface StandardRuleOptions {
  /** `'text'`: fields for text that are empty are handed to the schema as `''`. Default: they are left out. */
  readonly empty?: 'text';
}

/**
 * What the data of a part must have to be validated by a schema whose input is `In`: its names, whatever is under them. (A text may
 * be there for what the schema takes as a date: it says so.)
 */
export type NamesOf<In> = In extends Date | ((...args: never) => unknown)
  ? unknown
  : In extends readonly (infer R)[]
    ? readonly (NamesOf<R> | undefined)[]
    : In extends object
      ? { readonly [K in keyof In]: NamesOf<In[K]> | undefined }
      : unknown;

/** A part of a value that a schema validates, whoever runs it. */
interface Seen {
  readonly part: Part;
  readonly applies: boolean;
  /** A part in it. @param value what it holds: a variant has the fields of its case */
  find(key: string, value: unknown): Seen | undefined;
}

const inForm = (node: LiveNode<Part>): Seen => ({
  part: node.part,
  applies: node.applies,
  find(key) {
    const inner = node.child(key);
    return inner && inForm(inner);
  },
});

const inWalk = (part: Part, view: WalkView | undefined): Seen => ({
  part,
  applies: view?.applies ?? true,
  find(key, value) {
    const inner = part.locate?.(key, value)?.part;
    return inner && inWalk(inner, view?.find(key));
  },
});

/** What reading yields; `undefined` if there is no value. */
function orNothing<T>(read: () => T): T | undefined {
  try {
    return read();
  } catch (error) {
    if (error === WAITING) return undefined;
    throw error;
  }
}

/**
 * A copy of what can be read of a value, as it is now. A schema may read it after an `await`: all of it counts as read by the
 * rule, and all it reads belongs to one moment.
 */
function readableIn(value: unknown, seen: Seen | undefined, emptyText: boolean): unknown {
  const inner = (key: string): unknown => {
    const at = orNothing(() => seen?.find(key, value));
    const read = orNothing(() => readableIn((value as Readonly<Record<string, unknown>>)[key], at, emptyText));
    return read === undefined && emptyText && at?.applies && at.part.traits.measures === 'text' ? '' : read;
  };
  if (Array.isArray(value)) return Array.from(value.keys(), (index) => inner(String(index)));
  // Not dates, files and the like: these are values.
  if (typeof value !== 'object' || value === null || Object.getPrototypeOf(value) !== Object.prototype) return value;
  return Object.fromEntries(
    Object.keys(value)
      .map((key) => [key, inner(key)])
      .filter(([, read]) => read !== undefined),
  );
}

const keyOf = (segment: PropertyKey | { readonly key: PropertyKey }): string => String(typeof segment === 'object' ? segment.key : segment);

/** What an issue is about: the part, and what was handed to the schema. */
interface About {
  readonly schema: StandardSchema;
  readonly seen: Seen;
  readonly value: unknown;
}

/** The path of an issue, as far as there are fields: what is in the value of a field belongs to that. */
function pathOfIssue({ path = [] }: StandardIssue, { schema, seen, value }: About): string {
  const keys = path.map(keyOf);
  const way: string[] = [];
  let [at, held] = [seen, value];
  for (const key of keys) {
    if (!at.part.traits.hasParts) break;
    const inner = at.find(key, held);
    if (!inner) {
      warnOnce(seen.part, () => [
        explain(
          'issue-without-field',
          `The schema of "${schema['~standard'].vendor}" has an issue on "${keys.join('.')}", but "${inLanguage(seen.part.label, undefined)}" has no field of that name. It shows on the whole. Call the field as the schema does.`,
        ),
      ]);
      return pathOf(keys);
    }
    way.push(key);
    held = ownValue(held, key);
    at = inner;
  }
  return pathOf(way);
}

/** Validates at once. @throws TypeError for a schema that answers later */
export function validateAtOnce<Out>(schema: StandardSchema<unknown, Out>, value: unknown): StandardResult<Out> {
  const standard = schema['~standard'];
  const problem = `The schema of "${standard.vendor}" validates asynchronously, so it cannot be a field or a standardSchemaRule(). Use asyncStandardSchemaRule() instead.`;
  // (What is a promise was thrown.)
  return atOnce(standard.validate(value), problem) as StandardResult<Out>;
}

/** The issues of a result, each with the path of the part that it is about. Without a part, all are about the value itself. */
export const issuesIn = ({ issues = [] }: StandardResult<unknown>, about?: About): readonly CheckFinding[] =>
  issues.map((issue) => ({ message: issue.message, path: about ? pathOfIssue(issue, about) : '' }));

/** A rule that knows the part it runs on. @param bodyFor what it is then. (On a field by itself, a rule knows only the value.) */
function seeing<V>(rule: Rule<V>, bodyFor: (see: () => Seen) => Pick<RuleBody<never, never>, 'test' | 'async'>): Rule<V> {
  const { attach, walk = walkRule } = rule;
  return {
    ...rule,
    attach: (own, node, scope, order) => attach!({ ...own, ...bodyFor(() => inForm(node as LiveNode<Part>)) }, node, scope, order),
    walk(own, part, data, walker, scopes) {
      const from = walker.entries.length;
      // (Now: an async rule runs when the walk is over.)
      const seen = inWalk(part as Part, walker.view);
      walk({ ...own, ...bodyFor(() => seen) }, part, data, walker, scopes);
      giveWay(walker, from);
    },
  };
}

/** What a walk reports: findings, and faults, which have no severity. */
interface Reported {
  readonly path: string;
  readonly severity?: Severity;
}

const givingWay = new WeakMap<Walker, Set<object>>();

/** Has what was reported from an entry on give way to other errors on the same field, once all are known. */
function giveWay(walker: Walker, from: number): void {
  const added = walker.entries.slice(from).filter(({ path }) => path !== '');
  if (added.length === 0) return;
  const before = givingWay.get(walker);
  const all = before ?? new Set();
  added.forEach((entry) => all.add(entry));
  if (before) return;
  givingWay.set(walker, all);
  walker.sort = (entries: Reported[], root: Part) => {
    sortByPath(entries, root);
    const taken = new Set(
      entries.filter((entry) => !all.has(entry) && entry.severity && blocks({ severity: entry.severity })).map(({ path }) => path),
    );
    const kept = entries.filter((entry) => !all.has(entry) || !taken.has(entry.path));
    entries.length = 0;
    kept.forEach((entry) => entries.push(entry));
  };
}

/** The rule of a schema, and what it hands to the schema. */
interface Handing {
  /** The rest: what other rules take. */
  readonly options: object;
  readonly emptyText: boolean;
}

function handing(options: { readonly empty?: unknown } | string | undefined): Handing {
  const { empty, ...rest } = typeof options === 'string' ? { message: options } : (options ?? {});
  assertUse(empty === undefined || empty === 'text', DEV && `The option empty is 'text', or left out. It got ${JSON.stringify(empty)}.`);
  return { options: rest, emptyText: empty === 'text' };
}

/**
 * Uses a schema of another library as a rule: on a field, on a group (`groupRules()`), on a list, or on the whole form. Its
 * issues become findings on the fields that their paths name (code `customError`). It runs on what can be read, whatever else is
 * wrong: what is missing is left out. On a field that has an error of another rule already, its issues are dropped. Converted values are
 * not used.
 *
 * @param schema the schema; the names of its input must be those of the group
 * @param options what every rule takes, and `empty: 'text'`: empty fields for text are handed over as `''`
 * @returns the rule
 * @throws (as a `crashed` finding) TypeError for a schema that answers later
 *
 * @example
 * group({ from: date('From'), to: date('To') }).with(groupRules(standardSchemaRule(stay)))
 */
export function standardSchemaRule<In>(
  schema: StandardSchema<In, unknown>,
  options?: (RuleOptions & StandardRuleOptions) | string,
): Rule<NamesOf<In>> {
  const { options: rest, emptyText } = handing(options);
  const validate = (value: unknown, see?: () => Seen): readonly CheckFinding[] => {
    const seen = see?.();
    const given = readableIn(value, seen, emptyText);
    return issuesIn(validateAtOnce(schema, given), seen && { schema, seen, value: given });
  };
  return seeing(
    check((value: unknown) => validate(value), rest),
    (see) => ({
      test: (value: unknown) =>
        verdictsIn(toResult(validate(value, see))).map((verdict): Verdict => (verdict.path ? { ...verdict, givesWay: true } : verdict)),
    }),
  );
}

/**
 * Uses a schema of another library that may answer asynchronously as an async rule; see `asyncCheck`. It gets a copy of what can be read
 * of the value, and runs again when anything in it changes.
 *
 * @param schema the schema; the names of its input must be those of the group
 * @param options those of `asyncCheck`, and `empty: 'text'`: empty fields for text are handed over as `''`
 * @returns the rule
 *
 * @example
 * text('Registration', asyncStandardSchemaRule(registered, { debounce: 400 }))
 */
export function asyncStandardSchemaRule<In>(
  schema: StandardSchema<In, unknown>,
  options?: (AsyncCheckOptions & StandardRuleOptions) | string,
): Rule<NamesOf<In>> {
  const { options: rest, emptyText } = handing(options);
  const validate = async (value: unknown, see?: () => Seen): Promise<readonly CheckFinding[]> => {
    const seen = see?.();
    const given = readableIn(value, seen, emptyText);
    return issuesIn(await schema['~standard'].validate(given), seen && { schema, seen, value: given });
  };
  const rule = asyncCheck((value: unknown) => validate(value), rest);
  return seeing(rule, (see) => ({ async: { ...rule.async!, run: async (value: unknown) => toResult(await validate(value, see)) } }));
}

/** The data that a field may have where the input of a schema is `In`: that, or nothing. */
export type DataFor<In> = In extends Date | ((...args: never) => unknown)
  ? In | undefined
  : In extends readonly (infer R)[]
    ? readonly DataFor<R>[] | undefined
    : In extends object
      ? { readonly [K in keyof In]: DataFor<In[K]> } | undefined
      : In | undefined;

/** The fields of a form whose data a schema with the input `In` validates: of its names, and fit for its types. */
export type FieldsFor<In> = { readonly [K in keyof In]: Node<DataFor<In[K]>> };

/**
 * Makes a group whose rules are those of a schema of another library: its fields say how they are labelled and which kind they are, no
 * more. Names and types are those of the schema's input, else it does not compile. Empty fields for text are handed over as `''`.
 *
 * Give `required()` to the fields that the schema requires: a schema cannot be asked for them, and users need the mark. If a rule of a
 * field finds an error, the schema's issues on that field are dropped.
 *
 * @param schema the schema, which must answer at once
 * @param fields the fields, by the names of its input
 * @param settings the label of the group, or label and settings
 * @returns the group
 *
 * @example
 * const booking = groupFor(bookingSchema, { vessel: text('Vessel', required()), berths: number('Berths') });
 */
export const groupFor = <In, F extends FieldsFor<In> & Fields>(
  schema: StandardSchema<In, unknown>,
  fields: F & { readonly [K in Exclude<keyof F, keyof In>]: 'The schema has no such name' },
  settings?: LabelOr<GroupSettings>,
): Group<F> => group<F>(fields, settings).with(groupRules(standardSchemaRule<unknown>(schema, { empty: 'text' })));
