// Upper Gate for React.

export { useGate, type FormBundle } from './useGate.ts';
export { useGateField, type GateField, type InputBundle, type OptionBundle } from './useGateField.ts';
export { useGateList, type GateList } from './useGateList.ts';
export { useGateState } from './useGateState.ts';
export { useGateSummary, type GateSummary } from './useGateSummary.ts';
export type { ShownError } from '../binding/index.ts';
