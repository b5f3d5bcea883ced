// The booking office: serves the pages, answers for the register, takes bookings.

import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { setTimeout as sleep } from 'node:timers/promises';
import fastifyStatic from '@fastify/static';
import fastify, { type FastifyInstance, type FastifyReply, type FastifyRequest } from 'fastify';
import { validateRequest, problemResponse, type Problem } from 'upper-gate/server';
import { passageForm, type Passage } from '../src/passage.ts';
import type { Conflict, Database } from './database.ts';
import { drawBooked, drawRefused } from './page.ts';

const CONFLICTS: Readonly<Record<Conflict, { path: 'registration' | 'slot'; message: string }>> = {
  vessel: { path: 'registration', message: 'This vessel has a passage booked already' },
  slot: { path: 'slot', message: 'Somebody has just booked this lockage: please choose another' },
};

/** A request of this server as one of fetch. */
function standard(request: FastifyRequest): Request {
  const headers = Object.entries(request.headers).filter((entry): entry is [string, string] => typeof entry[1] === 'string');
  return new Request(`http://localhost${request.url}`, {
    method: request.method,
    headers,
    body: Readable.toWeb(request.raw) as ReadableStream,
    duplex: 'half',
  } as RequestInit);
}

const send = async (reply: FastifyReply, response: Response): Promise<FastifyReply> =>
  reply
    .code(response.status)
    .headers(Object.fromEntries(response.headers))
    .send(await response.text());

/**
 * Makes the server.
 *
 * @param open gives the database, when the first request wants it
 * @param pages the folders of built pages, by the path under which they are served
 */
export function makeApp(open: () => Promise<Database>, pages: Readonly<Record<string, string>>): FastifyInstance {
  const app = fastify();
  // Bodies are read by the schema's own side of the server.
  app.removeAllContentTypeParsers();
  app.addContentTypeParser('*', (_request, _payload, done) => done(null));
  // The same declaration as on the page; here the register is asked in the database itself.
  const form = passageForm(async (registration) => (await open()).register(registration));
  const plainPage = (): Promise<string> => readFile(join(pages['/']!, 'plain.html'), 'utf8');
  const sendPage = async (reply: FastifyReply, status: number, html: string): Promise<FastifyReply> =>
    reply.code(status).type('text/html; charset=utf-8').send(html);

  // For the demo only: the page says how the server is to behave.
  app.addHook('onRequest', async (request, reply) => {
    const weather = request.headers['x-demo-weather'];
    if (weather === 'slow') await sleep(2500);
    if (weather === 'gone') {
      reply.hijack();
      request.raw.socket.destroy();
    }
  });

  app.get<{ Params: { registration: string } }>('/api/register/:registration', async (request) =>
    (await open()).register(request.params.registration),
  );

  app.post('/api/bookings', async (request, reply) => {
    const result = await validateRequest(form, standard(request), { limits: { bytes: 64 * 1024, files: 1, fileBytes: 2_500_000 } });
    if (!result.ok) {
      const { acceptsHtml, raw, findings, response } = result;
      return acceptsHtml ? sendPage(reply, response.status, drawRefused(await plainPage(), raw, findings)) : send(reply, response);
    }
    const { acceptsHtml } = result;
    const passage: Passage = result.data;
    const booked = await (await open()).book(passage);
    if ('conflict' in booked) {
      const { path, message } = CONFLICTS[booked.conflict];
      if (acceptsHtml)
        return sendPage(reply, 409, drawRefused(await plainPage(), stringsOf(passage), [{ path, message, severity: 'error' }]));
      const problem: Problem = {
        type: 'about:blank',
        title: 'Somebody was quicker',
        status: 409,
        errors: [{ pointer: `/${path}`, detail: message, code: 'taken', params: {} }],
      };
      return send(reply, problemResponse(problem));
    }
    if (acceptsHtml) return sendPage(reply, 201, drawBooked(await plainPage(), passage.vessel, booked.reference));
    return reply.code(201).send(booked);
  });

  Object.entries(pages).forEach(([prefix, root], i) => void app.register(fastifyStatic, { root, prefix, decorateReply: i === 0 }));
  return app;
}

/** Data as a form would send it. */
function stringsOf(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(stringsOf);
  if (typeof value === 'object' && value !== null && !(value instanceof File))
    return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, stringsOf(inner)]));
  return typeof value === 'number' ? String(value) : value === true ? 'on' : value;
}
