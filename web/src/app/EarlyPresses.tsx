'use client';

import { useEffect } from 'react';
import { takePressed } from '@/ui/early';

/** Does what was pressed before the page could answer, as soon as it can. */
export function EarlyPresses() {
  useEffect(() => takePressed()?.click(), []);
  return null;
}
