import { describe, expect, test } from 'vitest';
import type { Report } from '@bold-ruler/core/report';
import { listener, OUT_OF_STEP, speaker } from './saying';

const report = {
  boldRuler: 1,
  name: 'Pellwether',
  figures: [{ id: 'a' }, { id: 'b' }],
  pages: [],
} as unknown as Report;
const renamed = { ...report, name: 'Other' };

/** Both ends, and what lies between them. */
function wire() {
  const { say, startOver } = speaker();
  const hear = listener();
  return {
    startOver,
    say: (...words: unknown[]) => structuredClone(say(words)),
    hear,
    across(...words: unknown[]) {
      const message = structuredClone(say(words));
      return { size: JSON.stringify(message).length, words: hear(message) };
    },
  };
}

describe('a report on its way to the worker', () => {
  test('is said whole once, then what has changed', () => {
    const { across } = wire();
    const first = across(report, 'a', 3);
    expect(first.words).toEqual([report, 'a', 3]);
    const again = across(report, 'b');
    expect(again.words).toEqual([report, 'b']);
    expect(again.words[0]).toBe(first.words[0]);
    expect(again.size).toBeLessThan(first.size);
    expect(across(renamed, 'b').words).toEqual([renamed, 'b']);
    // Another report between two questions about the first.
    expect(across(report, 'b').words).toEqual([report, 'b']);
  });

  test('that did not arrive makes nothing of what follows into another report: that is told, and it is said anew', () => {
    const { say, hear, startOver } = wire();
    hear(say(report));
    // Lost between the two ends.
    say(renamed);
    const further = { ...renamed, pages: [{ id: 'p' }] };
    expect(() => hear(say(further))).toThrow(expect.objectContaining({ name: OUT_OF_STEP }));
    startOver();
    expect(hear(say(further, 'x'))).toEqual([further, 'x']);
    expect(hear(say(report))).toEqual([report]);
  });

  test('of which a worker that begins anew has heard nothing is told as well', () => {
    const { say } = wire();
    say(report);
    expect(() => listener()(say(renamed))).toThrow(/another report/);
  });

  test('does not change the words of questions without one', () => {
    expect(wire().across('id', true, null).words).toEqual(['id', true, null]);
    expect(wire().across().words).toEqual([undefined]);
  });
});
