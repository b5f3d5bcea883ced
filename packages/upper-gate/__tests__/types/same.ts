type Same<A, B> = (<T>() => T extends A ? 1 : 2) extends <T>() => T extends B ? 1 : 2 ? true : false;
/** Compiles if the two types are the same, given `true`. */
export const same = <A, B>(answer: Same<A, B>): void => void answer;
