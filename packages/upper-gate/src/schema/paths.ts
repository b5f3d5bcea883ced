// The types of paths: `'crew.0.age'`. A path is checked level by level, so that an editor completes one level at a time
// and the cost of checking does not grow with the form.

import type { CHILDREN, Node } from './node.ts';

declare const KNOWN: unique symbol;
/** A path that `gate.has()` has found in the form at run time. */
export type KnownPath = string & { readonly [KNOWN]: true };

/** The node at a path; `never` if there is no such node. */
export type At<N, P extends string> = P extends KnownPath ? Node : NodeAt<N, P> extends infer M extends Node ? M : never;
type NodeAt<N, P extends string> = N extends Node
  ? P extends `${infer Head}.${infer Rest}`
    ? Head extends keyof N[typeof CHILDREN]
      ? NodeAt<N[typeof CHILDREN][Head], Rest>
      : never
    : P extends keyof N[typeof CHILDREN]
      ? N[typeof CHILDREN][P]
      : never
  : never;

/** The path if it names a part; else the paths that would, up to the first wrong level. */
export type PathOf<N, P extends string> = P extends KnownPath ? P : CheckedPath<N, P>;
/**
 * A path, or several. (The names of the first level stand beside them: of a list that is one of several, such as the fields of a
 * step, the compiler would infer only one.)
 */
export type PathsOf<N extends Node, P extends string> = PathOf<N, P> | readonly (PathOf<N, P> | (keyof N[typeof CHILDREN] & string))[];
type CheckedPath<N, P extends string, Before extends string = ''> = N extends Node
  ? P extends `${infer Head}.${infer Rest}`
    ? Head extends keyof N[typeof CHILDREN]
      ? CheckedPath<N[typeof CHILDREN][Head], Rest, `${Before}${Head}.`>
      : `${Before}${keyof N[typeof CHILDREN] & string}`
    : P extends keyof N[typeof CHILDREN]
      ? `${Before}${P}`
      : `${Before}${keyof N[typeof CHILDREN] & string}`
  : never;
