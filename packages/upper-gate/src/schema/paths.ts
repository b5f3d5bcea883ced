// The types of paths: `'crew.0.age'`. A path is checked level by level, so that an editor completes one level at a time
// and the cost of checking does not grow with the form.

import type { KIDS, Node } from './node.ts';

/** The node at a path; `never` where there is none. */
export type At<N, P extends string> = N extends Node
  ? P extends `${infer Head}.${infer Rest}`
    ? Head extends keyof N[typeof KIDS]
      ? At<N[typeof KIDS][Head], Rest>
      : never
    : P extends keyof N[typeof KIDS]
      ? N[typeof KIDS][P]
      : never
  : never;

/** A path where it names a node; else the paths that would, up to the first level that is wrong. */
export type PathOf<N, P extends string, Before extends string = ''> = N extends Node
  ? P extends `${infer Head}.${infer Rest}`
    ? Head extends keyof N[typeof KIDS]
      ? PathOf<N[typeof KIDS][Head], Rest, `${Before}${Head}.`>
      : `${Before}${keyof N[typeof KIDS] & string}`
    : P extends keyof N[typeof KIDS]
      ? `${Before}${P}`
      : `${Before}${keyof N[typeof KIDS] & string}`
  : never;
