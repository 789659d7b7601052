import { expect, test } from 'vitest';
import { readBrief } from '../brief';
import { answerBrief } from '../query';
import { readCsv } from '../reading';
import { checkReport } from '../report';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { periodWords } from './names';

// One a day, up to 17 September 2026.
const first = Date.UTC(2024, 0, 1);
const days = Array.from({ length: 991 }, (_, i) => new Date(first + i * 86_400_000).toISOString().slice(0, 10));

async function said(brief: string): Promise<string> {
  const table = makeTable(await readCsv('t', ['day,net', ...days.map((day) => `${day},1`)].join('\n')), {
    id: 't',
    date: 'day',
  });
  const report = checkReport({
    boldRuler: 1,
    name: 't',
    tables: [{ id: 't', source: { file: 't.csv' }, date: 'day' }],
    measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
  });
  const desk = workspaceFor(report, new Map([['t', table]]));
  return periodWords(await answerBrief(desk, readBrief(brief, desk.vocabulary)));
}

test.each([
  ['net during 2026-09 against last year', 'September 2026 to 17 Sep 2026, compared with 1 Sep 2025 – 17 Sep 2025'],
  ['net during latest month against last year', '1 Sep 2026 – 17 Sep 2026, compared with 1 Sep 2025 – 17 Sep 2025'],
  ['net during fiscal 2026 against last year', 'fiscal 2026 to 17 Sep 2026, compared with 1 Jan 2025 – 17 Sep 2025'],
  ['net during 2026-08 against last year', 'August 2026, compared with 1 Aug 2025 – 31 Aug 2025'],
  ['net during latest day against previous day', '17 Sep 2026, compared with 16 Sep 2026'],
])('a period is said with the days that are compared: %s', async (brief, words) => {
  expect(await said(brief)).toBe(words);
});
