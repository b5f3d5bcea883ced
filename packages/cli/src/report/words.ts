// Numbers as reports write them.

/** `counted(2000, 'record')` is `'2,000 records'`; without a noun only the number. */
export const counted = (number: number, noun?: string): string =>
  `${number.toLocaleString('en')}${noun === undefined ? '' : ` ${noun}${number === 1 ? '' : 's'}`}`;
