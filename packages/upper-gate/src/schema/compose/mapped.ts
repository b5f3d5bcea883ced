// A field whose data is made from that of another.

import { DEV, devObject } from '#development';
import { assertUse } from '../assertUse.ts';
import { FieldPart, isField, isUnreadable, UNREADABLE, type Field } from '../field.ts';
import { sameList } from '../choice.ts';
import type { Json } from '../json.ts';
import { nodeOf, partOf } from '../part.ts';
import type { AnyRule, AsyncCheckRun, RunnableAsync, RunnableRule } from '../rule.ts';
import { atOnce, INACCESSIBLE } from '../safeAccess.ts';
import type { JsonType } from '../traits.ts';
import { readBack, type Travelling } from '../travel.ts';

/** How data becomes other data, and back. */
export interface Mapping<T, U> extends Travelling<U> {
  /** Converts the data of the field. If it throws, the finding is `crashed`, and a fault is reported. */
  readonly to: (data: T) => U;
  /** Converts back: for the rules of the field, and for its control. */
  readonly from: (data: U) => T;
  /** The type of the data in JSON, for documents. Default `'any'`. */
  readonly json?: JsonType;
  /** The TypeScript type of the data, as text: for `upper-gate convert --to types`. Default `'unknown'`. */
  readonly type?: string;
}

/** A mapping as rules see it, whatever it converts. */
interface AnyMapping {
  from(this: void, data: unknown): unknown;
}

/** A rule on the data that was there before. */
function onOriginal(rule: AnyRule, mapping: AnyMapping): AnyRule {
  const { from } = mapping;
  const { async: spec } = rule;
  const { test, moving }: RunnableRule = rule;
  const { run }: Partial<RunnableAsync> = spec ?? {};
  return {
    ...rule,
    ...(test && {
      test: (value: unknown, siblings: unknown, now: () => Date, beside: unknown) => test(from(value), siblings, now, beside),
    }),
    ...(spec && run && { async: { ...spec, run: (value: unknown, context: AsyncCheckRun<unknown>) => run(from(value), context) } }),
    ...(moving && {
      moving: (siblings: unknown, beside: unknown) => {
        const now = moving(siblings, beside);
        return now && onOriginal(now, mapping);
      },
    }),
  };
}

/**
 * Makes a field that converts the data of another: a text to a `Date`, euros to cents. Its rules run on the data before the
 * conversion; rules of the group get the converted data.
 *
 * @param field with its rules; not a group or a list. A form distinguishes raw values (text, for most kinds) from new data by type
 * @param mapping `to` makes the data, `from` leads back; `toJson` and `fromJson` where the data are no JSON
 * @returns the field
 * @throws TypeError for a group or a list
 *
 * @example
 * const arrival = mapped(date('Arrival', required(), range({ min: 'today' })), {
 *   to: (day) => new Date(`${day}T00:00Z`),
 *   from: (when) => when.toISOString().slice(0, 10),
 *   toJson: (when) => when.toISOString(),
 *   fromJson: (text) => new Date(String(text)),
 * }); // data: Date
 */
export function mapped<T, R, U>(
  field: Field<T, R>,
  mapping: Mapping<NonNullable<T>, U>,
): Field<undefined extends T ? U | undefined : U, R> {
  devObject(mapping, 'mapped() takes how data are made, and lead back: mapped(number("Toll"), { to, from })');
  const { to, from, toJson, fromJson, json = 'any', type = 'unknown' } = mapping;
  const part = partOf(field);
  assertUse(isField(part), DEV && `mapped() takes a field. It got a ${part.kind}.`);
  const { emptyData, emptyRaw, settings } = part;
  // How the data of the field travel is not how those that are made of them do.
  const { writeJson, ...spec } = part.spec;
  const isOther = (value: unknown): boolean => value === undefined || value === emptyData || isUnreadable(value);
  const convert = (value: unknown): unknown => (isOther(value) ? value : to(value as NonNullable<T>));
  // What is of the type of an empty control is what a control holds; everything else is data, numbers too.
  const isRaw = (value: unknown): boolean => typeof value === typeof emptyRaw && Array.isArray(value) === Array.isArray(emptyRaw);
  const { default: standard } = settings;
  const { write: writeOriginal } = spec;
  const write = (value: unknown, locale: string): unknown =>
    !isRaw(value) ? writeData(value, locale) : writeOriginal ? writeOriginal(value, locale) : value;
  const writeData = (data: unknown, locale: string): unknown => {
    const original: unknown = atOnce(from(data as U));
    const how = spec.writeData ?? writeOriginal;
    return how ? how(original, locale) : original;
  };
  /** Data lead back to what they were made of, which must be data of the field. */
  const there = (data: unknown): unknown => {
    const original: unknown = atOnce(from(data as U));
    const { readJson } = spec;
    return convert(
      readJson
        ? readJson(writeJson ? writeJson(original) : original)
        : spec.read(writeOriginal ? writeOriginal(original, 'en') : original, 'en'),
    );
  };
  /** (Nothing is not converted, on neither way.) */
  const isNothing = (given: unknown): boolean => (Array.isArray(emptyData) ? sameList(given, emptyData) : given === emptyData);
  const readJson = (given: unknown): unknown => {
    if (given === undefined || given === null || isNothing(given)) return emptyData;
    if (given === INACCESSIBLE) return UNREADABLE;
    if (!fromJson) return readBack(given, there, UNREADABLE);
    const data = atOnce(fromJson(given as Json));
    return isUnreadable(data) ? data : there(data);
  };
  return nodeOf(
    new FieldPart(
      {
        ...spec,
        mapped: { json, type },
        read: (raw, locale) => convert(spec.read(raw, locale)),
        readJson,
        ...(toJson && { writeJson: toJson as (data: unknown) => unknown }),
        write,
        writeData,
      },
      {
        ...settings,
        default: typeof standard === 'function' ? () => convert((standard as () => unknown)()) : convert(standard),
      },
      part.ruleList.map((rule) => onOriginal(rule, mapping)),
    ),
  );
}
