// What a row of a list has that its template says relative to it: for whoever draws rows, on a page or on a server.

/** The attributes that name a field: in a template relative to the row, on the page whole. */
export const NAMING: readonly string[] = [
  'name',
  'data-gate-messages',
  'data-gate-hint',
  'data-gate-count',
  'data-gate-label',
  'data-gate-applies',
  'data-gate-rows',
  'data-gate-options',
  'data-gate-add',
];

/** The attributes that refer to elements by id: each row has its own ids. */
export const REFERRING: readonly string[] = ['for', 'aria-describedby', 'aria-labelledby', 'aria-controls', 'list'];

/** The whole name of what a template names relative to its row; `''` is the row itself. */
export const nameInRow = (list: string, index: number, relative: string): string =>
  [list, index, ...(relative === '' ? [] : [relative])].join('.');
