/**
 * Writes the demo: `npm run demo` writes the report and its tables into demo/files;
 * `npm run demo -- --rows 1000000 --to DIR` writes tables of another size elsewhere.
 */
import { cpSync, createWriteStream, mkdirSync, readFileSync, rmSync, writeFileSync, type WriteStream } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { once } from 'node:events';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { drawFigure } from '@bold-ruler/core/figure';
import { writeReport } from '@bold-ruler/core/report';
import { facesFor } from '@bold-ruler/core/print';
import { readFontFiles, writeSvg } from '@bold-ruler/core/scene';
import type { Table } from '@bold-ruler/core/table';
import { fileOf } from '@bold-ruler/core/reading';
import { readTable, workspaceFor } from '@bold-ruler/core/workspace';
import { LINES_HEADER, lineRows } from './lines';
import { followingLines, ORDERS_HEADER, orderLines } from './orders';
import { PLAN_HEADER, planRows } from './plan';
import { pellwetherReport } from './report';
import { STOCK_HEADER, stockRows } from './stock';

const { values } = parseArgs({ options: { rows: { type: 'string', default: '60000' }, to: { type: 'string' } } });
const rows = Number(values.rows);
if (!Number.isInteger(rows) || rows < 100) {
  console.error(`--rows takes a whole number from 100, not “${values.rows}”`);
  process.exit(2);
}
const folder = values.to ?? fileURLToPath(new URL('../files', import.meta.url));

async function writeCsv(name: string, header: readonly string[], lines: Iterable<readonly string[]>): Promise<void> {
  const file: WriteStream = createWriteStream(join(folder, name));
  let block = `${header.join(',')}\n`;
  for (const line of lines) {
    block += `${line.join(',')}\n`;
    if (block.length < 1 << 20) continue;
    if (!file.write(block)) await once(file, 'drain');
    block = '';
  }
  file.end(block);
  await once(file, 'finish');
}

/** A file of the figure's font as it ships with the program. */
const fontFile = (path: string) => readFileSync(createRequire(import.meta.url).resolve(path));

mkdirSync(folder, { recursive: true });
await writeCsv('orders.csv', ORDERS_HEADER, orderLines(rows));
await writeCsv('plan.csv', PLAN_HEADER, planRows(rows));
await writeCsv('stock.csv', STOCK_HEADER, stockRows());
await writeCsv('lines.csv', LINES_HEADER, lineRows());
await writeCsv('orders-to-april.csv', ORDERS_HEADER, followingLines(rows));
const report = pellwetherReport();
writeFileSync(join(folder, 'pellwether.ruler.json'), writeReport(report));
if (!values.to) {
  // The picture on the first page: the demo's first figure.
  const tables = new Map<string, Table>();
  for (const entry of report.tables)
    tables.set(
      entry.id,
      await readTable(entry, fileOf(entry.source.file, readFileSync(join(folder, entry.source.file)))),
    );
  const desk = workspaceFor(report, tables);
  const { scene } = await drawFigure({ source: desk.source, report, vocabulary: desk.vocabulary }, report.figures[0]!);
  writeFileSync(join(folder, 'first.svg'), writeSvg(scene, { fonts: facesFor([scene], readFontFiles(fontFile)) }));
  // The application serves the same files.
  const served = fileURLToPath(new URL('../../web/public/demo', import.meta.url));
  rmSync(served, { recursive: true, force: true });
  cpSync(folder, served, { recursive: true });
}
console.log(
  `${rows} order lines, the plan, the stock, the lines, a month to add and the report are in ${values.to ?? 'demo/files'}`,
);
