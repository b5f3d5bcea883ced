// Upper Gate for servers that speak in standard requests and responses.

export { admit, type AdmitOptions, type Admitted } from './admit.ts';
export { readForm, type FormRead } from './readForm.ts';
export type { Limits } from './limits.ts';
export { problemOf, responseOf, type Problem } from './problem.ts';
