// Rules on files.

import { DEV } from '#development';
import { fileTooLarge, fileType as fileTypeText, mediaType } from '../messages/english.ts';
import { formatText } from '../messages/text.ts';
import { fileTypes } from '../messages/fileTypes.ts';
import { assertNumber, assertUse } from '../schema/assertUse.ts';
import type { FileLike } from '../schema/files.ts';
import { makeRule, type Rule } from '../schema/rule.ts';
import type { Reporter, RuleOptions, RuleResult, Verdict } from '../schema/verdict.ts';

type Files = FileLike | readonly FileLike[];

/** Tests each file; a finding names the one it is about. */
const eachFile =
  (test: (file: FileLike) => Verdict | undefined) =>
  (value: Files): RuleResult =>
    [value].flat().flatMap((file) => {
      const verdict = test(file);
      return verdict ? [{ ...verdict, params: { ...verdict.params, file: file.name } }] : [];
    });

/**
 * Limits the size of a file, or of each of several. Code `fileTooLarge`.
 *
 * @param limits in bytes
 * @param options the message, or an object of `message`, `code`, `severity` and `on`
 * @returns the rule
 *
 * @example
 * file('Insurance', fileSize({ max: 2_000_000 }))
 */
export function fileSize(limits: { readonly max: number }, options?: RuleOptions | string): Rule<Files | undefined> {
  const { max } = limits;
  assertNumber('fileSize({ max })', max, 0);
  const test = eachFile(({ size }) => (size > max ? { code: 'fileTooLarge', text: fileTooLarge, params: { size } } : undefined));
  return makeRule<Files | undefined>('fileSize', { max }, { test }, options);
}

/**
 * Limits the types of a file, or of each of several, in the syntax of HTML's `accept`: extensions, media types, `image/*`.
 * Code `fileType`. It uses the type that the client claims: a server that relies on it has to examine the content.
 *
 * @param accept what HTML's `accept` takes, such as `image/*,.pdf`
 * @param options the message, or an object of `message`, `code`, `severity` and `on`
 * @returns the rule
 *
 * @example
 * file('Insurance', fileType('.pdf,image/*'))
 */
export function fileType(accept: string, options?: RuleOptions | string): Rule<Files | undefined> {
  assertUse(
    typeof accept === 'string',
    DEV && `fileType() takes a list as in HTML: fileType('.pdf,image/*'). It got ${JSON.stringify(accept)}.`,
  );
  const types = accept
    .toLowerCase()
    .split(',')
    .map((type) => type.trim())
    .filter(Boolean);
  const fits = ({ name, type }: FileLike): boolean =>
    types.some((each) =>
      each.startsWith('.')
        ? name.toLowerCase().endsWith(each)
        : each.endsWith('/*')
          ? type.toLowerCase().startsWith(each.slice(0, -1))
          : type.toLowerCase() === each,
    );
  const test = eachFile((file) => (fits(file) ? undefined : { code: 'fileType', text: fileTypeText }));
  const writes: Reporter['writes'] = (params, { locale = 'en' }, catalogue) => ({
    accept: fileTypes(locale, params['accept'], (type) => formatText(catalogue?.mediaType ?? mediaType, type, catalogue)),
  });
  return makeRule<Files | undefined>('fileType', { accept: types.join(', ') }, { test, writes }, options);
}
