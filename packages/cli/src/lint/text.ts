// What lint has found, for people.

import { relative } from 'node:path';
import { createColors } from 'picocolors';
import { printable } from '../report/output.ts';
import { paints } from '../report/severities.ts';
import type { Linted } from './formats.ts';

const counted = (count: number, noun: string): string => `${count} ${noun}${count === 1 ? '' : 's'}`;

/** The report as text. */
export function textOf(all: readonly Linted[], coloured: boolean): string {
  const { bold, dim } = createColors(coloured);
  const paint = paints(coloured);
  const lines: string[] = [];
  for (const { file, schema, findings } of all) {
    if (findings.length === 0) continue;
    lines.push(bold(printable(`${file}#${schema}`)));
    for (const { id, severity, path, what, why, fix, samples, place } of findings) {
      const where = place ? dim(printable(`${relative('', place.file)}:${place.line}`)) : '';
      lines.push(`  ${paint[severity](severity)}  ${printable(path === '' ? '(the whole)' : path)}  ${bold(id)}  ${where}`.trimEnd());
      lines.push(`    ${printable(what)}${samples === undefined ? '' : dim(` (not proven: ${counted(samples, 'sample')})`)}`);
      lines.push(`    ${dim(why)}`, `    ${dim(`→ ${fix}`)}`);
    }
    lines.push('');
  }
  const errors = all.flatMap(({ findings }) => findings.filter(({ severity }) => severity === 'error')).length;
  const warnings = all.flatMap(({ findings }) => findings).length - errors;
  const found = errors + warnings === 0 ? 'Nothing found' : `${counted(errors, 'error')}, ${counted(warnings, 'warning')}`;
  return `${[...lines, `${found} in ${counted(all.length, 'schema')}.`].join('\n')}\n`;
}
