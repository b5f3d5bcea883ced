// A field whose data is made from that of another.

import { DEV } from '#development';
import { assertUse } from '../assertUse.ts';
import { FieldPart, isField, isUnreadable, type Field } from '../field.ts';
import { nodeOf, partOf } from '../part.ts';
import type { AnyRule, AsyncCheckRun, RunnableAsync, RunnableRule } from '../rule.ts';

/** How data becomes other data, and back. */
export interface Mapping<T, U> {
  /** Converts the data of the field. If it throws, the finding is `crashed`, and a fault is reported. */
  readonly to: (data: T) => U;
  /** Converts back: for the rules of the field, and for its control. */
  readonly from: (data: U) => T;
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
 * @param mapping `to` makes the data, `from` leads back
 * @returns the field
 * @throws TypeError for a group or a list
 *
 * @example
 * const arrival = mapped(date('Arrival', required(), range({ min: 'today' })), {
 *   to: (day) => new Date(`${day}T00:00Z`),
 *   from: (when) => when.toISOString().slice(0, 10),
 * }); // data: Date
 */
export function mapped<T, R, U>(
  field: Field<T, R>,
  mapping: Mapping<NonNullable<T>, U>,
): Field<undefined extends T ? U | undefined : U, R> {
  const { to, from } = mapping;
  const part = partOf(field);
  assertUse(isField(part), DEV && `mapped() takes a field. It got a ${part.kind}.`);
  const { spec, emptyData, emptyRaw, settings } = part;
  const isOther = (value: unknown): boolean => value === undefined || value === emptyData || isUnreadable(value);
  const convert = (value: unknown): unknown => (isOther(value) ? value : to(value as NonNullable<T>));
  // What is of the type of an empty control is what a control holds; everything else is data, numbers too.
  const isRaw = (value: unknown): boolean => typeof value === typeof emptyRaw && Array.isArray(value) === Array.isArray(emptyRaw);
  const { default: standard } = settings;
  const write = (value: unknown, locale: string): unknown => {
    const original = isRaw(value) ? value : from(value as U);
    return spec.write ? spec.write(original, locale) : original;
  };
  return nodeOf(
    new FieldPart(
      {
        ...spec,
        isMapped: true,
        read: (raw, locale) => convert(spec.read(raw, locale)),
        ...(spec.readJson && { readJson: (raw: unknown) => convert(spec.readJson!(raw)) }),
        write,
      },
      {
        ...settings,
        default: typeof standard === 'function' ? () => convert((standard as () => unknown)()) : convert(standard),
      },
      part.ruleList.map((rule) => onOriginal(rule, mapping)),
    ),
  );
}
