// Upper Gate and HTML's constraint attributes.

export { fieldFromAttributes, type Attributes } from './fieldFromAttributes.ts';
