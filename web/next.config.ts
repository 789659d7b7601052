import type { NextConfig } from 'next';

const IN_DEVELOPMENT = process.env.NODE_ENV === 'development';

/**
 * A content security policy for every script that is served: a worker has that of its own script, not its page’s. Rows and files are
 * in workers: these ask nothing of any other place, and evaluate nothing but WebAssembly. The policy of pages is in `src/proxy.ts`.
 */
const SCRIPTS = [
  "default-src 'none'",
  `script-src 'self' 'wasm-unsafe-eval'${IN_DEVELOPMENT ? " 'unsafe-eval'" : ''}`,
  IN_DEVELOPMENT ? "connect-src 'self' ws:" : "connect-src 'self'",
  IN_DEVELOPMENT ? "worker-src 'self' blob:" : "worker-src 'self'",
  "base-uri 'none'",
].join('; ');

const config: NextConfig = {
  transpilePackages: ['@bold-ruler/core'],
  serverExternalPackages: ['@resvg/resvg-js', 'fontkit', '@cantoo/pdf-lib'],
  // Types are checked by “npm run types” and “npm test”, which build what they rest on first.
  typescript: { ignoreBuildErrors: true },
  reactStrictMode: true,
  poweredByHeader: false,
  devIndicators: false,
  async headers() {
    return [
      {
        source: '/:path*',
        headers: [
          { key: 'X-Content-Type-Options', value: 'nosniff' },
          { key: 'Referrer-Policy', value: 'no-referrer' },
          { key: 'X-Frame-Options', value: 'DENY' },
          // Apart from other pages, threads may share memory.
          { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
          { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
        ],
      },
      { source: '/_next/static/:path*', headers: [{ key: 'Content-Security-Policy', value: SCRIPTS }] },
    ];
  },
};

export default config;
