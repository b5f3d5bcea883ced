// What a report needs of the findings of some records: their texts, or how many there are of each sort.

import { createColors } from 'picocolors';
import type { Finding, Severity } from 'upper-gate';
import { printable } from './output.ts';
import { paints } from './severities.ts';

export const REPORTS = ['text', 'json', 'ndjson', 'summary'] as const;
type ReportFormat = (typeof REPORTS)[number];

export interface ReportStyle {
  readonly format: ReportFormat;
  /** Paints text for people. */
  readonly coloured: boolean;
}

/** Where a record stands. */
export interface Place {
  readonly file: string;
  readonly line: number | undefined;
  readonly pointer: string;
}

/** The findings with one code on one field, in all rows of lists. */
export interface Sort {
  count: number;
  readonly severity: Severity | 'any';
  readonly code: string;
  /** A JSON Pointer, with `*` for the rows of lists. */
  readonly path: string;
  /** Where the first one is. */
  readonly first: string;
}

export interface Collected {
  /** The findings as they are printed, and where the text of each ends in it. */
  readonly text: string;
  readonly ends: readonly number[];
  /** For a summary. */
  readonly sorts: ReadonlyMap<string, Sort>;
}

/** The sorts that a summary tells apart. */
const MOST_SORTS = 1000;
/** What goes beyond is counted as one. */
const OTHERS = { severity: 'any', code: '(others)', path: '' } as const;

/** What stands before each finding of a list in JSON; before the first without the comma. */
const SEPARATOR = ',\n    ';

interface Collector {
  collected(): Collected;
  /** @param pointer within the record @param isFirst whether it is the first of its record */
  add(place: Place, finding: Finding, pointer: string, isFirst: boolean): void;
}

/** @param room how many texts to collect at most */
export function collectorOf({ format, coloured }: ReportStyle, room: number): Collector {
  let text = '';
  const ends: number[] = [];
  const sorts = new Map<string, Sort>();
  const collected = (): Collected => ({ text, ends, sorts });
  if (format === 'summary') return { collected, add: (place, finding, pointer) => countSort(sorts, place, finding, pointer) };
  const write = format === 'text' ? textWriter(coloured) : asJson;
  const [before, after] = format === 'json' ? [SEPARATOR, ''] : ['', format === 'ndjson' ? '\n' : ''];
  return {
    collected,
    add(place, finding, pointer, isFirst) {
      if (ends.length >= room) return;
      text += before + write(place, finding, pointer, isFirst) + after;
      ends.push(text.length);
    },
  };
}

const asJson = ({ file, line, pointer: record }: Place, finding: Finding, pointer: string): string =>
  printable(
    JSON.stringify({
      path: finding.path,
      code: finding.code,
      severity: finding.severity,
      message: finding.message,
      params: finding.params,
      file,
      line,
      pointer: record + pointer,
    }),
  );

/** A record as people find it. */
export const placeOf = ({ file, line, pointer }: Place): string =>
  printable(line === undefined ? `${file}${pointer && `#${pointer}`}` : `${file}:${line}`);

/** A JSON Pointer with `*` for the rows of lists. */
export const withoutRows = (pointer: string): string => pointer.replace(/\/\d+(?=\/|$)/g, '/*');

/** Writes the place of a record, and a line for each of its findings. */
function textWriter(coloured: boolean): (place: Place, finding: Finding, pointer: string, isFirst: boolean) => string {
  const { dim, bold } = createColors(coloured);
  const paint = paints(coloured);
  return (place, { severity, message, code }, pointer, isFirst) =>
    `${isFirst ? `${bold(placeOf(place))}\n` : ''}  ${paint[severity](severity.padEnd('warning'.length))} ${pointer && `${printable(pointer)}: `}${printable(message)} ${dim(`[${printable(code)}]`)}\n`;
}

function countSort(sorts: Map<string, Sort>, place: Place, { severity, code }: Finding, pointer: string): void {
  addSort(sorts, { count: 1, severity, code, path: withoutRows(pointer), first: placeOf(place) });
}

/** Adds to what was counted. */
export function addSort(sorts: Map<string, Sort>, { ...sort }: Sort): void {
  const { severity, code, path } = sort;
  const key = JSON.stringify([severity, code, path]);
  const known = sorts.get(key);
  if (known) known.count += sort.count;
  else if (sorts.size < MOST_SORTS || code === OTHERS.code) sorts.set(key, sort);
  else addSort(sorts, { ...sort, ...OTHERS });
}
