// How a whole value of a field is walked: read, then validated by its own rules.

import { dataRead, evaluateField, readValue } from '../evaluate/field.ts';
import type { FieldPart } from '../schema/field.ts';
import { NO_VALUE } from '../schema/noValue.ts';
import type { Walker } from '../schema/walker.ts';

export function walkField(part: FieldPart, raw: unknown, walk: Walker): unknown {
  const value = readValue(part, raw, walk);
  const found = evaluateField(part, value, walk);
  for (let i = 0; i < found.length; i += 1) walk.report(part, found[i]!.rule, found[i]!.verdict);
  if (value !== undefined && found.length === 0 && part.attached.length === 0) return value;
  const data = dataRead(part, value);
  if (data === NO_VALUE) walk.missing += 1;
  else for (const rule of part.attached) rule.walk!(rule, part, data, walk);
  return data;
}
