/**
 * Functions for components of Solid.
 *
 * @module upper-gate/solid
 */

export { useGate, type FormBundle, type UseGateOptions } from './useGate.ts';
export { type ComponentBundle, useGateField, type GateField, type InputBundle, type OptionBundle } from './useGateField.ts';
export { useGateList, type GateList } from './useGateList.ts';
export { useGateState } from './useGateState.ts';
export { useGateSummary, type GateSummary } from './useGateSummary.ts';
export { type ActionOptions, type PostedGate, type PostedOptions, usePostedGate } from './usePostedGate.ts';
export type { Reading } from './following.ts';
export { connect, followRows, setDisabled, UNREADABLE_INPUT } from '../binding/index.ts';
export type { Connection, FormAction, ShownError } from '../binding/index.ts';
