// npm start: everything from a fresh clone to the application with its demo report.
import { createServer } from 'node:net';
import { endWithNpm, ready } from './ready.mjs';

const port = process.env.PORT || '4400';
if (!/^\d{1,5}$/.test(port) || Number(port) > 65535 || Number(port) === 0) {
  console.error(`PORT takes a port number from 1 to 65535, not “${port}”`);
  process.exit(2);
}
const host = process.env.HOST || '127.0.0.1';

/** Why the port cannot be had; null where it can. It is asked before minutes are spent on a build. */
const taken = await new Promise((resolve) => {
  const probe = createServer()
    .once('error', ({ code }) => resolve(code))
    .listen(Number(port), host, () => probe.close(() => resolve(null)));
});
if (taken !== null) {
  console.error(
    taken === 'EADDRINUSE'
      ? `Port ${port} is taken. Choose another one: PORT=${Number(port) < 65535 ? Number(port) + 1 : 4400} npm start`
      : `The server cannot listen on ${host}:${port} (${taken}).`,
  );
  process.exit(1);
}
endWithNpm();
await ready();
process.env.PORT = port;
process.env.NODE_ENV = 'production';
process.env.NEXT_TELEMETRY_DISABLED = '1';
await import('../web/server.mjs');
