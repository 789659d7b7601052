import { connect, createServer, type AddressInfo } from 'node:net';
import type { Server } from 'node:http';
import { afterEach, expect, test } from 'vitest';
import { entranceOf } from './entrance.mjs';
import { listenerOf } from './listener.mjs';

let server: Server;
afterEach(() => {
  server.closeAllConnections();
  return new Promise((resolve) => server.close(resolve));
});

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as AddressInfo;
      probe.close(() => resolve(port));
    });
  });

/** A server whose clock runs fast. @returns its port */
async function listening(token: string | null = null): Promise<number> {
  const port = await freePort();
  server = listenerOf({
    handle: (request, response) => response.end(`page ${request.url}`),
    host: '127.0.0.1',
    port,
    entrance: token === null ? null : entranceOf({ token, port }),
    limits: { headers: 60, request: 120, check: 20 },
  });
  await new Promise<void>((resolve) => server.listen(port, '127.0.0.1', resolve));
  return port;
}

/** Everything that comes on a connection until it is closed. */
const heard = (port: number, said: string): Promise<string> =>
  new Promise((resolve, reject) => {
    const socket = connect(port, '127.0.0.1', () => said && socket.write(said));
    let text = '';
    socket.on('data', (part: Buffer) => (text += part.toString()));
    socket.on('close', () => resolve(text));
    socket.on('error', reject);
  });

test('connections that are never used are closed without a word, and a page is there after them', async () => {
  const port = await listening();
  const idle = await Promise.all(Array.from({ length: 30 }, () => heard(port, '')));
  expect(new Set(idle)).toEqual(new Set(['']));
  expect(await (await fetch(`http://127.0.0.1:${port}/x`)).text()).toBe('page /x');
});

test('what is no request, or only the beginning of one, is answered', async () => {
  const port = await listening();
  expect(await heard(port, 'nonsense\r\n\r\n')).toMatch(/^HTTP\/1\.1 400 /);
  expect(await heard(port, 'GET / HTTP/1.1\r\nHost: ')).toMatch(/^HTTP\/1\.1 408 /);
  expect(await heard(port, `GET / HTTP/1.1\r\nX: ${'a'.repeat(20_000)}\r\n\r\n`)).toMatch(/^HTTP\/1\.1 431 /);
});

test('WebSockets are refused', async () => {
  const port = await listening();
  const upgrade = `GET / HTTP/1.1\r\nHost: localhost:${port}\r\nConnection: Upgrade\r\nUpgrade: websocket\r\n\r\n`;
  expect(await heard(port, upgrade)).toMatch(/^HTTP\/1\.1 403 /);
});

test('a browser is asked for the token once, a program with each request', async () => {
  const port = await listening('tea time');
  const at = (path: string, more: RequestInit = {}) =>
    fetch(`http://127.0.0.1:${port}${path}`, { redirect: 'manual', ...more });
  const page = { headers: { Accept: 'text/html' } };
  const asked = await at('/report/x?a=1', page);
  expect([asked.status, asked.headers.get('content-security-policy')]).toEqual([
    401,
    expect.stringContaining("default-src 'none'"),
  ]);
  expect(await asked.text()).toContain('name="to" value="/report/x?a=1"');
  const enter = (token: string) =>
    at('/entrance', { method: 'POST', body: new URLSearchParams({ token, to: '/report/x?a=1' }) });
  const wrong = await enter('coffee time');
  expect([wrong.status, wrong.headers.get('set-cookie')]).toEqual([401, null]);
  expect(await wrong.text()).toContain('That is not this server’s token.');
  const right = await enter(' tea time\n');
  expect([right.status, right.headers.get('location')]).toEqual([303, '/report/x?a=1']);
  const cookie = right.headers.get('set-cookie')!.split(';')[0]!;
  expect(await (await at('/report/x', { headers: { Cookie: cookie } })).text()).toBe('page /report/x');
  expect((await at('/api/source/facts', { method: 'POST' })).status).toBe(401);
  expect((await at('/api/source/facts', { method: 'POST', headers: { Cookie: cookie } })).status).toBe(200);
  const bearing = (token: string) => at('/api/draw', { method: 'POST', headers: { Authorization: `Bearer ${token}` } });
  expect((await bearing('tea time')).status).toBe(200);
  for (let i = 0; i < 4; i++) await bearing('tea timf');
  const slowed = await bearing('tea time');
  expect([slowed.status, slowed.headers.get('retry-after')]).toEqual([429, '1']);
  expect((await enter('tea time')).status).toBe(429);
});
