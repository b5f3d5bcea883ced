// Lists: any number of fields, groups or lists of one kind.

import { badValue } from '../messages/enEnter.ts';
import { walkPart } from './walkPart.ts';
import { runRule } from './runRule.ts';
import { NO_VALUE, Part, partOf, toSettings, type DATA, type CHILDREN, type LabelOr, type Node, type RAW, type Settings } from './node.ts';
import { lengthOf, ownRaw, shapeOf } from './safeAccess.ts';
import type { AnyRule, Rule, Verdict } from './rule.ts';
import { prefixPaths, rejectValue, type Walk } from './walk.ts';
import { WAITING } from './siblings.ts';

/** A list of items. */
export interface List<I extends Node> extends Node<I[typeof DATA][], I[typeof RAW][], { readonly [index: `${number}`]: I }> {
  readonly [DATA]: I[typeof DATA][];
  readonly [RAW]: I[typeof RAW][];
  readonly [CHILDREN]: { readonly [index: `${number}`]: I };
  /** What each row is. */
  readonly item: I;
}

const NOT_A_LIST: Verdict = { code: 'badInput', text: badValue };

/** A list as the library's own machinery sees it. */
export class ListPart extends Part {
  readonly kind = 'list';
  readonly item: Node;
  readonly part: Part;
  readonly hasAsyncRules: boolean;

  constructor(settings: Settings, item: Node, rules: readonly AnyRule[]) {
    super(settings, rules);
    this.item = item;
    this.part = partOf(item);
    this.hasAsyncRules = this.part.hasAsyncRules || rules.some((rule) => rule.async);
  }

  acceptsJson(value: unknown): boolean {
    return shapeOf(value) === 'list';
  }

  override isEmpty(data: unknown): boolean {
    return (data as readonly unknown[]).length === 0;
  }

  override skipsRules(data: unknown): boolean {
    return data === undefined || (this.isEmpty(data) && this.ruleList.some((rule) => rule.requires));
  }

  override child(): Part {
    return this.part;
  }

  override positionOf(key: string): number {
    return Number(key);
  }

  override readForRule(data: unknown, run: Walk): unknown {
    if (!run.incomplete) return data;
    return lookAtItems(data as unknown[], (value) => {
      if (value === NO_VALUE) throw WAITING;
      return this.part.readForRule(value, run);
    });
  }

  walk(raw: unknown, run: Walk): unknown {
    const shape = shapeOf(raw);
    const items = (shape === 'none' || raw === '' ? [] : raw) as readonly unknown[];
    const size = shape === 'list' || items !== raw ? lengthOf(items) : undefined;
    if (size === undefined) return rejectValue(run, this, undefined, NOT_A_LIST);
    const data: unknown[] = [];
    for (let i = 0; i < size; i += 1) {
      const first = run.entries.length;
      data.push(walkPart(this.part, ownRaw(items, i), run));
      if (run.entries.length !== first) prefixPaths(run, first, i);
    }
    for (const rule of this.ruleList) runRule(rule, this, data, data, run);
    return data;
  }
}

/** A list as callbacks see it: each item is looked at when it is read, so that the length can be read whatever is in it. */
export const lookAtItems = <T>(items: readonly T[], look: (item: T) => unknown): readonly unknown[] =>
  new Proxy(items, {
    get: (target, key) =>
      typeof key === 'string' && /^\d+$/.test(key) && key in target
        ? look(target[Number(key)] as T)
        : (Reflect.get(target, key) as unknown),
  });

/**
 * A list of any number of rows. Its data is always a list; only with `required()` must there be a row.
 *
 * @param settings its label, or label and settings
 * @param item what each row is: a field, a group, a list
 * @param rules on the list as a whole; they judge an empty list too
 *
 * @example
 * list('Crew', group({ name: text('Name', required()) }), length({ min: 1, max: 12 }), noDuplicates({ by: 'name' }))
 */
export function list<I extends Node>(
  settings: LabelOr<Settings>,
  item: I,
  ...rules: readonly Rule<readonly I[typeof DATA][], unknown, string>[]
): List<I> {
  return new ListPart(toSettings(settings), item, rules) as never;
}
