/** Methods that anything here is asked by. */
const METHODS = new Set(['GET', 'HEAD', 'POST', 'OPTIONS']);
/** Characters of an address. */
const LONGEST = 8192;

const LOOPBACK = ['localhost', '127.0.0.1', '[::1]'];
const EVERYWHERE = new Set(['0.0.0.0', '::', '[::]']);

/** Whether a server that listens there is heard by this machine alone. */
export const isPrivate = (host) => LOOPBACK.includes(host) || host === '::1';

/**
 * What a request is refused with before anything is done with it; null where it may pass.
 * @param {{ method?: string, url?: string, headers: Record<string, string | string[] | undefined>, address?: string }} request
 *   `address` of who asks
 * @param {{ host: string, port: number, entrance: ReturnType<typeof import('./entrance.mjs').entranceOf> | null }} server `host` it
 *   listens on; `entrance` where a token is asked for
 * @returns {{ status: number, code: string, message: string, remedy: string | null, headers?: Record<string, string> } | null}
 */
export function refusalOf({ method = 'GET', url = '/', headers, address = '' }, { host, port, entrance }) {
  const refused = (status, code, message, remedy = null, more = undefined) => ({
    status,
    code,
    message,
    remedy,
    ...(more ? { headers: more } : {}),
  });
  if (!METHODS.has(method))
    return refused(405, 'unknown-method', `${method.slice(0, 20)} is not answered`, 'ask with GET or POST', {
      Allow: [...METHODS].join(', '),
    });
  if (url.length > LONGEST) return refused(414, 'long-address', 'the address is too long', 'send it in the body');
  let path;
  try {
    path = decodeURIComponent(new URL(url, 'http://here').pathname);
  } catch {
    return refused(400, 'broken-address', 'the address cannot be read', 'write special characters as %xx');
  }
  // oxlint-disable-next-line no-control-regex
  if (!url.startsWith('/') || /[\u0000-\u001f\\]/.test(path))
    return refused(400, 'broken-address', 'the address cannot be read', 'write special characters as %xx');
  const asked = String(headers.host ?? '').toLowerCase();
  // Only names that are ours: another one has been made to lead here.
  const names = EVERYWHERE.has(host) ? null : isPrivate(host) ? LOOPBACK : [host.toLowerCase(), ...LOOPBACK];
  if (names && !names.some((name) => asked === name || asked === `${name}:${port}`))
    return refused(421, 'other-host', 'this server does not go by that name', `ask for localhost:${port}`);
  const isQuestion = path === '/api' || path.startsWith('/api/');
  const { origin } = headers;
  const site = headers['sec-fetch-site'];
  const isForeign =
    (site !== undefined && site !== 'same-origin' && site !== 'none') ||
    (origin !== undefined && origin !== `http://${asked}` && origin !== `https://${asked}`);
  if (isForeign && (isQuestion || method === 'POST' || headers.upgrade !== undefined))
    return refused(403, 'other-page', 'another page may not ask this server', 'ask from a program');
  if (entrance === null || path === ENTRANCE || isForEverybody(path)) return null;
  if (entrance.isPass(String(headers.cookie ?? ''))) return null;
  const bearer = /^Bearer (.+)$/i.exec(String(headers.authorization ?? ''))?.[1];
  if (bearer !== undefined) {
    const wait = entrance.waitOf(address);
    if (wait > 0)
      return refused(
        429,
        'too-many-tries',
        'too many wrong tokens came from there',
        `wait ${Math.ceil(wait / 1000)} s`,
        {
          'Retry-After': String(Math.ceil(wait / 1000)),
        },
      );
    if (entrance.isToken(bearer, address)) return null;
  }
  return refused(401, 'no-token', 'this server asks for its token', 'send it as “Authorization: Bearer TOKEN”', {
    'WWW-Authenticate': 'Bearer',
  });
}

/** Where the page that asks for the token sends it. */
export const ENTRANCE = '/entrance';

/** The program's own parts hold nothing of anybody's. */
const isForEverybody = (path) => path.startsWith('/_next/static/') || path === '/icon.svg';
