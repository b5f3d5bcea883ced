/**
 * Hooks for React 18 and 19.
 *
 * @module upper-gate/react
 */
'use client';

export { useGate, type FormBundle, type UseGateOptions } from './useGate.ts';
export { type ComponentBundle, useGateField, type GateField, type InputBundle, type OptionBundle } from './useGateField.ts';
export { useGateList, type GateList } from './useGateList.ts';
export { useGateState } from './useGateState.ts';
export { useGateSummary, type GateSummary } from './useGateSummary.ts';
export { usePostedGate, type ActionFormBundle, type ActionOptions, type PostedGate, type PostedOptions } from './usePostedGate.ts';
export { connect, followRows, setDisabled, UNREADABLE_INPUT } from '../binding/index.ts';
export type { Connection, FormAction, ShownError } from '../binding/index.ts';
