// The application's server: what may not pass is refused here, everything else is Next's.
import { randomBytes } from 'node:crypto';
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import next from 'next';
import { isPrivate, refusalOf } from './server/guard.mjs';

const dir = fileURLToPath(new URL('.', import.meta.url));
// What says how databases are reached lies where the program was started.
process.env.BOLD_RULER_FOLDER ??= process.env.INIT_CWD ?? process.cwd();
process.chdir(dir);
const host = process.env.HOST || '127.0.0.1';
const port = Number(process.env.PORT || 4400);
const open = !isPrivate(host);
const token = process.env.BOLD_RULER_TOKEN || (open ? randomBytes(18).toString('base64url') : null);

const HEADERS = {
  'Content-Type': 'application/json',
  'Cache-Control': 'no-store',
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'no-referrer',
  'X-Frame-Options': 'DENY',
};

const app = next({ dev: false, dir });
await app.prepare();
const handle = app.getRequestHandler();

const server = createServer(async (request, response) => {
  const refusal = refusalOf(request, { host, port, token });
  if (refusal) {
    const { status, headers = {}, ...words } = refusal;
    response.writeHead(status, { ...HEADERS, ...headers, Connection: 'close' });
    response.end(request.method === 'HEAD' ? '' : `${JSON.stringify({ ...words, place: null })}\n`);
    return;
  }
  try {
    await handle(request, response);
  } catch {
    if (!response.headersSent) response.writeHead(500, HEADERS);
    response.end();
  }
});
// What is no request at all is answered, too.
server.on('clientError', (error, socket) => {
  if (!socket.writable) return socket.destroy();
  const status = error.code === 'HPE_HEADER_OVERFLOW' ? '431 Request Header Fields Too Large' : '400 Bad Request';
  socket.end(`HTTP/1.1 ${status}\r\nConnection: close\r\nContent-Length: 0\r\nX-Content-Type-Options: nosniff\r\n\r\n`);
});
server.headersTimeout = 10_000;
server.requestTimeout = 60_000;
server.on('error', (error) => {
  console.error(
    error.code === 'EADDRINUSE'
      ? `Port ${port} is taken; choose another one with PORT.`
      : `The server cannot listen on ${host}:${port} (${error.code ?? error.message}).`,
  );
  process.exit(1);
});
server.listen(port, host, () => {
  console.log(`Bold Ruler is at http://${open ? host : 'localhost'}:${port}`);
  if (open) console.log(`It listens on ${host}, so others on the network can open it.`);
  if (token !== null)
    console.log(
      `Programs that ask /api send “Authorization: Bearer ${process.env.BOLD_RULER_TOKEN ? '$BOLD_RULER_TOKEN' : token}”.`,
    );
});
