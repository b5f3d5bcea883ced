// `npm run dev`: the demo with live reload. Vite serves every page from the sources, the library's included; the booking
// office runs beside it, starts again when its own code changes, and serves the documentation as it was built.
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { createServer, defaultClientConditions } from 'vite';
import { build } from './build.mjs';
import { tsc } from './compiler.mjs';

const pages = {
  'passage-react': '/react/',
  'passage-vue': '/vue/',
  'passage-svelte': '/svelte/',
  'passage-solid': '/solid/',
  'passage-angular': '/angular/',
  'steps-react': '/steps/',
  'component-kit': '/kit/',
  'component-kits': '/kits/',
};
const office = process.env['PORT'] ?? '8417';
const resolve = { conditions: ['upper-gate-source', ...defaultClientConditions] };
const folder = (name) => fileURLToPath(new URL(`../examples/${name}/`, import.meta.url));

build();
const children = [
  spawn(process.execPath, [tsc, '-b', '--watch', '--preserveWatchOutput'], { stdio: 'inherit' }),
  spawn(process.execPath, ['--watch', `${folder('lock-passage')}dist-server/server/main.js`], {
    stdio: 'inherit',
    env: { ...process.env, PORT: office },
  }),
];

const proxy = { '/api': `http://localhost:${office}`, '/docs': `http://localhost:${office}` };
const servers = [];
for (const [index, [name, base]] of Object.entries(pages).entries()) {
  const server = await createServer({ root: folder(name), resolve, server: { proxy, port: 5174 + index } });
  await server.listen();
  servers.push(server);
  const { port } = server.httpServer.address();
  proxy[base] = { target: `http://localhost:${port}`, ws: true };
}
const main = await createServer({ root: folder('lock-passage'), resolve, server: { proxy, port: 5173 } });
await main.listen();
servers.push(main);
main.printUrls();

const stop = async () => {
  children.forEach((child) => child.kill());
  await Promise.all(servers.map((server) => server.close()));
  process.exit();
};
process.once('SIGINT', stop).once('SIGTERM', stop);
