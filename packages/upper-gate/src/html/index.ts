// Upper Gate and HTML's constraint attributes.

export { fieldFromAttributes, type Attributes, type FieldFromAttributesOptions } from './fieldFromAttributes.ts';
export { toAttributes } from './toAttributes.ts';
