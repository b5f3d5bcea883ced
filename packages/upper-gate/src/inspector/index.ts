/**
 * Look into a live form on its own page: for development.
 *
 * @module upper-gate/inspector
 */

export { defineInspector, inspect, type InspectOptions } from './inspect.ts';
export { type InspectorElement } from './element.ts';
