// The types of files as people call them: extensions and media types, as HTML's `accept` lists them.

import { either, type Words } from './formats.ts';

/** What files are called whose media type says it in other words, or not at all. */
const NAMES: readonly (readonly [part: string, name: string])[] = [
  ['wordprocessingml', 'DOCX'],
  ['spreadsheetml', 'XLSX'],
  ['presentationml', 'PPTX'],
  ['opendocument.text', 'ODT'],
  ['opendocument.spreadsheet', 'ODS'],
  ['msword', 'DOC'],
  ['ms-excel', 'XLS'],
  ['text/plain', 'TXT'],
  ['audio/mpeg', 'MP3'],
];

function nameOf(type: string, media: Words): string {
  if (type.startsWith('.')) return type.slice(1).toUpperCase();
  const [family = '', format = ''] = type.split('/');
  if (format === '*') return media({ label: '', type: family });
  return NAMES.find(([part]) => type.includes(part))?.[1] ?? format.replace(/^x-|\+.*$/g, '').toUpperCase();
}

/**
 * Writes the types of files that a field takes: `'PDF, DOCX or image'`.
 *
 * @param accept a list as HTML's `accept` has it, of known syntax
 * @param media the words for `image/*` and the like, by their `type`
 */
export const fileTypes = (locale: string, accept: unknown, media: Words): string =>
  either(
    locale,
    new Set(
      String(accept)
        .split(', ')
        .map((type) => nameOf(type, media)),
    ),
  );
