import { NextResponse, type NextRequest } from 'next/server';

/** With `npm run dev` parts are sent anew as they change, which the policy of what is shipped does not allow. */
const IN_DEVELOPMENT = process.env.NODE_ENV === 'development';

/**
 * A content security policy for every page: scripts of this application alone, named by a number used once; nothing is asked
 * of any other place, and no other page may frame it. Styles in attributes are allowed, as places of marks are set by them.
 */
export function proxy(request: NextRequest): NextResponse {
  const nonce = btoa(String.fromCharCode(...crypto.getRandomValues(new Uint8Array(16))));
  const policy = [
    "default-src 'none'",
    `script-src 'nonce-${nonce}' 'strict-dynamic'${IN_DEVELOPMENT ? " 'unsafe-eval'" : ''}`,
    IN_DEVELOPMENT ? "style-src-elem 'self' 'unsafe-inline'" : `style-src-elem 'self' 'nonce-${nonce}'`,
    "style-src-attr 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self' data:",
    IN_DEVELOPMENT ? "connect-src 'self' ws:" : "connect-src 'self'",
    IN_DEVELOPMENT ? "worker-src 'self' blob:" : "worker-src 'self'",
    "manifest-src 'self'",
    "base-uri 'none'",
    "form-action 'none'",
    "frame-ancestors 'none'",
    "object-src 'none'",
  ].join('; ');
  const headers = new Headers(request.headers);
  headers.set('x-nonce', nonce);
  headers.set('Content-Security-Policy', policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set('Content-Security-Policy', policy);
  return response;
}

export const config = { matcher: '/((?!api/|_next/static|demo/).*)' };
