// The application's server, as it is built or, with BOLD_RULER_DEVELOPMENT, over its sources.
import { randomBytes } from 'node:crypto';
import { EventEmitter } from 'node:events';
import { fileURLToPath } from 'node:url';
import next from 'next';
import { entranceOf } from './server/entrance.mjs';
import { isPrivate } from './server/guard.mjs';
import { listenerOf } from './server/listener.mjs';

const dir = fileURLToPath(new URL('.', import.meta.url));
// What says how databases are reached lies where the program was started.
process.env.BOLD_RULER_FOLDER ??= process.env.INIT_CWD ?? process.cwd();
process.chdir(dir);
const dev = process.env.BOLD_RULER_DEVELOPMENT === '1';
const host = process.env.HOST || '127.0.0.1';
const port = Number(process.env.PORT || 4400);
const isOpen = !isPrivate(host);
const token = process.env.BOLD_RULER_TOKEN || (isOpen ? randomBytes(18).toString('base64url') : null);

// Next would listen for WebSockets by itself, past the guard: it is given something that never says any.
const app = next({ dev, dir, hostname: host, port, httpServer: new EventEmitter() });
await app.prepare();
const server = listenerOf({
  handle: app.getRequestHandler(),
  upgrade: dev ? app.getUpgradeHandler() : null,
  host,
  port,
  entrance: token === null ? null : entranceOf({ token, port }),
});
server.on('error', (error) => {
  console.error(
    error.code === 'EADDRINUSE'
      ? `Port ${port} is taken. Choose another one with PORT.`
      : `The server cannot listen on ${host}:${port} (${error.code ?? error.message}).`,
  );
  process.exit(1);
});
server.listen(port, host, () => {
  if (isOpen) console.log(`The server listens on ${host}: others on the network can open it.`);
  if (token !== null)
    console.log(
      process.env.BOLD_RULER_TOKEN
        ? 'It asks for the token in BOLD_RULER_TOKEN, browsers once, programs as “Authorization: Bearer $BOLD_RULER_TOKEN”.'
        : `It asks for the token ${token}, browsers once, programs as “Authorization: Bearer ${token}”.`,
    );
  console.log('Bold Ruler is ready:');
  console.log(`http://${isOpen && host !== '0.0.0.0' && host !== '::' ? host : 'localhost'}:${port}`);
});
