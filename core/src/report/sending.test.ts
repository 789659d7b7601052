import fc from 'fast-check';
import { expect, test } from 'vitest';
import { anyEdit } from '../edit/anyEdit.fixture';
import { base, namesOf } from '../edit/report.fixture';
import { edited } from '../edit';
import { isProblem } from '../problem';
import { tries } from '../proof/tries.fixture';
import { changesBetween, withChanges } from './sending';
import type { Report } from './report';

function after(report: Report, edit: Parameters<typeof edited>[1]): Report {
  try {
    return edited(report, edit, namesOf(report)).report;
  } catch (error) {
    if (!isProblem(error)) throw error;
    return report;
  }
}
const crossed = <T>(what: T): T => structuredClone(what);

test('whoever has the report before and is sent the changes has the report, after any row of edits', () => {
  fc.assert(
    fc.property(fc.array(anyEdit, { maxLength: 12 }), (edits) => {
      let here = base;
      let there = crossed(base);
      for (const edit of edits) {
        const next = after(here, edit);
        there = withChanges(there, crossed(changesBetween(here, next)));
        here = next;
        expect(there).toEqual(here);
      }
    }),
    { numRuns: tries(60) },
  );
});

test('a report that another one has nothing to do with arrives, too', () => {
  const other: Report = { ...base, figures: [], name: 'Other', accepted: undefined as never };
  const { accepted: _, ...without } = other;
  for (const [from, to] of [
    [base, without as Report],
    [without as Report, base],
  ] as const)
    expect(withChanges(crossed(from), crossed(changesBetween(from, to)))).toEqual(to);
});

test('little is sent where little has changed, and what has not changed stays the same object', () => {
  const [first, ...others] = base.figures;
  const now: Report = { ...base, figures: [{ ...first!, title: 'Alder leads' } as never, ...others] };
  const changes = changesBetween(base, now);
  expect(Object.keys(changes.lists)).toEqual(['figures']);
  expect(JSON.stringify(changes).length).toBeLessThan(JSON.stringify(base).length / 5);
  const there = crossed(base);
  const arrived = withChanges(there, crossed(changes));
  expect(arrived.measures).toBe(there.measures);
  expect(arrived.figures[1]).toBe(there.figures[1]);
  expect(changesBetween(base, base)).toEqual({ parts: {}, lists: {}, gone: [] });
});

test('figures in another order and twice the same object', () => {
  const [a, b, c] = base.figures;
  const now: Report = { ...base, figures: [c!, a!, b!, a!] };
  expect(withChanges(crossed(base), crossed(changesBetween(base, now))).figures).toEqual([c, a, b, a]);
});
