import { expect, test } from 'vitest';
import type { Report } from '@bold-ruler/core/report';
import { listener, speaker } from './saying';

const report = {
  boldRuler: 1,
  name: 'Pellwether',
  figures: [{ id: 'a' }, { id: 'b' }],
  pages: [],
} as unknown as Report;

test('a report is said whole once, then what has changed; a worker that begins anew is told the whole', () => {
  let say = speaker();
  let hear = listener();
  const across = (...words: unknown[]) => {
    const message = structuredClone(say(words));
    return { size: JSON.stringify(message).length, words: hear(message) };
  };
  const first = across(report, 'a', 3);
  expect(first.words).toEqual([report, 'a', 3]);
  const again = across(report, 'b');
  expect(again.words).toEqual([report, 'b']);
  expect(again.words[0]).toBe(first.words[0]);
  expect(again.size).toBeLessThan(first.size);
  const renamed = { ...report, name: 'Other' };
  expect(across(renamed, 'b').words).toEqual([renamed, 'b']);
  // Another report between two questions about the first.
  expect(across(report, 'b').words).toEqual([report, 'b']);
  say = speaker();
  hear = listener();
  expect(across(renamed, 'c').words).toEqual([renamed, 'c']);
});

test('words without a report go as they are', () => {
  expect(listener()(structuredClone(speaker()(['id', true, null])))).toEqual(['id', true, null]);
  expect(listener()(speaker()([]))).toEqual([undefined]);
});
