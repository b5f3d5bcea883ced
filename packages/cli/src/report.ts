// Writing a report: for people, or for programs.

import type { Report } from './check.ts';

const count = (number: number, what: string): string => `${number} ${what}${number === 1 ? '' : 's'}`;

/** A line for each finding, and a summary. */
export function asText({ records, passed, findings }: Report): string {
  const lines = findings.map(({ file, pointer, severity, message, code }) => `${file}#${pointer}: ${severity}: ${message} [${code}]`);
  const found = (['error', 'warning', 'notice'] as const)
    .map((severity) => [severity, findings.filter((finding) => finding.severity === severity).length] as const)
    .filter(([severity, number]) => severity === 'error' || number > 0)
    .map(([severity, number]) => count(number, severity));
  return [...lines, `${count(records, 'record')} checked, ${passed} without errors; ${found.join(', ')}.`].join('\n');
}

export const asJson = (report: Report): string => JSON.stringify(report, null, 2);
