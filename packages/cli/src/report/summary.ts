// A report as a table: how many findings there are of each sort.

import Table from 'cli-table3';
import { createColors } from 'picocolors';
import type { Sort } from './collect.ts';
import { printable } from './output.ts';
import { paints } from './severities.ts';
import { counted } from './words.ts';

/** Blanks between columns, no lines. */
const PLAIN = Object.fromEntries(
  [
    'top',
    'top-mid',
    'top-left',
    'top-right',
    'bottom',
    'bottom-mid',
    'bottom-left',
    'bottom-right',
    'left',
    'left-mid',
    'mid',
    'mid-mid',
    'right',
    'right-mid',
  ].map((part) => [part, '']),
);

/** @returns the table, the most frequent first; nothing if there is nothing to count */
export function summaryOf(sorts: Iterable<Sort>, coloured: boolean): string {
  const { bold } = createColors(coloured);
  const paint = paints(coloured);
  const rows = [...sorts].sort((a, b) => b.count - a.count);
  if (rows.length === 0) return '';
  const table = new Table({
    head: ['Findings', 'Severity', 'Code', 'Field', 'First'].map(bold),
    colAligns: ['right'],
    chars: { ...PLAIN, middle: '  ' },
    style: { head: [], border: [], 'padding-left': 0, 'padding-right': 0 },
  });
  for (const { count, severity, code, path, first } of rows)
    table.push([counted(count), paint[severity](severity), printable(code), printable(path), first]);
  return `${table.toString().replace(/ +$/gm, '')}\n\n`;
}
