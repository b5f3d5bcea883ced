/**
 * Read and write HTML's constraint attributes.
 *
 * @module upper-gate/html
 */

export { fieldFromAttributes, type Attributes, type FieldFromAttributesOptions } from './fieldFromAttributes.ts';
export { toAttributes } from './toAttributes.ts';
