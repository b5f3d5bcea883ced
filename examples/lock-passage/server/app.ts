// The booking office: serves the page, answers for the register, takes bookings.

import { setTimeout as sleep } from 'node:timers/promises';
import fastifyStatic from '@fastify/static';
import fastify, { type FastifyInstance, type FastifyReply } from 'fastify';
import { pointer, validateAsync, type Finding } from 'upper-gate';
import { passageForm } from '../src/passage.ts';
import type { Conflict, Database } from './database.ts';

const CONFLICTS: Readonly<Record<Conflict, { pointer: string; detail: string }>> = {
  vessel: { pointer: '/registration', detail: 'This vessel has a passage booked already' },
  slot: { pointer: '/slot', detail: 'Somebody has just booked this lockage: please choose another' },
};

/** Answers with problem details (RFC 9457). */
function problem(reply: FastifyReply, status: number, title: string, errors: readonly object[]): FastifyReply {
  return reply.code(status).type('application/problem+json').send({ type: 'about:blank', title, status, errors });
}

const errorOf = (finding: Finding) => ({ pointer: pointer(finding), detail: finding.message, code: finding.code, params: finding.params });

/**
 * Makes the server.
 *
 * @param open gives the database, when the first request wants it
 * @param pages the folders of built pages, by the path under which they are served
 */
export function makeApp(open: () => Promise<Database>, pages: Readonly<Record<string, string>>): FastifyInstance {
  const app = fastify({ bodyLimit: 64 * 1024 });
  // The same declaration as on the page; here the register is asked in the database itself.
  const form = passageForm(async (registration) => (await open()).register(registration));

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
    const judged = await validateAsync(form, request.body);
    if (!judged.ok) {
      const errors = judged.findings.filter(({ severity }) => severity === 'error');
      return problem(reply, 422, 'This booking cannot be taken as it is', errors.map(errorOf));
    }
    const booked = await (await open()).book(judged.data);
    if ('conflict' in booked) return problem(reply, 409, 'Somebody was quicker', [{ ...CONFLICTS[booked.conflict], code: 'taken' }]);
    return reply.code(201).send(booked);
  });

  Object.entries(pages).forEach(([prefix, root], i) => void app.register(fastifyStatic, { root, prefix, decorateReply: i === 0 }));
  return app;
}
