// Numbers as reports write them.

const numbers = new Intl.NumberFormat('en');

/** `counted(2000, 'record')` is `'2,000 records'`; without a noun only the number. */
export const counted = (number: number, noun?: string): string =>
  `${numbers.format(number)}${noun === undefined ? '' : ` ${noun}${number === 1 ? '' : 's'}`}`;
