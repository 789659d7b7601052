import { WEB } from './browser';
import { serve } from './serve';

/** One server for all browser tests that ask for nothing of it: what they keep is kept in their browsers. */
export default async function setup(): Promise<() => void> {
  const { url, stop } = await serve(WEB);
  process.env.BOLD_RULER_TESTED_AT = url;
  return stop;
}
