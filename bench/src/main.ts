/** Prints ratios: reading, queries against DuckDB and against a plain scan, layout and SVG text. `npm run bench -- 100000` takes fewer rows. */
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { DuckDBInstance } from '@duckdb/node-api';
import Papa from 'papaparse';
import { drawFigure } from '@bold-ruler/core/figure';
import { scan, withLookups } from '@bold-ruler/core/source';
import { checkReport } from '@bold-ruler/core/report';
import { writeSvg } from '@bold-ruler/core/scene';
import { readCsv, readCsvFile, type SourceFile } from '@bold-ruler/core/reading';
import { makeTable, type Table } from '@bold-ruler/core/table';
import { workspaceFor } from '@bold-ruler/core/workspace';
import { median, printRatio, sideBySide, printMean } from './timing';
import { fileAt, readingMemory } from './memory';
import { benchLayout } from './layout';
import { ordersFile } from './ordersFile';
import { benchPage } from './page';
import { benchReaders } from './readers';
import { QUERIES, queryOf, SCHOOL } from './queries';
import { benchThreads } from './threads';

const rows = Number(process.argv[2] ?? 1_000_000);

/** More rows than this are no single text: reading is then measured by a smaller run. */
const MOST_ROWS_AS_TEXT = 3_000_000;

async function benchReading(path: string): Promise<Table> {
  if (rows > MOST_ROWS_AS_TEXT) return makeTable(await readCsvFile(fileAt(path)), { id: 'orders' });
  const text = readFileSync(path, 'utf8');
  const bytes = new TextEncoder().encode(text);
  const PIECE = 1 << 20;
  const file: SourceFile = {
    name: 'orders.csv',
    size: bytes.length,
    async *stream() {
      for (let at = 0; at < bytes.length; at += PIECE) yield bytes.subarray(at, at + PIECE);
    },
    slice: (from, to) => Promise.resolve(bytes.subarray(from, to)),
  };
  let raw = await readCsvFile(file);
  const [ours, papa] = await sideBySide(
    async () => {
      raw = await readCsvFile(file);
    },
    () => Papa.parse<string[]>(text),
    3,
  );
  printRatio('read-csv-over-papaparse', ours, papa, 0.5);
  return makeTable(raw, { id: 'orders' });
}

async function benchQueries(table: Table, path: string): Promise<void> {
  const duck = await (await DuckDBInstance.create(':memory:')).connect();
  await duck.run(`create table orders as select * from read_csv('${path}')`);
  const net = table.columns.find(({ name }) => name === 'net');
  const values = net?.kind === 'number' ? net.values : new Float64Array();
  const plainScan = () => {
    let sum = 0;
    for (let i = 0; i < values.length; i++) sum += values[i]!;
    return sum;
  };
  const limit = await median(plainScan, 25);
  console.log(`time plain-scan-of-one-column ${limit.toFixed(2)} ms (what this machine does at this hour)`);
  const ratios: number[] = [];
  for (const named of QUERIES) {
    const query = queryOf(table, named);
    // Straight to the scan: no answer is reused.
    const [ours, theirs] = await sideBySide(
      () => scan(table, query, SCHOOL),
      async () => (await duck.runAndReadAll(named.sql)).getRows(),
    );
    ratios.push(ours / theirs);
    printRatio(`${named.name}-over-duckdb`, ours, theirs, 0.25);
    printRatio(`${named.name}-over-one-column-scan`, ours, limit, 4);
  }
  printMean('group-by-over-duckdb', ratios, 0.15);
}

/** The same field, looked up by each row's product line and stored in the table. */
async function benchLookup(table: Table): Promise<void> {
  const line = table.columns.find(({ name }) => name === 'product line');
  if (line?.kind !== 'text') return;
  const families = line.members.map((_, code) => (code === 0 ? '' : code % 2 === 0 ? 'Melody' : 'Rhythm'));
  const lookup = makeTable(
    await readCsv(
      'lines',
      ['line,family', ...line.members.slice(1).map((name, i) => `${name},${families[i + 1]!}`)].join('\n'),
    ),
    { id: 'lines' },
  );
  const members = ['', 'Melody', 'Rhythm'];
  const codeOf = families.map((family) => members.indexOf(family));
  const codes = Uint8Array.from(line.codes, (code) => codeOf[code]!);
  const stored: Table = { ...table, columns: [...table.columns, { ...line, name: 'family', members, codes }] };
  const joined = withLookups(table, [{ columns: ['product line'], to: 'lines', on: ['line'] }], () => lookup);
  const query = queryOf(stored, {
    name: 'family',
    measures: ['sum(net)'],
    by: ['family'],
    grain: null,
    span: null,
    where: [],
    sql: '',
  });
  const [ours, theirs] = await sideBySide(
    () => scan(joined, query, SCHOOL),
    () => scan(stored, query, SCHOOL),
  );
  printRatio('sum-by-a-field-looked-up-over-stored', ours, theirs, 1.05);
}

async function benchFigure(table: Table): Promise<void> {
  const report = checkReport({
    boldRuler: 1,
    name: 'bench',
    calendar: SCHOOL,
    tables: [{ id: 'orders', source: { file: 'orders.csv' } }],
    measures: [{ name: 'net', table: 'orders', expression: 'sum(net)' }],
    figures: [
      {
        id: 'accounts',
        brief: 'net by account, rep during fiscal 2026 to date against last year as bullet, keep 300 highest',
        look: {},
      },
    ],
  });
  const desk = workspaceFor(report, new Map([['orders', table]]));
  const draw = () => drawFigure({ source: desk.source, report, vocabulary: desk.vocabulary }, report.figures[0]!);
  const { scene, cells } = await draw();
  const [whole, svg] = [await median(draw), await median(() => writeSvg(scene))];
  console.log(
    `time figure-of-${cells.count}-rows-numbers-and-layout ${whole.toFixed(2)} ms (${scene.marks.length} marks; its queries answered before)`,
  );
  console.log(`time figure-of-${cells.count}-rows-svg-text ${svg.toFixed(2)} ms`);
}

const path = ordersFile(rows);
if (process.argv.includes('--memory')) {
  const { peak, columns } = await readingMemory(path);
  const MB = 1e6;
  printRatio('read-csv-peak-memory-over-columns-MB', peak / MB, columns / MB, 2.5);
  process.exit(0);
}
if (process.argv.includes('--layout')) {
  await benchLayout();
  process.exit(0);
}
if (process.argv.includes('--readers')) {
  await benchReaders();
  process.exit(0);
}
if (['--queries', '--page', '--threads'].some((word) => process.argv.includes(word))) {
  const read = makeTable(await readCsvFile(fileAt(path)), { id: 'orders' });
  if (process.argv.includes('--queries')) await benchQueries(read, path);
  else if (process.argv.includes('--threads')) await benchThreads(read);
  else await benchPage(read);
  process.exit(0);
}
console.log(`${rows} rows, Node ${process.version}`);
// In a process of its own, in which nothing else is alive.
spawnSync(process.execPath, ['--expose-gc', process.argv[1]!, String(rows), '--memory'], { stdio: 'inherit' });
const table = await benchReading(path);
spawnSync(process.execPath, ['--max-old-space-size=12000', process.argv[1]!, String(rows), '--readers'], {
  stdio: 'inherit',
});
await benchQueries(table, path);
await benchThreads(table);
await benchLookup(table);
await benchFigure(table);
spawnSync(process.execPath, [process.argv[1]!, String(rows), '--layout'], { stdio: 'inherit' });
await benchPage(table);
process.exit(0);
