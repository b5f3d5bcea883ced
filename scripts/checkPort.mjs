// Whether the demo can have its port: said before it is built, which takes longer.
import { once } from 'node:events';
import { createServer } from 'node:net';

const port = Number(process.env.PORT ?? 8417);
const server = createServer().listen(port, '127.0.0.1');
try {
  await once(server, 'listening');
} catch (error) {
  if (error.code !== 'EADDRINUSE') throw error;
  console.error(`Port ${port} is in use: set PORT to another, as in PORT=8418 npm start.`);
  process.exitCode = 1;
}
server.close();
