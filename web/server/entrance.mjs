// How somebody gets in where the server is open to others: a program sends the token with each request, a person types it once.
import { createHash, createHmac, timingSafeEqual } from 'node:crypto';

/** Milliseconds that an address waits after its fourth wrong try; twice as long after each further one. */
const FIRST_WAIT = 1_000;
const LONGEST_WAIT = 60_000;
const FREE_TRIES = 3;
/** Wrong tries are forgotten after so long without another one. */
const REMEMBERED = 15 * 60_000;
const MOST_ADDRESSES = 10_000;

const digest = (text) => createHash('sha256').update(text).digest();
/** Equal in constant time, whatever their lengths. */
const isSame = (given, wanted) => timingSafeEqual(digest(given), digest(wanted));

/** One household of IPv6 has many addresses: their first half counts. */
const householdOf = (address) => {
  const plain = address.replace(/^::ffff:(?=\d+\.)/, '');
  return plain.includes(':') ? plain.split(':').slice(0, 4).join(':') : plain;
};

/**
 * The entrance of a server with a token.
 * @param {{ token: string, port: number, now?: () => number }} server `now` in milliseconds
 */
export function entranceOf({ token, port, now = Date.now }) {
  /** The cookie does not hold the token: who reads it there cannot send it from elsewhere as their own. */
  const pass = createHmac('sha256', token).update('bold-ruler entrance').digest('base64url');
  const cookie = `bold-ruler-${port}`;
  /** @type {Map<string, { count: number, last: number }>} */
  const wrong = new Map();

  /** Milliseconds that an address has to wait before it may try again; 0 where it may. */
  function waitOf(address) {
    const tries = wrong.get(householdOf(address));
    if (!tries || now() - tries.last > REMEMBERED || tries.count <= FREE_TRIES) return 0;
    const wait = Math.min(LONGEST_WAIT, FIRST_WAIT * 2 ** (tries.count - FREE_TRIES - 1));
    return Math.max(0, tries.last + wait - now());
  }

  return {
    waitOf,

    /** Whether a token is the right one; a wrong one is counted against the address it came from. */
    isToken(given, address) {
      const household = householdOf(address);
      if (isSame(given, token)) {
        wrong.delete(household);
        return true;
      }
      const before = wrong.get(household);
      const isFresh = before && now() - before.last <= REMEMBERED;
      // The oldest makes room, so that many addresses cannot fill the memory.
      wrong.delete(household);
      if (wrong.size >= MOST_ADDRESSES) wrong.delete(wrong.keys().next().value);
      wrong.set(household, { count: (isFresh ? before.count : 0) + 1, last: now() });
      return false;
    },

    /** Whether a request's cookies let it in. */
    isPass(cookies) {
      return cookies.split(/;\s*/).some((one) => {
        const at = one.indexOf('=');
        return one.slice(0, at) === cookie && isSame(one.slice(at + 1), pass);
      });
    },

    /** What a browser is given once the token was right: 90 days, for this server alone, out of reach of scripts. */
    givenCookie: `${cookie}=${pass}; HttpOnly; SameSite=Strict; Path=/; Max-Age=${90 * 86_400}`,
  };
}

const STYLE = `
:root { color-scheme: light dark; --paper: light-dark(#fafaf7, #222c35); --ink: light-dark(#16202b, #e9ebe4);
  --quiet: light-dark(#56636e, #a9b3ba); --hairline: light-dark(#6f7a83, #8b969e); --behind: light-dark(#b23a1e, #ef8368); }
body { margin: 0; min-height: 100vh; display: grid; place-items: center; background: light-dark(#ecede8, #161d24);
  color: var(--ink); font: 16px/1.5 Archivo, system-ui, sans-serif; }
main { box-sizing: border-box; width: min(26rem, 100vw); padding: 2rem; background: var(--paper);
  border-top: 6px solid #e9c15b; box-shadow: 0 6px 24px rgb(22 32 43 / 0.18); }
h1 { margin: 0 0 0.25rem; font-size: 1.375rem; } p { margin: 0 0 1.25rem; color: var(--quiet); }
label { display: block; font-weight: 600; margin-bottom: 0.25rem; }
input { box-sizing: border-box; width: 100%; padding: 0.5rem 0.75rem; border: 1px solid var(--hairline); border-radius: 3px;
  background: transparent; color: inherit; font: inherit; }
button { margin-top: 1rem; padding: 0.5rem 1.25rem; border: 0; border-radius: 3px; background: var(--ink); color: var(--paper);
  font: inherit; font-weight: 600; cursor: pointer; }
:focus-visible { outline: 2px solid var(--ink); outline-offset: 2px; }
[role=alert] { margin: 0.75rem 0 0; color: var(--behind); }
`;

const escaped = (text) => text.replace(/[&<>"']/g, (letter) => `&#${letter.charCodeAt(0)};`);

/** The policy of the entrance's page: its own styles, its own form, nothing else. */
export const ENTRANCE_POLICY = [
  "default-src 'none'",
  `style-src 'sha256-${createHash('sha256').update(STYLE).digest('base64')}'`,
  "form-action 'self'",
  "base-uri 'none'",
  "frame-ancestors 'none'",
].join('; ');

/**
 * The page that asks for the token.
 * @param {{ to: string, wrong?: string | null }} asked `to`: where to go then, an address on this server; `wrong`: why a try failed
 */
export function entrancePage({ to, wrong = null }) {
  return `<!doctype html>
<html lang="en">
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>Bold Ruler: access token</title>
<style>${STYLE}</style>
<main>
<h1>Bold Ruler</h1>
<p>This server is open to the network and asks for its access token. Whoever started it can read the token in its terminal.</p>
<form method="post" action="/entrance">
<input type="hidden" name="to" value="${escaped(to)}">
<label for="token">Access token</label>
<input id="token" name="token" type="password" required autofocus autocomplete="current-password"${wrong ? ' aria-describedby="wrong" aria-invalid="true"' : ''}>
${wrong ? `<p id="wrong" role="alert">${escaped(wrong)}</p>` : ''}
<button>Continue</button>
</form>
</main>
</html>
`;
}

/** An address on this server, to go to after the entrance; the first page where it would lead elsewhere. */
export const safeTarget = (to) => (/^\/(?![/\\])[^\\\s]*$/.test(to) ? to : '/');
