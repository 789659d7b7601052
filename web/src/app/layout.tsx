import type { Metadata, Viewport } from 'next';
import { headers } from 'next/headers';
import { connection } from 'next/server';
import type { ReactNode } from 'react';
import '@fontsource/archivo/400.css';
import '@fontsource/archivo/500.css';
import '@fontsource/archivo/600.css';
import '@fontsource/archivo/700.css';
import '@fontsource/archivo-narrow/400.css';
import '@fontsource/archivo-narrow/600.css';
import './globals.css';
import { EARLY_SCRIPT } from '@/ui/early';
import { EarlyPresses } from './EarlyPresses';

export const metadata: Metadata = {
  title: 'Bold Ruler',
  description: 'Performance figures from sales rows, exact and with their working shown.',
};

export const viewport: Viewport = { themeColor: '#ECEDE8' };

export default async function Layout({ children }: { children: ReactNode }) {
  // The policy's number is made anew for each request, so no page is made ahead.
  await connection();
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en">
      <body className="min-h-screen antialiased">
        {/* A browser tells nobody the number, so it is never the one that was sent. */}
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: EARLY_SCRIPT }} />
        {children}
        <EarlyPresses />
      </body>
    </html>
  );
}
