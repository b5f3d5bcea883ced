/**
 * Make forms of the operations that an OpenAPI document describes, and send what they hold.
 *
 * @module upper-gate/openapi
 */

export { fromOpenApi, type FromOpenApiOptions, type OpenApiOperation } from './fromOpenApi.ts';
