// A report as a table: how many findings there are of each sort.

import Table from 'cli-table3';
import { createColors } from 'picocolors';
import type { Sort } from './collect.ts';
import { printable } from './output.ts';
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
  const { red, yellow, green, bold } = createColors(coloured);
  const paint: Readonly<Record<string, (text: string) => string>> = { error: red, warning: yellow, notice: green };
  const rows = [...sorts].sort((a, b) => b.count - a.count);
  if (rows.length === 0) return '';
  const table = new Table({
    head: ['Findings', 'Severity', 'Code', 'Field', 'First'].map(bold),
    colAligns: ['right'],
    chars: { ...PLAIN, middle: '  ' },
    style: { head: [], border: [], 'padding-left': 0, 'padding-right': 0 },
  });
  for (const { count, severity, code, path, first } of rows)
    table.push([counted(count), (paint[severity] ?? String)(severity), printable(code), printable(path), first]);
  return `${table.toString().replace(/ +$/gm, '')}\n\n`;
}
