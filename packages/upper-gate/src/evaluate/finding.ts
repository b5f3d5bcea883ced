// From the verdict of a rule to a finding: where it belongs, how much it weighs, what it says.

import { customError } from '../messages/english.ts';
import { formatText, inLanguage, textFor, type Catalogue, type Label, type MessageParams, type Text } from '../messages/text.ts';
import { join, type Finding, type Params } from '../schema/finding.ts';
import { partAt, type Part } from '../schema/part.ts';
import { isSeverity, type Severity } from '../schema/severity.ts';
import type { Reporter, RuleOptions, Verdict } from '../schema/verdict.ts';

const NO_PARAMS: Params = Object.freeze({});

/** What the rule's author gave that fits the verdict. */
const optionsOf = (rule: Reporter | undefined, { ignoresOptions }: Verdict): RuleOptions | undefined => (ignoresOptions ? undefined : rule);

/** How much a verdict weighs. What has a severity that does not exist blocks: fail closed. */
export function severityOf(rule: Reporter | undefined, verdict: Verdict): Severity {
  const severity = verdict.severity ?? optionsOf(rule, verdict)?.severity ?? 'error';
  return isSeverity(severity) ? severity : 'error';
}

/**
 * Makes the finding of a verdict.
 *
 * @param path of the part that was validated
 * @param target that part; if the verdict names a field further in, the finding is on that field, and has its label
 */
export function toFinding(
  path: string,
  target: Part,
  rule: Reporter | undefined,
  verdict: Verdict,
  catalogue: Catalogue | undefined,
): Finding {
  const options = optionsOf(rule, verdict);
  const part = verdict.path ? (partAt(target, verdict.path) ?? target) : target;
  const params: Params = verdict.params ? { ...rule?.params, ...verdict.params } : (rule?.params ?? NO_PARAMS);
  const code = options?.code ?? verdict.code;
  // A code of the author may have no text; that of the rule then has.
  const { wordedAs } = verdict;
  const text: Text =
    verdict.message ??
    options?.message ??
    textFor(part.settings.messages, code) ??
    (wordedAs === undefined ? undefined : (textFor(catalogue, wordedAs) ?? verdict.text)) ??
    textFor(catalogue, code) ??
    textFor(catalogue, verdict.code) ??
    verdict.text ??
    customError;
  const words =
    typeof text === 'function' ? wordsOf(part, params, catalogue, rule?.limits) : slotsOf(part, params, catalogue, rule ? [rule] : []);
  return {
    path: verdict.path ? join(path, verdict.path) : path,
    code,
    severity: severityOf(rule, verdict),
    message: formatText(text, words, catalogue, rule?.quoted),
    params,
  };
}

/** What the slots of a text about a part stand for: limits of rules are written as people read them. */
export function slotsOf(part: Part, params: Params, catalogue: Catalogue | undefined, rules: readonly Reporter[]): MessageParams {
  const words = wordsOf(
    part,
    params,
    catalogue,
    rules.flatMap(({ limits = [] }) => limits),
  );
  return part.writeLimits
    ? words
    : (Object.assign({}, words, ...rules.map(({ writes }) => writes?.(params, words, catalogue))) as MessageParams);
}

/**
 * What a message about a part may speak about: its label, and the params of a rule, written as people read them.
 *
 * @param limits which of the params are limits of the value
 */
function wordsOf(part: Part, params: Params, catalogue: Catalogue | undefined, limits: Reporter['limits']): MessageParams {
  const locale = catalogue?.locale ?? 'en';
  // (Node 20 takes forty times as long for a spread that other keys follow.)
  const words: Record<string, unknown> & MessageParams = {
    label: inLanguage(part.label, catalogue),
    kind: part.kind,
    holds: part.traits.holds,
    locale,
    ...params,
  };
  const { otherLabel } = params;
  if (otherLabel !== undefined) words['otherLabel'] = inLanguage(otherLabel as Label, catalogue);
  return part.writeLimits && limits ? { ...words, ...part.writeLimits(params, limits, locale) } : words;
}
