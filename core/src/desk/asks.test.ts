import { expect, test } from 'vitest';
import { received } from '../problem';
import { fileOf } from '../reading';
import { checkReport, type Report } from '../report';
import { readTable } from '../workspace';
import { findingsIn, openDesk } from '.';

// A company's files, each with something that only a person can decide.
const FILES: Readonly<Record<string, readonly string[]>> = {
  sales: [
    'day,shop,family,net',
    '2026-01-05,Alder,Keys,100.50',
    '2026-01-06,Birch,Keys,200.00',
    '2026-02-03,Alder,Strings,150.00',
    '2026-02-03,Alder,Strings,150.00',
    '2026-02-10,Cedar,Strings,90.00',
    '2026-03-04,Birch,Wind,310.00',
    'Total,,,1000.50',
  ],
  plan: ['month,shop,target', '2026-01,Alder,120', '2026-01,Larkmoor,55', '2026-02,Cedar,100', '2026-03,Birch,300'],
  due: ['when,until,amount', '01/02/2026,05/06/2026,5', '03/04/2026,07/08/2026,6'],
  more: ['when,until,amount', '01/02/2026,05/06/2026,7', '03/04/2026,07/08/2026,8'],
  wide: ['shop,2026-01,2026-02,2026-03', 'Alder,1,2,3', 'Birch,4,5,6', 'Cedar,7,8,9', 'Source: the head office,,,'],
  shops: ['shop,region', 'Alder,North', 'Birch,South', 'Cedar,South'],
};

const report: Report = checkReport({
  boldRuler: 1,
  name: 'r',
  tables: Object.keys(FILES).map((id) => ({
    id,
    source: { file: `${id}.csv` },
    ...(id === 'sales' ? { date: 'day' } : id === 'plan' ? { date: 'month', grain: 'month' } : {}),
  })),
  measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
  benchmarks: [
    { name: 'plan', kind: 'table', table: 'plan', expression: 'sum(target)', spread: 'even', split: 'none' },
  ],
  figures: ['a', 'b'].map((id) => ({ id, brief: 'net by shop against plan during year to date as bullet', look: {} })),
});
const desk = openDesk(
  new Map(
    await Promise.all(
      report.tables.map(async (entry) => {
        const bytes = new TextEncoder().encode(FILES[entry.id]!.join('\n'));
        return [entry.id, await readTable(entry, fileOf(entry.source.file, bytes))] as const;
      }),
    ),
  ),
);
const asked = async (of: Report) => received(await desk.asked.check(of));
const about = (one: { about: readonly { id: string }[] }) => one.about.map(({ id }) => id).join(' ');

test('what files leave open stands in one list with what the checks find, once, by what hangs on it', async () => {
  const found = (await asked(report)).map((one) => [one.code, about(one), one.table, one.view, one.amount?.share]);
  // Worked out by hand: 1,000.50 of 2,001.00 in net, 55 of 575 in target, 150 of 2,001.
  expect(found.slice(0, 3)).toEqual([
    ['totals-among-rows', 'sales', 'sales', 'rows', 1000.5 / 2001],
    ['targets-unmatched', 'plan', 'plan', 'match', 55 / 575],
    ['double-rows', 'sales', 'sales', 'rows', 150 / 2001],
  ]);
  const rest = found.slice(3).map((one) => one.slice(0, 4).join(', '));
  expect(rest).toContain('rows-without-date, a b, sales, left out');
  expect(rest).toContain('reading-unclear, due, due, columns');
  expect(rest).toContain('tables-alike, due, due, columns');
  expect(rest).toContain('lookup-offered, sales, sales, lookups');
  expect(rest).toContain('periods-as-columns, wide, wide, columns');
  expect(rest).toContain('notes-among-rows, wide, wide, rows');
  expect(rest.filter((one) => one.startsWith('rows-'))).toHaveLength(1);
});

test('the lines it names are those of the file', async () => {
  const lines = new Map((await asked(report)).map(({ code, lines }) => [code, lines?.lines]));
  expect(lines.get('totals-among-rows')).toEqual([8]);
  expect(lines.get('double-rows')).toEqual([5]);
  expect(lines.get('notes-among-rows')).toEqual([5]);
});

test('a question about one column is accepted without the others', async () => {
  const unclear = async (of: Report) =>
    (await asked(of))
      .filter(({ code, accepted, about: [first] }) => code === 'reading-unclear' && !accepted && first!.id === 'due')
      .map(({ fact }) => fact);
  expect(await unclear(report)).toEqual(['when', 'until']);
  const accepted = [{ code: 'reading-unclear', about: 'table' as const, id: 'due', fact: 'when', reason: 'day first' }];
  expect(await unclear({ ...report, accepted })).toEqual(['until']);
});

test('findings as they leave stand with the gravest first, whoever asks', async () => {
  const findings = await findingsIn(desk.of(report));
  const grades = findings.map(({ severity }) => ['error', 'warning', 'note'].indexOf(severity));
  expect(grades).toEqual([...grades].sort());
  expect(new Set(grades).size).toBeGreaterThan(1);
});
