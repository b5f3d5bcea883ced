/**
 * Catalogues in ICU MessageFormat, through the optional peer `intl-messageformat`.
 *
 * @module upper-gate/icu
 */

import { IntlMessageFormat } from 'intl-messageformat';
import type { Catalogue, MessageParams } from '../messages/text.ts';

/**
 * Makes a catalogue from texts in ICU MessageFormat. A message may use the params of the rule, the `label`, the `kind` of the
 * field and what it `holds`. Missing codes fall back to English.
 *
 * @param locale the language, by its tag
 * @param texts by code
 * @returns the catalogue, for the option `messages`
 * @throws SyntaxError for a text that is no ICU message
 *
 * @example
 * icuCatalogue('nl', { tooShort: '{label}: minstens {min, plural, one {# teken} other {# tekens}}' })
 */
export function icuCatalogue(locale: string, texts: Readonly<Record<string, string>>): Catalogue {
  const formats = Object.entries(texts).map(([code, message]) => {
    const format = new IntlMessageFormat(message, locale, undefined, { ignoreTag: true });
    return [code, (params: MessageParams) => String(format.format(params as never))] as const;
  });
  return { ...Object.fromEntries(formats), locale };
}
