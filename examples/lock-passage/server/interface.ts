// A stand-in for the interface that data/waterways.yaml describes: it validates by the same document, and answers with what it has read.

import { readFile } from 'node:fs/promises';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { validate, type Fields, type Finding, type Group, type Node } from 'upper-gate';
import type { JsonObject } from 'upper-gate/json-schema';
import { fromOpenApi, type OpenApiOperation } from 'upper-gate/openapi';
import { fromNode, problemResponse, readForm, toProblemDetails } from 'upper-gate/server';
import { parse } from 'yaml';

type Texts = Readonly<Record<string, unknown>>;

/** What is needed of the document. */
interface Described extends JsonObject {
  readonly paths: Readonly<Record<string, Readonly<Record<string, unknown>>>>;
}

/** Reads the document. @param path of a file of YAML */
export const readDescription = async (path: string): Promise<Described> => parse(await readFile(path, 'utf8')) as Described;

const METHODS = ['get', 'put', 'post', 'patch', 'delete'] as const;
const LIMITS = { bytes: 1_000_000, depth: 20, files: 5, fileBytes: 2_500_000 };

/** The parameters of an address as its text has them: lists between commas, objects as `window[firstDay]`. */
function parametersIn({ fields }: Group<Fields>, path: Texts, query: Texts): Texts {
  const read = ([name, { traits }]: [string, Node]): [string, unknown] => {
    const text = path[name] ?? query[name];
    const isList = traits.holds === 'rows' || traits.holds === 'options';
    if (traits.holds !== 'fields') return [name, isList && typeof text === 'string' ? text.split(',') : text];
    const inner = Object.entries(query).filter(([key]) => key.startsWith(`${name}[`));
    return [name, Object.fromEntries(inner.map(([key, value]) => [key.slice(name.length + 1, -1), value]))];
  };
  return Object.fromEntries(Object.entries(fields).map(read));
}

/** A part of a form that holds JSON travels as a file. */
async function unpacked(value: unknown): Promise<unknown> {
  if (!(value instanceof File) || value.type !== 'application/json') return value;
  const text = await value.text();
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return text;
  }
}

/** The values of a form, with what is JSON in it. */
async function unpackedForm(raw: unknown): Promise<unknown> {
  const entries = Object.entries(raw as Texts).map(async ([key, value]) => [key, await unpacked(value)] as const);
  return Object.fromEntries(await Promise.all(entries));
}

/**
 * Serves every operation of a document.
 *
 * @param forms routes whose bodies nobody has read
 * @param prefix before the paths
 */
export function serveInterface(forms: FastifyInstance, prefix: string, document: Described): void {
  forms.get(`${prefix}/openapi.json`, (_, reply) => reply.send(document));
  for (const [path, item] of Object.entries(document.paths))
    for (const method of METHODS.filter((each) => item[each] !== undefined)) {
      const name = `${method.toUpperCase()} ${path}`;
      // Each is read when it is first asked for.
      let known: OpenApiOperation | undefined;
      forms.route({
        method,
        url: prefix + path.replaceAll(/\{(\w+)\}/g, ':$1'),
        handler: (request, reply) => {
          known ??= fromOpenApi(document, { operation: name });
          return answer(known, name, request, reply);
        },
      });
    }
}

async function answer(
  { schema, body, method }: OpenApiOperation,
  operation: string,
  request: FastifyRequest,
  reply: FastifyReply,
): Promise<FastifyReply> {
  const isBoth = body !== undefined && body !== schema;
  const ofParameters = (body === undefined ? schema : isBoth ? schema.fields['parameters'] : undefined) as Group<Fields> | undefined;
  const findings: Finding[] = [];
  const received: Record<string, unknown> = {};
  if (ofParameters) {
    const result = validate(ofParameters, parametersIn(ofParameters, request.params as Texts, request.query as Texts));
    if (result.ok) received['parameters'] = result.data;
    findings.push(...result.findings);
  }
  if (body) {
    const sent = await readForm(fromNode(request.raw, reply.raw), LIMITS);
    if (!sent.ok) return reply.send(sent.response);
    const raw = sent.isJson ? sent.raw : await unpackedForm(sent.raw);
    const result = validate(body, raw, { source: sent.isJson ? 'json' : 'form' });
    if (result.ok) received['body'] = shown(result.data);
    findings.push(...result.findings);
  }
  if (findings.length > 0) return reply.send(problemResponse(toProblemDetails(findings)));
  return reply.code(method === 'GET' ? 200 : 201).send({ operation, received });
}

/** Data as an answer shows them: of a file, what is known of it. */
function shown(data: unknown): unknown {
  if (data instanceof File) return { name: data.name, size: data.size, type: data.type };
  if (Array.isArray(data)) return data.map(shown);
  if (typeof data !== 'object' || data === null) return data;
  return Object.fromEntries(Object.entries(data).map(([key, value]) => [key, shown(value)]));
}
