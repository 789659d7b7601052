import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { LINES_HEADER, lineRows } from '../../../demo/src/lines';
import { ORDERS_HEADER, orderLines } from '../../../demo/src/orders';
import { PLAN_HEADER, planRows } from '../../../demo/src/plan';
import { pellwetherReport } from '../../../demo/src/report';
import { NOTHING_CHOSEN } from '../page';
import { fileOf } from '../reading';
import type { Report } from '../report';
import { readFontFiles } from '../scene';
import { writeCsv, type Table } from '../table';
import { readTable } from '../workspace';
import { openDesk, type Desk } from '.';

// The demo’s report with one of forty of its order lines, on a desk.

export const FONTS = readFontFiles((path) => readFileSync(createRequire(import.meta.url).resolve(path)));
export const CHOICE = { ...NOTHING_CHOSEN, period: null };

const demo = pellwetherReport();
export const report: Report = {
  ...demo,
  tables: demo.tables.filter(({ id }) => id !== 'stock'),
  measures: demo.measures.filter(({ table }) => table !== 'stock'),
};

/** The figure that lies on the bench first. */
export const first = report.figures[0]!;

const texts: Readonly<Record<string, string>> = {
  orders: [ORDERS_HEADER, ...[...orderLines()].filter((_, i) => i % 40 === 0)].join('\n'),
  plan: writeCsv([PLAN_HEADER, ...planRows()]),
  lines: writeCsv([LINES_HEADER, ...lineRows()]),
};
export const tables: ReadonlyMap<string, Table> = new Map(
  await Promise.all(
    report.tables.map(async (entry) => {
      const file = fileOf(entry.source.file, new TextEncoder().encode(texts[entry.id]!));
      return [entry.id, await readTable(entry, file)] as const;
    }),
  ),
);
export const desk: Desk = openDesk(tables);
export const asked = <K extends keyof Desk['asked']>(name: K) => desk.asked[name];
