// The events of a form, in the order in which a field meets them.

import type { AnyRule, Stage } from '../schema/rule.ts';

const STAGES: readonly Stage[] = ['change', 'blur', 'submit'];

/** The rank of an event: a rule runs at its own and at all later ones. */
export const rank = (stage: Stage): number => STAGES.indexOf(stage);

/** The rank of the first event at which a rule runs. */
export const stageOf = (rule: AnyRule, otherwise: Stage): number => rank(rule.on ?? otherwise);
