import { closeSync, existsSync, mkdirSync, openSync, renameSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ORDERS_HEADER, orderLines } from '@bold-ruler/demo/orders';

/** The file of order lines, kept between runs. */
export function ordersFile(rows: number): string {
  const folder = join(tmpdir(), 'bold-ruler-bench');
  const path = join(folder, `orders-${rows}.csv`);
  if (existsSync(path)) return path;
  mkdirSync(folder, { recursive: true });
  const unfinished = `${path}.part`;
  const file = openSync(unfinished, 'w');
  let block = `${ORDERS_HEADER.join(',')}\n`;
  for (const line of orderLines(rows)) {
    block += `${line.join(',')}\n`;
    if (block.length < 1 << 20) continue;
    writeSync(file, block);
    block = '';
  }
  writeSync(file, block);
  closeSync(file);
  renameSync(unfinished, path);
  return path;
}
