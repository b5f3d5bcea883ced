// The type of HTML's input for each kind of field that has one of its own.

export const CONTROL_TYPES: Readonly<Record<string, string>> = {
  number: 'number',
  integer: 'number',
  boolean: 'checkbox',
  date: 'date',
  time: 'time',
  dateTime: 'datetime-local',
  month: 'month',
  week: 'week',
  color: 'color',
  file: 'file',
  files: 'file',
};
