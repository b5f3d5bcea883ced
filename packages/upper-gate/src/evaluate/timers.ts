// What timers can do.

/** The longest time that a timer takes, in milliseconds (about 25 days); a longer one, `Infinity` too, would be over at once. */
export const LONGEST_TIMER = 2 ** 31 - 1;
