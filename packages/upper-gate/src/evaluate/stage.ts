// The events of a form, in the order in which a field meets them, as numbers.

import type { Stage } from '../schema/verdict.ts';

const RANKS: Readonly<Record<Stage, number>> = { change: 0, blur: 1, submit: 2 };

/** The rank of an event: a rule runs at its own and at all later ones. */
export const rank = (stage: Stage): number => RANKS[stage];

export const BLUR = RANKS.blur;
export const SUBMIT = RANKS.submit;
