import { expect, test } from 'vitest';
import { drawnFrom } from './drawn.fixture';
import { periodWords } from './names';

// One a day, up to 17 September 2026.
const first = Date.UTC(2024, 0, 1);
const days = Array.from({ length: 991 }, (_, i) => new Date(first + i * 86_400_000).toISOString().slice(0, 10));
const CSV = ['day,net', ...days.map((day) => `${day},1`)].join('\n');

const JANUARY = 1;
const APRIL = 4;

test.each([
  [JANUARY, '2026-09', 'September 2026 to 17 Sep 2026, compared with 1 Sep 2025 – 17 Sep 2025'],
  [JANUARY, 'latest month', '1 Sep 2026 – 17 Sep 2026, compared with 1 Sep 2025 – 17 Sep 2025'],
  [JANUARY, 'fiscal 2026', 'fiscal 2026 to 17 Sep 2026, compared with 1 Jan 2025 – 17 Sep 2025'],
  [JANUARY, '2026-08', 'August 2026, compared with 1 Aug 2025 – 31 Aug 2025'],
  [JANUARY, 'latest day', '17 Sep 2026, compared with 17 Sep 2025'],
  [APRIL, 'fiscal 2027', 'fiscal 2027 to 17 Sep 2026, compared with 1 Apr 2025 – 17 Sep 2025'],
  [APRIL, 'latest quarter', '1 Jul 2026 – 17 Sep 2026, compared with 1 Jul 2025 – 17 Sep 2025'],
])(
  'a period is said with the days that are compared: years from month %i, %s',
  async (fiscalYearStart, during, words) => {
    const { cells } = await drawnFrom(CSV, `net during ${during} against last year as headline`, {
      date: 'day',
      measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
      calendar: { fiscalYearStart },
    });
    expect(periodWords(cells)).toBe(words);
  },
);
