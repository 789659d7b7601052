/** Workbooks and Parquet files of order lines, read as the application reads them and by the bare libraries. */
import { createReadStream, existsSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import ExcelJS from 'exceljs';
import { parquetReadObjects } from 'hyparquet';
import { compressors } from 'hyparquet-compressors';
import { parquetWriteBuffer } from 'hyparquet-writer';
import Papa from 'papaparse';
import { fileOf, readFile } from '@bold-ruler/core/reading';
import { ordersFile } from './ordersFile';
import { printRatio, sideBySide } from './timing';

const ROWS = 200_000;

/** The cells of the orders, numbers and days as such. */
function orders(): { header: string[]; rows: (string | number | Date | null)[][] } {
  const [header, ...rows] = Papa.parse<string[]>(readFileSync(ordersFile(ROWS), 'utf8').trimEnd()).data;
  const cell = (text: string) =>
    text === ''
      ? null
      : /^\d{4}-\d\d-\d\d$/.test(text)
        ? new Date(text)
        : /^-?\d+(\.\d+)?$/.test(text)
          ? Number(text)
          : text;
  return { header: header!, rows: rows.map((row) => row.map(cell)) };
}

async function workbookFile(): Promise<string> {
  const path = join(tmpdir(), 'bold-ruler-bench', `orders-${ROWS}.xlsx`);
  if (existsSync(path)) return path;
  const { header, rows } = orders();
  const workbook = new ExcelJS.Workbook();
  const sheet = workbook.addWorksheet('orders');
  sheet.addRow(header);
  sheet.addRows(rows);
  await workbook.xlsx.writeFile(path);
  return path;
}

function parquetFile(): string {
  const path = join(tmpdir(), 'bold-ruler-bench', `orders-${ROWS}.parquet`);
  if (existsSync(path)) return path;
  const { header, rows } = orders();
  const columnData = header.map((name, c) => ({ name, data: rows.map((row) => row[c]) }));
  writeFileSync(path, new Uint8Array(parquetWriteBuffer({ columnData: columnData as never })));
  return path;
}

/** Each side reads the whole file several times, in turn. */
export async function benchReaders(): Promise<void> {
  const workbook = await workbookFile();
  const bytes = new Uint8Array(readFileSync(workbook));
  const [ours, exceljs] = await sideBySide(
    () => readFile(fileOf('orders.xlsx', bytes)),
    () => new ExcelJS.Workbook().xlsx.read(createReadStream(workbook)),
    3,
    1,
  );
  printRatio(`read-workbook-of-${ROWS}-rows-over-exceljs`, ours, exceljs, 0.5);
  const parquet = new Uint8Array(readFileSync(parquetFile()));
  const [mine, hyparquet] = await sideBySide(
    () => readFile(fileOf('orders.parquet', parquet)),
    () => parquetReadObjects({ file: parquet.buffer, compressors }),
    5,
    1,
  );
  printRatio(`read-parquet-of-${ROWS}-rows-over-hyparquet`, mine, hyparquet, 1.2);
}
