/**
 * See what a form did, and why: a trace of what happened in a gate, and sentences that explain a field.
 *
 * @module upper-gate/trace
 */

export { explain } from './explain.ts';
export { type Entry, type Happening, type Reason, type TraceData, type TracedFinding } from './entries.ts';
export { type Trace, traceGate, type TraceOptions } from './traceGate.ts';
