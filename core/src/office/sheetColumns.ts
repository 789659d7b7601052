import { writeView } from '../brief';
import { readIsoDay } from '../calendar';
import { exactWriting } from '../format';
import { decimalsOf } from '../number';
import type { Cells, Numbers, NumbersRow } from '../query';
import { BLANK_MEMBER } from '../table';
import {
  amountFormat,
  DAY_FORMAT,
  MONTH_FORMAT,
  serialOf,
  SHARE_FORMAT,
  type SheetCell,
  type SheetColumn,
} from './writeXlsx';

interface NumbersColumn extends SheetColumn {
  of(row: NumbersRow, i: number): SheetCell;
}

/**
 * The numbers of a figure as the columns of a sheet, each called by what it holds and shown as its measure is: amounts with their
 * currency and their decimals, shares in percent, days as days.
 * @param references further answers of the same rows, each held against something else.
 */
export function sheetColumns(
  cells: Cells,
  numbers: Numbers,
  references: readonly Cells[] = [],
): { readonly columns: SheetColumn[]; readonly lines: SheetCell[][] } {
  const { rows } = numbers;
  const columns: NumbersColumn[] = [...keyColumns(cells), ...stepColumn(cells)];
  const { benchmark, stacked, view } = cells;
  const format = stacked ? amountFormat(decimalsIn(rows.map(({ actual }) => actual))) : formatOf(cells);
  const amount = (name: string, of: (row: NumbersRow, i: number) => SheetCell) => columns.push({ name, format, of });
  const share = (name: string, of: (row: NumbersRow, i: number) => SheetCell) =>
    columns.push({ name, format: SHARE_FORMAT, of });
  const count = (name: string, of: (row: NumbersRow, i: number) => SheetCell) =>
    columns.push({ name, format: amountFormat(0), of });
  const has = (key: keyof NumbersRow) => rows.some((row) => key in row);
  if (view.kind === 'rank') count(writeView(view), ({ rank }) => rank ?? null);
  amount(stacked ? 'actual' : view.kind === 'rank' ? cells.measure.name : writeView(view), ({ actual }) => actual);
  if (benchmark) {
    const held = benchmark.name;
    amount(held, (row) => row.benchmark ?? null);
    if (has('due')) amount(`${held} due by now`, ({ due }) => due ?? null);
    if (has('low')) amount(`${held}, lowest of 95 in 100`, ({ low }) => low ?? null);
    if (has('high')) amount(`${held}, highest of 95 in 100`, ({ high }) => high ?? null);
    amount(`gap to ${held}`, ({ gap }) => gap ?? null);
    share(`gap to ${held} %`, ({ gapPercent }) => gapPercent ?? null);
    columns.push({ name: `standing to ${held}`, of: ({ standing }) => standing ?? null });
    if (has('due')) {
      amount('gap to due', ({ dueGap }) => dueGap ?? null);
      share('gap to due %', ({ dueGapPercent }) => dueGapPercent ?? null);
      columns.push({ name: 'standing to due', of: ({ dueStanding }) => dueStanding ?? null });
    }
  }
  for (const other of references) {
    const [name, of] = [other.benchmark!.name, rowsLike(cells, other)];
    const at = (list: Float64Array | null) => (_: NumbersRow, i: number) => orNull(list?.[of[i]!] ?? NaN);
    amount(name, at(other.benchmarks));
    amount(`gap to ${name}`, at(other.gap));
    share(`gap to ${name} %`, at(other.gapPercent));
  }
  if (has('rank') && view.kind !== 'rank') count('rank', ({ rank }) => rank ?? null);
  if (has('share')) share('share', (row) => row.share ?? null);
  if (has('rankChange')) count('places won', ({ rankChange }) => rankChange ?? null);
  if (has('landing')) amount('landing', ({ landing }) => landing ?? null);
  if (has('start')) amount('step begins', ({ start }) => start ?? null);
  if (has('end')) amount('step ends', ({ end }) => end ?? null);
  for (const { view: other, measure, of } of cells.values) {
    const like: Cells = { ...cells, view: other, measure, actual: of, benchmarks: null, decimals: null };
    const own = other.kind === 'share' ? SHARE_FORMAT : other.kind === 'rank' ? amountFormat(0) : formatOf(like);
    columns.push({ name: writeView(other), format: own, of: (_, i) => orNull(of[i]!) });
  }
  count('rows', (row) => row.rows);
  return {
    columns: distinctly(columns),
    lines: rows.map((row, i) => columns.map(({ of }) => of(row, i))),
  };
}

const orNull = (value: number): number | null => (Number.isNaN(value) ? null : value);

function keyColumns({ fields }: Cells): NumbersColumn[] {
  return fields.map((field, f) => ({
    name: field,
    of: ({ key, rest }) => key[field] ?? (rest && f > 0 ? null : BLANK_MEMBER),
  }));
}

/** Days, weeks and months are days of the spreadsheet; quarters and years are named as the report's calendar names them. */
function stepColumn({ grain }: Cells): NumbersColumn[] {
  if (!grain) return [];
  const asText: NumbersColumn = { name: grain, of: ({ step }) => step };
  if (grain === 'quarter' || grain === 'year') return [asText];
  const format = grain === 'month' ? MONTH_FORMAT : DAY_FORMAT;
  const dayOf = (step: string) => readIsoDay(grain === 'month' ? `${step}-01` : step);
  return [{ name: grain, format, of: ({ step }) => (step === null ? null : serialOf(dayOf(step)!)) }];
}

/** How a measure's amounts are shown: never scaled, with the decimals they have. */
function formatOf(cells: Cells): string {
  const { style } = cells.measure.format;
  if (cells.view.kind === 'share' || style === 'percent' || style === 'points') return SHARE_FORMAT;
  const { decimals, before, unit, signs } = exactWriting(cells);
  const named = unit === '' ? '' : `\u00a0${unit}`;
  return signs.unitBefore && unit !== ''
    ? amountFormat(decimals, `${unit}\u00a0${before}`)
    : amountFormat(decimals, before, named);
}

function decimalsIn(values: readonly (number | null)[]): number {
  return values.reduce<number>((most, value) => Math.max(most, value === null ? 0 : (decimalsOf(value) ?? 4)), 0);
}

/** The row of another answer for each row: that of the same members. */
function rowsLike(cells: Cells, other: Cells): number[] {
  const keyOf = ({ members, steps }: Cells, row: number) =>
    JSON.stringify([members.map((list) => list[row]), steps?.[row] ?? null]);
  const rows = new Map(Array.from({ length: other.count }, (_, row) => [keyOf(other, row), row]));
  return Array.from({ length: cells.count }, (_, row) => rows.get(keyOf(cells, row)) ?? -1);
}

/** No two columns are called alike. */
function distinctly(columns: readonly NumbersColumn[]): SheetColumn[] {
  const taken = new Set<string>();
  return columns.map(({ name, format }) => {
    let free = name;
    for (let n = 2; taken.has(free.toLowerCase()); n++) free = `${name} (${n})`;
    taken.add(free.toLowerCase());
    return { name: free, ...(format === undefined ? {} : { format }) };
  });
}
