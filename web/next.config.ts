import type { NextConfig } from 'next';

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
    ];
  },
};

export default config;
