/**
 * Read and validate requests, answer with problem details, and draw refused pages again.
 *
 * @module upper-gate/server
 */

export { validateRequest, type ValidateRequestOptions, type RequestResult } from './validateRequest.ts';
export { readForm, type FormRead, type UnreadRequest } from './readForm.ts';
export { applyMergePatch } from './applyMergePatch.ts';
export { redrawForm, type RedrawOptions } from './redrawForm.ts';
export type { RequestHeaders, RequestLike } from './request.ts';
export type { Limits } from './limits.ts';
export { fastifyForms, fromNode, nodeHandler, type NodeHandlerOptions, type NodeRequest, type PlainResponse } from './nodeHandler.ts';
export { toProblemDetails, problemResponse, type Problem } from './problemDetails.ts';
