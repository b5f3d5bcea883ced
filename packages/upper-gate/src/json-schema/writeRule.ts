// A rule, as a document has it: keywords, and an entry of `gate.rules`.

import { ASYNC_DEFAULTS } from '../rules/asyncCheck/asyncCheck.ts';
import { isBlocking, type AnyRule, type AuthorFunction } from '../schema/rule.ts';
import { isRuleName } from '../schema/vocabulary.ts';
import { entriesOf, isObject, JsonSchemaError, omit, type JsonObject } from './document.ts';
import { OPTION_KEYS, rowOf, WAIT_KEYS } from './ruleTable.ts';

/** A rule in `gate.rules`: its name, or its name with params and options. */
export type RuleEntry = string | (JsonObject & { readonly rule: string });

/** Finds the name of a function; throws where it has none. */
export interface Names {
  nameOf(of: AuthorFunction, given: string | undefined, at: string): string;
}

/** What an author writes as text or data; functions cannot be written down. */
export function asText(value: unknown, at: string, what: string): unknown {
  if (typeof value !== 'function') return value;
  throw new JsonSchemaError(at, `${what} is a function, which JSON cannot hold. Use a text with slots instead: '{label} needs {min}'.`);
}

/** Whether an entry is about what is further in: an object of entries, and no rule. */
export const isNested = (entry: unknown): entry is Record<string, unknown> => isObject(entry) && typeof entry['rule'] !== 'string';

/** A rule as written. */
export interface WrittenRule {
  /** The keywords that carry it. */
  readonly keywords: JsonObject;
  /** The keywords that could: two rules do not share them in one place. */
  readonly family: readonly string[];
  /** Its entry in `gate.rules`. */
  readonly entry: RuleEntry;
}

/**
 * Writes a rule.
 *
 * @param type the JSON type of the value that it validates; `''`: everything is in the entry
 */
export function writeRule(rule: AnyRule, type: string, at: string, names: Names): WrittenRule {
  const params: Record<string, unknown> = {};
  for (const [param, value] of Object.entries(rule.params))
    if (param !== 'otherLabel' && value !== undefined && value !== false && value !== '' && Math.abs(value as number) !== Infinity)
      params[param] = value;
  const options: Record<string, unknown> = {};
  for (const [key, option] of entriesOf(OPTION_KEYS))
    if (rule[option] !== undefined) options[key] = asText(rule[option], at, `the ${option} of the rule ${rule.name}`);
  const keywords: Record<string, unknown> = {};
  let family: readonly string[] = [];
  let carried: readonly string[] = [];
  const row = rowOf(rule.name, rule.definition);
  if (rule.moving || (!row && isRuleName(rule.name))) {
    params['check'] = names.nameOf(rule.author!, rule.async?.name, at);
    for (const [key, setting] of entriesOf(WAIT_KEYS))
      if (rule.async && rule.async[setting] !== ASYNC_DEFAULTS[setting]) params[key] = rule.async[setting];
  } else if (!row) {
    throw new JsonSchemaError(at, `there is no rule "${rule.name}".`);
    // A keyword would refuse what the rule only warns of.
  } else if (type !== '' && isBlocking(rule)) {
    const { carry, whole, keywords: state, akin = [] } = row.writing;
    const parts = Object.entries(carry?.(type, params) ?? {});
    carried = whole === undefined ? parts.map(([param]) => param) : Object.keys(params);
    if (whole !== undefined) keywords[whole] = { ...params };
    Object.assign(keywords, state?.(type, params));
    family = [...Object.keys(keywords), ...parts.map(([, keyword]) => keyword), ...akin];
    for (const [param, keyword] of parts) if (params[param] !== undefined) keywords[keyword] = params[param];
  }
  const entry = { rule: rule.name, ...omit(params, carried), ...options };
  return { keywords, family, entry: Object.keys(entry).length === 1 ? rule.name : entry };
}
