import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { entranceOf } from './entrance.mjs';
import { isPrivate, refusalOf } from './guard.mjs';

type Asked = Parameters<typeof refusalOf>[0];
type Server = Parameters<typeof refusalOf>[1];
const HERE: Server = { host: '127.0.0.1', port: 4400, entrance: null };
const openServer = (): Server => ({
  host: '0.0.0.0',
  port: 4400,
  entrance: entranceOf({ token: 'a secret', port: 4400 }),
});
const asked = (more: Partial<Asked> & { headers?: Asked['headers'] } = {}): Asked => ({
  method: 'POST',
  url: '/api/draw',
  ...more,
  headers: { host: 'localhost:4400', ...more.headers },
});
const statusOf = (request: Asked, server = HERE) => refusalOf(request, server)?.status ?? 200;

describe('on this machine alone', () => {
  test.each<[string, Partial<Asked>, number]>([
    ['a program', {}, 200],
    ['a program by number', { headers: { host: '127.0.0.1:4400' } }, 200],
    ['our own page', { headers: { origin: 'http://localhost:4400', 'sec-fetch-site': 'same-origin' } }, 200],
    ['an address that was typed', { method: 'GET', url: '/', headers: { 'sec-fetch-site': 'none' } }, 200],
    ['a link from elsewhere', { method: 'GET', url: '/report/x', headers: { 'sec-fetch-site': 'cross-site' } }, 200],
    ['another page', { headers: { origin: 'http://elsewhere.example', 'sec-fetch-site': 'cross-site' } }, 403],
    ['another page that tells its origin only', { headers: { origin: 'http://elsewhere.example' } }, 403],
    ['a page of another port', { headers: { origin: 'http://localhost:9000', 'sec-fetch-site': 'same-site' } }, 403],
    ['a page without an origin', { headers: { origin: 'null' } }, 403],
    ['a name that was made to lead here', { headers: { host: 'elsewhere.example' } }, 421],
    ['the same for a page', { method: 'GET', url: '/', headers: { host: 'elsewhere.example:4400' } }, 421],
    ['TRACE', { method: 'TRACE' }, 405],
    ['CONNECT', { method: 'CONNECT', url: 'elsewhere.example:443' }, 405],
    ['a broken address', { url: '/%E0%A4%A' }, 400],
    ['a whole address', { url: 'http://elsewhere.example/' }, 400],
    ['a hidden line end', { url: '/api/%0d%0adraw' }, 400],
    ['a long address', { url: `/${'a'.repeat(10_000)}` }, 414],
  ])('%s', (_, request, status) => expect(statusOf(asked(request))).toBe(status));
});

test('open to others, everything but the program’s own parts asks for the token', () => {
  const OPEN = openServer();
  const bearing = (token: string) => asked({ headers: { host: 'box.example:4400', authorization: `Bearer ${token}` } });
  expect(statusOf(asked(), OPEN)).toBe(401);
  expect(refusalOf(asked(), OPEN)!.headers).toEqual({ 'WWW-Authenticate': 'Bearer' });
  expect(statusOf(bearing('another secret'), OPEN)).toBe(401);
  expect(statusOf(bearing('a secreT'), OPEN)).toBe(401);
  expect(statusOf(bearing('a secret'), OPEN)).toBe(200);
  for (const url of ['/', '/report/x/figures', '/demo/orders.csv', '/_next/data/x', '/api/source/facts'])
    expect(statusOf(asked({ method: 'GET', url }), OPEN)).toBe(401);
  for (const url of ['/_next/static/chunks/a.js', '/icon.svg', '/entrance'])
    expect(statusOf(asked({ method: 'GET', url }), OPEN)).toBe(200);
  const pass = /^[^;]*/.exec(OPEN.entrance!.givenCookie)![0];
  expect(statusOf(asked({ headers: { cookie: `other=1; ${pass}; more=2` } }), OPEN)).toBe(200);
  expect(statusOf(asked({ headers: { cookie: `${pass.slice(0, -1)}x` } }), OPEN)).toBe(401);
  expect(statusOf(asked({ headers: { cookie: pass, origin: 'http://elsewhere.example' } }), OPEN)).toBe(403);
  expect([
    isPrivate('127.0.0.1'),
    isPrivate('localhost'),
    isPrivate('::1'),
    isPrivate('0.0.0.0'),
    isPrivate('box'),
  ]).toEqual([true, true, true, false, false]);
});

test('whatever is asked, it is passed on or refused with a status of 400 and more', () =>
  fc.assert(
    fc.property(
      fc.string(),
      fc.string(),
      fc.dictionary(fc.constantFrom('host', 'origin', 'authorization', 'sec-fetch-site'), fc.string()),
      (method, url, headers) => {
        const OPEN = openServer();
        const refusal = refusalOf({ method, url, headers }, OPEN);
        if (refusal) expect(refusal.status).toBeGreaterThanOrEqual(400);
        if (refusal) expect(refusal.status).toBeLessThan(500);
      },
    ),
  ));
