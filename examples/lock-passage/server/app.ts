// The booking office: serves the pages, answers for the register, takes bookings.

import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import fastifyHelmet from '@fastify/helmet';
import fastifyStatic from '@fastify/static';
import fastify, { type FastifyInstance, type FastifyReply } from 'fastify';
import { length, required, text, validate, validateAsync, type GivenFinding } from 'upper-gate';
import {
  applyMergePatch,
  fastifyForms,
  fromNode,
  problemResponse,
  readForm,
  toProblemDetails,
  validateRequest,
  type Problem,
  type RedrawOptions,
} from 'upper-gate/server';
import { berthForm, tides } from '../src/berth.ts';
import { bookedForm } from '../src/booked.ts';
import { passageForm, type Passage } from '../src/passage.ts';
import { CATALOGUES, languageOf, say, type Word } from '../src/words.ts';
import { Unavailable, type Conflict, type Database, type Stored } from './database.ts';
import { readDescription, serveInterface } from './interface.ts';
import { drawBooked, drawRefused } from './page.ts';
import { isTable, TABLES } from './tides.ts';

const CONFLICTS: Readonly<Record<Conflict, { path: 'registration' | 'slot'; word: Word }>> = {
  vessel: { path: 'registration', word: 'vesselTaken' },
  slot: { path: 'slot', word: 'slotTaken' },
};

/** No script, style or frame but our own, and no text ever becomes markup. (Vue and the kit of web components have policies of these names.) */
const POLICY = {
  defaultSrc: ["'none'"],
  scriptSrc: ["'self'"],
  styleSrc: ["'self'"],
  imgSrc: ["'self'", 'data:'],
  connectSrc: ["'self'"],
  formAction: ["'self'"],
  baseUri: ["'none'"],
  frameAncestors: ["'none'"],
  requireTrustedTypesFor: ["'script'"],
  trustedTypes: ['vue', 'lit-html'],
};

/** The page of the playground that runs what is written there: without an origin, so that it reaches nothing of this site. */
const SANDBOX = {
  sandbox: ['allow-scripts', 'allow-forms'],
  defaultSrc: ["'none'"],
  scriptSrc: ["'self'", "'unsafe-eval'"],
  styleSrc: ["'self'"],
  imgSrc: ['data:'],
  formAction: ["'none'"],
  frameAncestors: ["'self'"],
};
/** Other policies, by what paths begin with: pages of the documentation have frames of their own, in which recipes run. */
const POLICIES: Readonly<Record<string, Readonly<Record<string, readonly string[]>>>> = {
  '/docs/try/run/': SANDBOX,
  '/docs/try/': { ...POLICY, frameSrc: ["'self'"], trustedTypes: ['upper-gate-try'] },
  '/docs/live/': {
    ...POLICY,
    frameAncestors: ["'self'"],
    imgSrc: [...POLICY.imgSrc, 'blob:'],
    trustedTypes: [...POLICY.trustedTypes, 'default'],
  },
  '/docs/': { ...POLICY, frameSrc: ["'self'"] },
  // What these frameworks draw from are templates.
  '/svelte/': { ...POLICY, trustedTypes: ['svelte-trusted-html', 'lit-html'] },
  '/solid/': { ...POLICY, trustedTypes: ['default'] },
  '/angular/': { ...POLICY, trustedTypes: ['angular'] },
  // It draws forms from a document.
  '/interface.html': { ...POLICY, trustedTypes: ['interface'] },
};
/** A policy as a header says it. */
const written = (policy: Readonly<Record<string, readonly string[]>>): string =>
  Object.entries(policy)
    .map(([name, sources]) => `${name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)} ${sources.join(' ')}`)
    .join(';');

type Drawn = RedrawOptions['findings'];

const REFERENCE = text('Reference', required(), length({ max: 20 }));

/** The version of a booking, as HTTP names it (RFC 9110). */
const etagOf = (version: number): string => `"${version}"`;

function refuseWith(reply: FastifyReply, status: number, title: string, version?: number): FastifyReply {
  const response = problemResponse({ type: 'about:blank', title, status });
  if (version !== undefined) response.headers.set('etag', etagOf(version));
  return reply.send(response);
}

/**
 * Makes the server.
 *
 * @param open gives the database, when the first request wants it
 * @param pages the folders of built pages, by the path under which they are served
 * @param description the file of the interface that `/interface` serves
 */
export async function makeApp(
  open: () => Promise<Database>,
  pages: Readonly<Record<string, string>>,
  description: string,
): Promise<FastifyInstance> {
  const waterways = await readDescription(description);
  const app = fastify({ forceCloseConnections: 'idle', requestTimeout: 15_000, keepAliveTimeout: 5000 });
  await app.register(fastifyHelmet, {
    contentSecurityPolicy: { useDefaults: false, directives: POLICY },
    enableCSPNonces: true,
    // It is served over plain HTTP, on this machine.
    strictTransportSecurity: false,
  });
  // The same declaration as on the page; here the rule queries the database.
  const form = passageForm(async (registration) => (await open()).register(registration));
  const plainPage = (): Promise<string> => readFile(join(pages['/']!, 'plain.html'), 'utf8');
  const sendPage = async (reply: FastifyReply, status: number, html: string): Promise<FastifyReply> =>
    reply.code(status).type('text/html; charset=utf-8').send(html);

  app.addHook('onSend', async ({ url }, reply) => {
    const policy = Object.entries(POLICIES).find(([path]) => url.startsWith(path))?.[1];
    if (policy) reply.header('content-security-policy', written(policy));
    if (policy?.['frameAncestors']?.includes("'self'")) reply.header('x-frame-options', 'SAMEORIGIN');
    // To a page without an origin, its own script is one of another.
    if (policy === SANDBOX) reply.header('cross-origin-resource-policy', 'cross-origin').removeHeader('origin-agent-cluster');
    return Promise.resolve();
  });

  // For the demo only: the page chooses how the server behaves.
  app.addHook('onRequest', async (request, reply) => {
    const weather = request.headers['x-demo-weather'];
    if (weather === 'slow') await sleep(2500);
    if (weather === 'gone') {
      reply.hijack();
      request.raw.socket.destroy();
    }
  });

  /** What component kits need beyond that, on their pages only. */
  const NEEDS = {
    '/kit/': {},
    '/kit/index.html': {},
    '/kits/vue.html': {},
    // They set `innerHTML`: their pages have a policy that lets text through, and nothing with markup in it.
    '/kits/aria.html': { trustedTypes: [...POLICY.trustedTypes, 'default'] },
    '/kits/values.html': { trustedTypes: [...POLICY.trustedTypes, 'default'] },
    // Its templates have style attributes.
    '/kits/elements.html': { styleSrcAttr: ["'unsafe-inline'"] },
  };
  /** Component kits write styles into their pages: they may, with the nonce of this answer. */
  for (const [path, needs] of Object.entries(NEEDS)) {
    const [, kit, name] = path.split('/') as [string, string, string];
    const helmet = { contentSecurityPolicy: { useDefaults: false, directives: { ...POLICY, ...needs } } };
    app.get(path, { helmet }, async (_request, reply) => {
      const page = await readFile(join(pages[`/${kit}/`]!, name || 'index.html'), 'utf8');
      return sendPage(reply, 200, page.replace('%nonce%', reply.cspNonce.style));
    });
  }

  await app.register(
    fastifyForms((forms: FastifyInstance) => {
      serveInterface(forms, '/interface', waterways);

      forms.get<{ Params: { registration: string } }>('/api/register/:registration', async (request, reply) => {
        const { registration } = request.params;
        if (!/^[A-Z]{2}-\d{4}$/.test(registration)) return { known: false };
        return (await open()).register(registration).catch((error: unknown) => {
          if (!(error instanceof Unavailable)) throw error;
          return reply.send(problemResponse({ type: 'about:blank', title: 'The register is closed', status: 503 }));
        });
      });

      forms.get<{ Params: { table: string } }>('/api/tides/:table', ({ params: { table } }, reply) =>
        isTable(table)
          ? reply.send(TABLES[table])
          : reply.send(problemResponse({ type: 'about:blank', title: 'There is no such tide table', status: 404 })),
      );

      forms.post<{ Querystring: { table?: string } }>('/api/berths', async (request, reply) => {
        const { table = '' } = request.query;
        // The server does not trust the page: it has the tide table from its own source.
        const result = await validateRequest(berthForm, fromNode(request.raw, reply.raw), {
          context: [tides.of(TABLES[isTable(table) ? table : 'today'])],
          source: 'json',
        });
        if (!result.ok) return reply.send(result.response);
        return reply.code(201).send({ berth: result.data.berth });
      });

      /** What of a stored booking may be changed. */
      const detailsOf = ({ details }: Stored): Record<string, unknown> =>
        Object.fromEntries(Object.entries(details).filter(([key]) => Object.hasOwn(bookedForm.fields, key)));
      const sendBooking = (reply: FastifyReply, stored: Stored): FastifyReply => {
        const { reference, arrival, slot, details, version } = stored;
        return reply
          .header('etag', etagOf(version))
          .send({ reference, arrival, slot, vessel: details['vessel'], details: detailsOf(stored) });
      };
      /** Finds the booking of a request, and does something with it. */
      const withBooking = async (
        reference: string,
        reply: FastifyReply,
        use: (db: Database, stored: Stored) => Promise<FastifyReply> | FastifyReply,
      ) => {
        // (No database takes NUL, or half of a surrogate pair.)
        if (!validate(REFERENCE, reference).ok) return refuseWith(reply, 400, 'This is no reference of a booking');
        try {
          const db = await open();
          const stored = await db.booking(reference);
          return await (stored ? use(db, stored) : refuseWith(reply, 404, 'There is no such booking'));
        } catch (error) {
          if (!(error instanceof Unavailable)) throw error;
          return refuseWith(reply, 503, 'The booking office is closed');
        }
      };

      forms.get<{ Params: { reference: string } }>('/api/bookings/:reference', ({ params: { reference } }, reply) =>
        withBooking(reference, reply, (_, stored) => sendBooking(reply, stored)),
      );

      forms.patch<{ Params: { reference: string } }>('/api/bookings/:reference', async (request, reply) => {
        const read = await readForm(fromNode(request.raw, reply.raw), { bytes: 64 * 1024 });
        if (!read.ok) return reply.send(read.response);
        if (!read.isJson) return refuseWith(reply, 415, 'A merge patch is JSON (RFC 7396)');
        const wanted = request.headers['if-match'];
        if (!wanted) return refuseWith(reply, 428, 'Say which version is to be changed, by If-Match');
        return withBooking(request.params.reference, reply, async (db, stored) => {
          const { reference, version } = stored;
          // The second of two editors gets a 412, so neither overwrites the other.
          if (wanted !== etagOf(version)) return refuseWith(reply, 412, 'Somebody else has changed this booking', version);
          // A patch says little by itself: what becomes of the whole is what has to be right.
          const result = await validateAsync(bookedForm, applyMergePatch(detailsOf(stored), read.raw), {
            source: 'json',
            unknown: 'refuse',
          });
          if (!result.ok) return reply.send(problemResponse(toProblemDetails(result.findings)));
          const details = { ...stored.details, ...result.data };
          const next = await db.change(reference, version, details);
          return next === undefined
            ? refuseWith(reply, 412, 'Somebody else has changed this booking')
            : sendBooking(reply, { ...stored, details, version: next });
        });
      });

      forms.post('/api/bookings', async (request, reply) => {
        // The page that works without script is in English.
        const language = request.headers.accept?.includes('text/html') ? 'en' : languageOf(request.headers['accept-language']);
        const result = await validateRequest(form, fromNode(request.raw, reply.raw), {
          messages: CATALOGUES[language],
          limits: { bytes: 64 * 1024, files: 1, fileBytes: 2_500_000, time: 10_000 },
          timeout: 6000,
        });
        const drawsPage = result.acceptsHtml;
        const refusePage = async (status: number, raw: unknown, findings: Drawn): Promise<FastifyReply> =>
          sendPage(reply, status, await drawRefused(await plainPage(), { schema: form, raw, findings }));
        if (!result.ok) return drawsPage ? refusePage(result.problem.status, result.raw, result.findings) : reply.send(result.response);

        const passage: Passage = result.data;
        const refuse = (status: number, title: string, { path, word }: Pick<GivenFinding, 'path'> & { word: Word }) => {
          const message = say(language, word);
          if (drawsPage) return refusePage(status, stringsOf(passage), [{ path, message, severity: 'error', code: 'taken' }]);
          const errors = path === '' ? [] : [{ pointer: `/${path}`, detail: message, code: 'taken', params: {} }];
          const problem: Problem = { type: 'about:blank', title, status, detail: message, errors };
          return reply.send(problemResponse(problem));
        };
        try {
          const booked = await (await open()).book(passage);
          if ('conflict' in booked) return await refuse(409, 'Somebody was quicker', CONFLICTS[booked.conflict]);
          if (drawsPage) return await sendPage(reply, 201, drawBooked(await plainPage(), passage.vessel, booked.reference));
          return await reply.code(201).send(booked);
        } catch (error) {
          if (!(error instanceof Unavailable)) throw error;
          request.log.error(error);
          return refuse(503, 'The booking office is closed', { path: '', word: 'closed' });
        }
      });
    }),
  );

  const nowhere = (): Promise<string> => readFile(join(pages['/']!, 'nowhere.html'), 'utf8');
  app.setNotFoundHandler(async (request, reply) =>
    request.headers.accept?.includes('text/html')
      ? sendPage(reply, 404, await nowhere())
      : refuseWith(reply, 404, 'There is nothing at this address'),
  );

  // Without the slash at its end, a path leads to that with it.
  for (const [path, root] of Object.entries(pages))
    void app.register(fastifyStatic, { root, prefix: path.replace(/(?<=.)\/$/, ''), redirect: true, decorateReply: path === '/' });
  return app;
}

/** Data as a form would send it. */
function stringsOf(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(stringsOf);
  if (typeof value === 'object' && value !== null && !(value instanceof File))
    return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, stringsOf(inner)]));
  return typeof value === 'number' ? String(value) : value === true ? 'on' : value;
}
