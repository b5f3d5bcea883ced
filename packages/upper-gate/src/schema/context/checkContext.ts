// The option `context` of those who run rules.

import { devAssert } from '#development';
import { isContext, type ContextValue } from './context.ts';

/** Throws, in development, for what is no value of a token: it has no effect on a verdict, since nobody can read it. */
export const checkContext = (given: readonly ContextValue[] | undefined): void =>
  devAssert(
    () =>
      given?.some((entry: Partial<ContextValue> | undefined) => !isContext(entry?.token)) &&
      'The option context takes tokens with their values. Write context: [tides.of(table)].',
  );
