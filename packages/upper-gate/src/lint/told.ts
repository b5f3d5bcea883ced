// How findings call parts, rules and values.

import { inLanguage } from '../messages/text.ts';
import type { AnyRule } from '../schema/rule.ts';
import { ownName } from '../trace/entries.ts';
import type { Site } from './sites.ts';

/** A value in a sentence. */
export function quoted(value: unknown): string {
  try {
    const text = JSON.stringify(value) as string | undefined;
    return text === undefined ? String(value) : text.length > 60 ? `${text.slice(0, 59)}…` : text;
  } catch {
    return 'a value';
  }
}

/** A part by its label. */
export const labelled = ({ part, path }: Site): string => (path === '' ? 'the whole' : quoted(inLanguage(part.label, undefined)));

/** A rule by its name, and that of its function. */
export const called = (rule: AnyRule): string => {
  const name = ownName(rule);
  return name === undefined ? `${rule.name}()` : `${rule.name}(${name})`;
};

/** A rule as it was declared, as far as its params say. */
export function written(rule: AnyRule): string {
  const { name, params } = rule;
  if (rule.author) return called(rule);
  if (typeof params['pattern'] === 'string') return `pattern(/${params['pattern']}/${String(params['flags'])})`;
  if (typeof params['other'] === 'string') return `${name}(${quoted(params['other'])})`;
  if (Array.isArray(params['options'])) return `${name}(${quoted(params['options'])})`;
  const given = Object.entries(params).filter(([key, value]) => value !== undefined && value !== false && key !== 'otherLabel');
  return given.length === 0 ? `${name}()` : `${name}({ ${given.map(([key, value]) => `${key}: ${quoted(value)}`).join(', ')} })`;
}
