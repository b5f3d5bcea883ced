// Plain values that come from outside.

import type { DATA, Node, RAW } from '../schema/node.ts';

/** Values for some of a form's fields: raw, or data. */
export type Values<N extends Node> = PartialDeep<N[typeof RAW]> | PartialDeep<N[typeof DATA]>;
type PartialDeep<T> = T extends readonly (infer I)[]
  ? readonly PartialDeep<I>[]
  : T extends object
    ? // `null` and `undefined`, as a row of a database has them: nothing.
      { readonly [K in keyof T]?: PartialDeep<T[K]> | null | undefined }
    : T;
