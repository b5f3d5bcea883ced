/**
 * Functions and a directive for components of Angular 20 and later.
 *
 * @module upper-gate/angular
 */

export type { ElementBundle } from './bundle.ts';
export { GateDirective } from './gateDirective.ts';
export { injectGate, type InjectGateOptions } from './injectGate.ts';
export { type ComponentBundle, injectGateField, type GateField } from './injectGateField.ts';
export { injectGateList, type GateList } from './injectGateList.ts';
export { injectGateState } from './injectGateState.ts';
export { injectGateSummary, type GateSummary } from './injectGateSummary.ts';
export { type ActionOptions, injectPostedGate, type PostedGate, type PostedOptions } from './injectPostedGate.ts';
export type { Reading } from './following.ts';
export { connect, followRows, setDisabled, UNREADABLE_INPUT, type Connection, type FormAction, type ShownError } from 'upper-gate/binding';
