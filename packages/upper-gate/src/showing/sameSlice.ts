import { sameList } from '../schema/choice.ts';

/**
 * Compares two picks from a store: by value, and lists by their items.
 *
 * @param a one
 * @param b the other
 * @returns true if they are the same
 */
export const sameSlice = (a: unknown, b: unknown): boolean => Object.is(a, b) || sameList(a, b);
