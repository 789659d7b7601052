import { describe, expect, test } from 'vitest';
import { Problem, received } from '../problem';
import { readCsv } from '../reading';
import type { Report } from '../report';
import { columnarSource } from '../source';
import { makeTable } from '../table';
import { listedIn, openDesk, type Reach } from '.';
import { asked, desk, first, report, tables } from './desk.fixture';

test('a table whose rows are not here any more says so, and others go on', async () => {
  const bare = openDesk(new Map([['orders', tables.get('orders')!]]));
  for (const answer of [
    await bare.asked.profile(report, 'plan'),
    await bare.asked.months(report, 'plan'),
    await bare.asked.column(report, 'plan', 'month'),
    await bare.asked.match(report, 'orders', 'plan', {}),
    await bare.asked.preview(report, 'plan', 'x', '1'),
  ])
    expect(answer).toMatchObject({ ok: false, problem: { code: 'rows-gone' } });
  expect((await bare.asked.draw(report, first.id)).ok).toBe(false);
  expect((await bare.asked.check(report)).ok).toBe(true);
  const without = { ...report, figures: [{ id: 'x', brief: 'net sales by territory', look: {} }] };
  expect((await bare.asked.draw(without, 'x')).ok).toBe(true);
});

test('the tables are kept while they and the calendar stay the same, and follow when they do not', async () => {
  const before = desk.of(report);
  expect(desk.of(report)).toBe(before);
  const renamed = desk.of({ ...report, name: 'Other' });
  expect([renamed.source === before.source, renamed.vocabulary === before.vocabulary]).toEqual([true, true]);
  const more = desk.of({ ...report, measures: [...report.measures, { ...report.measures[0]!, name: 'more' }] });
  expect([more.source === before.source, more.vocabulary.measures.at(-1)]).toEqual([true, 'more']);
  const later = desk.of({ ...report, calendar: { ...report.calendar, fiscalYearStart: 4 } });
  expect(later.source).not.toBe(before.source);
  const own = openDesk(tables);
  own.take([
    [
      'plan',
      makeTable(await readCsv('plan', 'month,territory,product line,target\n2026-01,North,Keys,5'), { id: 'plan' }),
    ],
  ]);
  expect(received(await own.asked.profile(report, 'plan')).rows).toBe(1);
  own.take([['plan', null]]);
  expect([...listedIn(report, own.read).keys()]).toEqual(['orders', 'lines']);
  expect(desk.read.get('plan')!.rows).toBeGreaterThan(1);
});

describe('a table whose rows are elsewhere', () => {
  const elsewhere = (id: string) => ({
    id,
    source: { file: 'shop.orders', database: 'sales', table: 'shop.orders' },
    date: 'ordered',
  });
  const away: Report = {
    ...report,
    hierarchies: [],
    tables: report.tables.map(({ joins: _, ...entry }) => (entry.id === 'orders' ? elsewhere('orders') : entry)),
  };
  /** A desk whose database is columns in memory, and how often it was looked at. */
  function deskAway() {
    let looked = 0;
    let isDown = false;
    const reach: Reach = async (entries, calendar) => {
      looked++;
      if (isDown) throw new Problem('database-away', 'it cannot be reached');
      const source = columnarSource(new Map(entries.map(({ id }) => [id, tables.get(id)!])), calendar);
      return { source, facts: await source.facts() };
    };
    const here = new Map([...tables].filter(([id]) => id !== 'orders'));
    return { desk: openDesk(here, reach), looked: () => looked, fall: (down: boolean) => (isDown = down) };
  }

  test('is looked at once; its figures, rows and columns are those it has, beside tables that are here', async () => {
    const { desk: now, looked } = deskAway();
    const wanted = received(await asked('draw')(report, 'territories'));
    const all = await Promise.all([
      now.asked.draw(away, 'territories'),
      now.asked.profile(away, 'orders'),
      now.asked.rowsFrom(away, 'orders', 3, 4),
      now.asked.rowsFrom(away, 'plan', 0, 2),
    ]);
    expect(looked()).toBe(1);
    expect(received(all[0]).numbers.lines).toEqual(wanted.numbers.lines);
    expect(received(all[1]).file).toBe('shop.orders');
    const rows = received(await asked('rowsFrom')(report, 'orders', 0, 9)).lines;
    // What was looked up is not among them.
    const width = received(all[2]).columns.length;
    expect(received(all[2]).lines).toEqual(rows.slice(3, 7).map((line) => line.slice(0, width)));
    expect(received(all[3]).lines).toHaveLength(2);
    // Questions about a file itself have no answer, and say so.
    expect(await now.asked.months(away, 'orders')).toMatchObject({
      problem: { code: 'in-database' },
    });
  });

  test('that cannot be reached is a problem of each question, until it can be', async () => {
    const { desk: now, looked, fall } = deskAway();
    fall(true);
    expect(await now.asked.draw(away, 'territories')).toMatchObject({ ok: false, problem: { code: 'database-away' } });
    expect(received(await asked('draw')(report, 'territories')).rows.length).toBeGreaterThan(0);
    const before = looked();
    // Tables that are here are looked at all the same.
    expect(received(await now.asked.profile(away, 'plan')).rows).toBe(tables.get('plan')!.rows);
    fall(false);
    received(await now.asked.draw(away, 'territories'));
    expect(looked() - before).toBe(2);
    received(await now.asked.profile(away, 'orders'));
    expect(looked() - before).toBe(2);
    // Whoever asks to look again does; so does a report that says something else of it.
    now.forget();
    received(await now.asked.profile(away, 'orders'));
    const { calendar } = away;
    received(await now.asked.profile({ ...away, calendar: { ...calendar, fiscalYearStart: 1 } }, 'orders'));
    expect(looked() - before).toBe(4);
  });

  test('is not there where nothing reaches it', async () => {
    const now = openDesk(new Map([...tables].filter(([id]) => id !== 'orders')));
    expect(await now.asked.draw(away, 'territories')).toMatchObject({ problem: { code: 'database-not-reached' } });
    expect(() => now.of(away)).toThrow(/not reached/);
  });
});
