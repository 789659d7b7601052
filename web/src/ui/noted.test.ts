import { afterEach, expect, test, vi } from 'vitest';
import { inBrowser, inTab } from './noted';

afterEach(() => vi.unstubAllGlobals());

test.each([
  ['localStorage', inBrowser],
  ['sessionStorage', inTab],
] as const)('what is noted in the %s is kept there, and in the page where that may not be used', (name, notes) => {
  const kept = new Map<string, string>();
  vi.stubGlobal(name, {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => kept.set(key, value),
    removeItem: (key: string) => kept.delete(key),
  });
  notes.set('theme', 'dark');
  expect([notes.get('theme'), kept.get('theme'), notes.get('other')]).toEqual(['dark', 'dark', null]);
  notes.set('theme', null);
  expect([notes.get('theme'), kept.size]).toEqual([null, 0]);

  // As a browser does it that blocks site data: already naming the storage throws.
  vi.unstubAllGlobals();
  Object.defineProperty(globalThis, name, {
    configurable: true,
    get() {
      throw new DOMException('Access is denied for this document.', 'SecurityError');
    },
  });
  expect(notes.get('theme')).toBeNull();
  notes.set('theme', 'light');
  expect(notes.get('theme')).toBe('light');
  notes.set('theme', null);
  expect(notes.get('theme')).toBeNull();
  delete (globalThis as Partial<Record<typeof name, unknown>>)[name];
});
