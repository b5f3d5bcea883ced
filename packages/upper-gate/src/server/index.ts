// Upper Gate for servers that speak in standard requests and responses.

export { validateRequest, type ValidateRequestOptions, type RequestResult } from './validateRequest.ts';
export { readForm, type FormRead } from './readForm.ts';
export type { Limits } from './limits.ts';
export { toProblemDetails, problemResponse, type Problem } from './problemDetails.ts';
