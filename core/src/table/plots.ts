import { civilOf, dayOf, NO_DAY, type Day } from '../calendar';
import { power } from '../number';
import { columnOf, type Column, type Table } from './column';

/** Some values and how many rows have them. */
export interface Bar {
  readonly label: string;
  readonly rows: number;
}

/** How the rows are distributed over a column's values: equal steps of numbers, the most frequent members of text, years or months of dates. */
export interface Distribution {
  readonly bars: readonly Bar[];
  /** Rows with members that have no bar of their own. */
  readonly others: number;
}

const BARS = 12;
const STEPS = 20;

export function distribution(column: Column): Distribution {
  switch (column.kind) {
    case 'number':
      return { bars: steps(column.values, power(column.decimals ?? 0)), others: 0 };
    case 'date':
      return { bars: monthsOf(column.days), others: 0 };
    case 'text':
    case 'yesno': {
      const counts = new Float64Array(column.members.length);
      for (let row = 0; row < column.codes.length; row++) counts[column.codes[row]!]!++;
      const bars = column.members
        .map((label, code) => ({ label, rows: counts[code]! }))
        .slice(1)
        .filter(({ rows }) => rows > 0)
        .sort((a, b) => b.rows - a.rows);
      return { bars: bars.slice(0, BARS), others: bars.slice(BARS).reduce((sum, { rows }) => sum + rows, 0) };
    }
  }
}

/** A step of 1, 2 or 5 times a power of ten that makes at most `STEPS` of a range. */
function niceStep(range: number): number {
  const rough = range / STEPS;
  const ten = 10 ** Math.floor(Math.log10(rough));
  return ([1, 2, 5].find((n) => n * ten >= rough) ?? 10) * ten;
}

function steps(values: Float64Array, scale: number): Bar[] {
  let low = Infinity;
  let high = -Infinity;
  for (let i = 0; i < values.length; i++) {
    if (values[i]! < low) low = values[i]!;
    if (values[i]! > high) high = values[i]!;
  }
  if (low === Infinity) return [];
  const short = new Intl.NumberFormat('en', { notation: 'compact', maximumSignificantDigits: 4 });
  if (low === high) return [{ label: short.format(low / scale), rows: values.filter((v) => v === low).length }];
  const step = niceStep(high - low);
  const first = Math.floor(low / step);
  const counts = new Float64Array(Math.floor(high / step) - first + 1);
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!;
    if (value === value) counts[Math.min(counts.length - 1, Math.floor(value / step) - first)]!++;
  }
  return Array.from(counts, (rows, i) => ({
    label: `${short.format(((first + i) * step) / scale)} to ${short.format(((first + i + 1) * step) / scale)}`,
    rows,
  }));
}

/** Rows a month, months without rows included; a year where there are more than ten years of months. */
function monthsOf(days: Int32Array): Bar[] {
  const counts = new Map<number, number>();
  let last = NO_DAY;
  let place = 0;
  for (let i = 0; i < days.length; i++) {
    const day = days[i]!;
    if (day === NO_DAY) continue;
    if (day !== last) {
      const { year, month } = civilOf((last = day));
      place = year * 12 + month - 1;
    }
    counts.set(place, (counts.get(place) ?? 0) + 1);
  }
  if (counts.size === 0) return [];
  const places = [...counts.keys()];
  const [from, to] = [places.reduce((a, b) => Math.min(a, b)), places.reduce((a, b) => Math.max(a, b))];
  const byYear = to - from >= 120;
  const bars: { label: string; rows: number }[] = [];
  for (let at = byYear ? Math.floor(from / 12) : from; at <= (byYear ? Math.floor(to / 12) : to); at++) {
    if (bars.length === 400) break;
    const rows = byYear
      ? Array.from({ length: 12 }, (_, m) => counts.get(at * 12 + m) ?? 0).reduce((a, b) => a + b, 0)
      : (counts.get(at) ?? 0);
    bars.push({
      label: byYear ? String(at) : `${Math.floor(at / 12)}-${String((at % 12) + 1).padStart(2, '0')}`,
      rows,
    });
  }
  return bars;
}

/** How many rows of a table stand in each month of its date column, with the month's first day. */
export function rowsPerMonth(table: Table): readonly { readonly month: Day; readonly rows: number }[] {
  const date = table.date === null ? undefined : columnOf(table, table.date);
  if (date?.kind !== 'date') return [];
  return monthsOf(date.days).map(({ label, rows }) => {
    const [year, month = '1'] = label.split('-');
    return { month: dayOf(Number(year), Number(month), 1), rows };
  });
}
