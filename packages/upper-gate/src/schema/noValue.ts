// What stands for a value that is not there.

/** In place of data: there is no value of the field's type (it cannot be read, or is empty though required). */
export const NO_VALUE: unique symbol = Symbol.for('upper-gate: no value');

/**
 * Thrown through a callback that reads a field without a value of its type. The callback waits: it ends there, reports
 * nothing, and runs again when that field changes.
 */
export const WAITING: unique symbol = Symbol.for('upper-gate: waits for a value');

/**
 * Stands for what a control shows but does not give away: `12e` in a number control, half a date. No kind but text can read it, so the
 * field is refused until it is corrected.
 *
 * @example
 * gate.field('arrival').set(UNREADABLE_INPUT); // half a date
 */
export const UNREADABLE_INPUT = '\uFFFD';
