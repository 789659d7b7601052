// The HTTP server around the application: what may not pass is refused here, everything else is passed on.
import { createServer } from 'node:http';
import { ENTRANCE_POLICY, entrancePage, safeTarget } from './entrance.mjs';
import { ENTRANCE, refusalOf } from './guard.mjs';

const HEADERS = {
  'Cache-Control': 'no-store',
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'no-referrer',
  'X-Frame-Options': 'DENY',
};
/** Bytes of a form with a token and an address. */
const LONGEST_FORM = 20_000;

/**
 * @param {object} about
 * @param {(request: import('node:http').IncomingMessage, response: import('node:http').ServerResponse) => unknown} about.handle
 *   answers what may pass
 * @param {((request: import('node:http').IncomingMessage, socket: import('node:stream').Duplex, head: Buffer) => unknown) | null}
 *   [about.upgrade] takes WebSockets of our own pages; all are refused where there is none
 * @param {string} about.host it listens on
 * @param {number} about.port
 * @param {ReturnType<typeof import('./entrance.mjs').entranceOf> | null} about.entrance
 * @param {{ headers: number, request: number, check: number }} [about.limits] milliseconds: until a request's headers are there,
 *   until all of it is there, and between two looks at that
 * @returns {import('node:http').Server}
 */
export function listenerOf({
  handle,
  upgrade = null,
  host,
  port,
  entrance,
  limits = { headers: 10_000, request: 60_000, check: 5_000 },
}) {
  const server = createServer({ connectionsCheckingInterval: limits.check }, (request, response) => {
    void answer(request, response).catch(() => {
      if (!response.headersSent) response.writeHead(500, HEADERS);
      response.end();
    });
  });
  const addressOf = (request) => request.socket.remoteAddress ?? '';

  async function answer(request, response) {
    const { method, url, headers } = request;
    const refusal = refusalOf({ method, url, headers, address: addressOf(request) }, { host, port, entrance });
    if (refusal?.code === 'no-token' && method === 'GET' && String(headers.accept ?? '').includes('text/html'))
      return sendEntrance(response, 401, { to: url });
    if (refusal) {
      const { status, headers: more = {}, ...words } = refusal;
      response.writeHead(status, { ...HEADERS, 'Content-Type': 'application/json', ...more, Connection: 'close' });
      response.end(method === 'HEAD' ? '' : `${JSON.stringify({ ...words, place: null })}\n`);
      return;
    }
    if (entrance !== null && new URL(url, 'http://here').pathname === ENTRANCE) return enter(request, response);
    await handle(request, response);
  }

  async function enter(request, response) {
    if (request.method !== 'POST') return sendSeeOther(response, '/');
    const form = new URLSearchParams(await textOf(request));
    const to = safeTarget(form.get('to') ?? '/');
    const wait = entrance.waitOf(addressOf(request));
    if (wait > 0) {
      const seconds = Math.ceil(wait / 1000);
      response.setHeader('Retry-After', String(seconds));
      return sendEntrance(response, 429, {
        to,
        wrong: `There were too many wrong tokens. Wait ${seconds} ${seconds === 1 ? 'second' : 'seconds'}, then try again.`,
      });
    }
    // Who copies it from a terminal may take blanks along.
    if (!entrance.isToken((form.get('token') ?? '').trim(), addressOf(request)))
      return sendEntrance(response, 401, {
        to,
        wrong: 'That is not this server’s token. Check it in the terminal where the server was started.',
      });
    response.setHeader('Set-Cookie', entrance.givenCookie);
    return sendSeeOther(response, to);
  }

  // What is no request at all is answered; a connection that was opened ahead and never used is closed without a word, as an answer
  // would be taken for that of the next request.
  server.on('clientError', (error, socket) => {
    if (!socket.writable || socket.bytesRead === 0) return socket.destroy();
    const status =
      error.code === 'HPE_HEADER_OVERFLOW'
        ? '431 Request Header Fields Too Large'
        : error.code === 'ERR_HTTP_REQUEST_TIMEOUT'
          ? '408 Request Timeout'
          : '400 Bad Request';
    socket.end(
      `HTTP/1.1 ${status}\r\nConnection: close\r\nContent-Length: 0\r\nX-Content-Type-Options: nosniff\r\n\r\n`,
    );
  });
  server.on('upgrade', (request, socket, head) => {
    const { method, url, headers } = request;
    const refusal = refusalOf({ method, url, headers, address: addressOf(request) }, { host, port, entrance });
    if (upgrade && !refusal) return upgrade(request, socket, head);
    socket.end('HTTP/1.1 403 Forbidden\r\nConnection: close\r\nContent-Length: 0\r\n\r\n');
  });
  server.headersTimeout = limits.headers;
  server.requestTimeout = limits.request;
  return server;
}

function sendEntrance(response, status, asked) {
  response.writeHead(status, {
    ...HEADERS,
    'Content-Type': 'text/html; charset=utf-8',
    'Content-Security-Policy': ENTRANCE_POLICY,
    // With none at all a browser would not say that the form comes from here.
    'Referrer-Policy': 'same-origin',
    Connection: 'close',
  });
  response.end(entrancePage(asked));
}

function sendSeeOther(response, to) {
  response.writeHead(303, { ...HEADERS, Location: to });
  response.end();
}

/** The text of a small body. Throws where it is too long. */
async function textOf(request) {
  let text = '';
  for await (const part of request) {
    text += part;
    if (text.length > LONGEST_FORM) throw new RangeError('the form is too long');
  }
  return text;
}
