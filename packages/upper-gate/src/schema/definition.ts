// Rules and kinds of an author: one row describes each, for every notation.

import { DEV } from '#development';
import { assertUse } from './assertUse.ts';
import { formatText, type MessageParams, type Text } from '../messages/text.ts';
import type { Settings } from './node.ts';
import type { Traits } from './traits.ts';
import type { ParamType } from './vocabulary.ts';

/**
 * Texts by language, each a string with slots or a function of the params: `{ en: '{label} must start with {prefix}' }`. Other
 * languages use the first.
 */
export interface TextsByLanguage {
  readonly [language: string]: string | ((params: MessageParams) => string);
}

/** The texts as one. */
export const textIn =
  (texts: TextsByLanguage): Text =>
  (params) => {
    const { locale = 'en' } = params;
    return formatText(texts[locale] ?? Object.values(texts)[0] ?? '', params, { locale });
  };

/** A rule of an author, for those who write it down and read it. `R` is the type of rules. */
export interface RuleDefinition<R> {
  readonly name: string;
  readonly params: Readonly<Record<string, ParamType>>;
  /** The kinds of fields whose values it validates. */
  readonly fits: 'any' | readonly string[];
  /** The keyword of JSON Schema that carries its params: its only one, or an object of them. */
  readonly keyword: string | undefined;
  /** The same for the attribute of HTML. */
  readonly attribute: string | undefined;
  readonly make: (params: Readonly<Record<string, unknown>>, options: object) => R;
}

/**
 * Makes sure that a document says which of several rules or kinds it means.
 *
 * @throws TypeError for two that have a name, keyword, attribute or format in common
 */
export function assertDistinct<D extends { readonly name: string }>(
  definitions: readonly D[],
  shared: readonly (keyof D & string)[],
): void {
  for (const notation of ['name', ...shared] as const) {
    const byNotation = new Map<unknown, D>();
    for (const each of definitions) {
      const mark: unknown = each[notation];
      const other = mark === undefined ? undefined : byNotation.get(mark);
      assertUse(
        other === undefined || other === each,
        DEV && `"${other?.name}" and "${each.name}" have the same ${notation}, ${JSON.stringify(mark)}. Give each its own.`,
      );
      byNotation.set(mark, each);
    }
  }
}

/** A kind of an author, for those who write it down and read it. */
export interface KindDefinition {
  readonly name: string;
  /** The TypeScript type of its data. */
  readonly type: string;
  readonly traits: Traits;
  /** The `format` of JSON Schema. */
  readonly format: string | undefined;
  /** @returns a part */
  readonly make: (settings: Settings, rules: readonly unknown[]) => unknown;
}
