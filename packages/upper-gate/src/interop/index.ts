// Upper Gate and the schemas of other libraries.

export { asyncSharedRule, fromShared, sharedRule, toShared, type Shared } from './shared.ts';
export { LimitError, nestNames, type NestLimits } from './names.ts';
