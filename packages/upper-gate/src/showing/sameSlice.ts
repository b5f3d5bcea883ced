import { sameList } from '../schema/choice.ts';

/**
 * Whether two picks from a store are the same: by value, and lists by what is in them.
 *
 * @param a one
 * @param b the other
 * @returns true if they are the same
 */
export const sameSlice = (a: unknown, b: unknown): boolean => Object.is(a, b) || sameList(a, b);
