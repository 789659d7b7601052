import { civilOf, dayOf, NO_DAY, type Day } from '../calendar';
import { power, tidy } from '../number';
import { columnOf, type Column, type Table } from './column';

/** Some values and how many rows have them. */
export interface Bar {
  readonly label: string;
  readonly rows: number;
  /** Of a step of numbers: its ends. */
  readonly range?: readonly [number, number];
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
  // A few far away values would press all others into one step: beyond the usual range they share one.
  const [usualLow, usualHigh] = usualRange(values);
  const reach = usualHigh - usualLow;
  const cutLow = reach > 0 && low < usualLow - reach;
  const cutHigh = reach > 0 && high > usualHigh + reach;
  const [lowest, highest] = [low, high];
  if (cutLow) low = usualLow;
  if (cutHigh) high = usualHigh;
  const bar = (from: number, to: number, rows: number): Bar => {
    const range = [tidy(from / scale), tidy(to / scale)] as const;
    return { label: from === to ? String(range[0]) : `${range[0]} to ${range[1]}`, rows, range };
  };
  if (low === high) return [bar(low, low, values.filter((v) => v === low).length)];
  const step = niceStep(high - low);
  const first = Math.floor(low / step);
  const count = Math.floor(high / step) - first + 1;
  // Numbers at the ends of what a double holds have no steps between them.
  if (!(count > 0 && count <= 10 * STEPS)) return [bar(low, high, values.filter((v) => v === v).length)];
  const counts = new Float64Array(count);
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!;
    if (value === value) counts[Math.max(0, Math.min(counts.length - 1, Math.floor(value / step) - first))]!++;
  }
  const at = (i: number) => (first + i) * step;
  return Array.from(counts, (rows, i) =>
    bar(cutLow && i === 0 ? lowest : at(i), cutHigh && i === counts.length - 1 ? highest : at(i + 1), rows),
  );
}

/** The range of all but the lowest and the highest half per cent, from an even sample. */
function usualRange(values: Float64Array): [number, number] {
  const SAMPLE = 20_000;
  const every = Math.max(1, Math.floor(values.length / SAMPLE));
  const sample: number[] = [];
  for (let i = 0; i < values.length; i += every) if (!Number.isNaN(values[i]!)) sample.push(values[i]!);
  const sorted = Float64Array.from(sample).sort();
  const at = (share: number) => sorted[Math.round((sorted.length - 1) * share)] ?? 0;
  return [at(0.005), at(0.995)];
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
