// The type of HTML's input for each kind of field that has one.

import type { KindName } from '../schema/vocabulary.ts';

export const CONTROL_TYPES: Readonly<Record<KindName, string | undefined>> = {
  text: undefined,
  number: 'number',
  integer: 'number',
  boolean: 'checkbox',
  date: 'date',
  time: 'time',
  dateTime: 'datetime-local',
  month: 'month',
  week: 'week',
  color: 'color',
  anyJson: undefined,
  choice: undefined,
  choices: undefined,
  file: 'file',
  files: 'file',
  custom: undefined,
  standardSchema: undefined,
  deferred: undefined,
};
