// Upper Gate, the schemas of other libraries, and tools.

export { asyncSharedRule, fromShared, sharedRule, toShared, type Shared } from './shared.ts';
export { describe, type Description } from './describe.ts';
export { LimitError, nestNames, type NestLimits } from './names.ts';
