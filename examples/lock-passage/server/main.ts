// Starts the booking office on this machine. PORT, LOCK_PASSAGE_DATA (a folder for the embedded database) and DATABASE_URL (a
// PostgreSQL server in its place, which several of these may share) change what it uses.

import { mkdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { makeApp } from './app.ts';
import { openDatabase, type Database } from './database.ts';

/** Milliseconds that requests under way have to end; then they are cut. */
const PATIENCE = 10_000;

// This file runs from dist-server/server.
const home = (path: string): string => fileURLToPath(new URL(`../../${path}`, import.meta.url));

const port = Number(process.env['PORT'] ?? 8417);
const folder = process.env['LOCK_PASSAGE_DATA'] ?? home('.data');
const where = process.env['DATABASE_URL'] ?? folder;
if (where === folder && !where.startsWith('memory://')) mkdirSync(where, { recursive: true });

// Only whoever has the port opens the database: two servers must not write into one embedded database.
let opened: Promise<Database> | undefined;
const open = (): Promise<Database> => (opened ??= openDatabase(where));
const pages = {
  '/': home('dist'),
  '/react/': home('../passage-react/dist'),
  '/vue/': home('../passage-vue/dist'),
  '/svelte/': home('../passage-svelte/dist'),
  '/solid/': home('../passage-solid/dist'),
  '/angular/': home('../passage-angular/dist'),
  '/steps/': home('../steps-react/dist'),
  '/kit/': home('../component-kit/dist'),
  '/kits/': home('../component-kits/dist'),
  '/docs/': home('../../docs/dist'),
  '/docs/try/': home('../../docs/try/dist'),
};
const app = await makeApp(open, pages, home('data/waterways.yaml'));
try {
  await app.listen({ port, host: '127.0.0.1' });
  await open();
  const address = app.server.address();
  console.log(`Book a passage: http://localhost:${typeof address === 'object' && address ? address.port : port} (Ctrl+C stops it)`);
} catch (error) {
  const taken = (error as { code?: string }).code === 'EADDRINUSE';
  console.error(taken ? `Port ${port} is in use: set PORT to another, as in PORT=8418 npm start.` : error);
  process.exit(1);
}
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, () => {
    setTimeout(() => app.server.closeAllConnections(), PATIENCE).unref();
    void app.close().then(async () => (await opened)?.close());
  });
}
