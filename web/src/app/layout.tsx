import type { Metadata, Viewport } from 'next';
import { connection } from 'next/server';
import type { ReactNode } from 'react';
import '@fontsource/archivo/400.css';
import '@fontsource/archivo/500.css';
import '@fontsource/archivo/600.css';
import '@fontsource/archivo/700.css';
import '@fontsource/archivo-narrow/400.css';
import '@fontsource/archivo-narrow/600.css';
import './globals.css';

export const metadata: Metadata = {
  title: 'Bold Ruler',
  description: 'Performance figures from sales rows, exact and with their working shown.',
};

export const viewport: Viewport = { themeColor: '#ECEDE8' };

export default async function Layout({ children }: { children: ReactNode }) {
  // The policy's number is made anew for each request, so no page is made ahead.
  await connection();
  return (
    <html lang="en">
      <body className="min-h-screen antialiased">{children}</body>
    </html>
  );
}
