/**
 * Writes the demo: `npm run demo` writes the report and its tables into demo/files;
 * `npm run demo -- --rows 1000000 --to DIR` writes tables of another size elsewhere.
 */
import { createWriteStream, mkdirSync, writeFileSync, type WriteStream } from 'node:fs';
import { join } from 'node:path';
import { once } from 'node:events';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { writeReport } from '@bold-ruler/core/report';
import { ORDERS_HEADER, orderLines } from './orders';
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

mkdirSync(folder, { recursive: true });
await writeCsv('orders.csv', ORDERS_HEADER, orderLines(rows));
await writeCsv('plan.csv', PLAN_HEADER, planRows(rows));
await writeCsv('stock.csv', STOCK_HEADER, stockRows());
writeFileSync(join(folder, 'pellwether.ruler.json'), writeReport(pellwetherReport()));
console.log(`${rows} order lines, the plan, the stock and the report are in ${values.to ?? 'demo/files'}`);
