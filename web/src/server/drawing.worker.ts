import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { parentPort } from 'node:worker_threads';
import { readBrief } from '@bold-ruler/core/brief';
import { answerFigure, drawFigure, figureNamed } from '@bold-ruler/core/figure';
import { fileOf } from '@bold-ruler/core/reading';
import { numbersCsv, numbersOf } from '@bold-ruler/core/query';
import { checkReport, readBundle, type FigureEntry } from '@bold-ruler/core/report';
import { checkPixels, writeSvg } from '@bold-ruler/core/scene';
import type { Table } from '@bold-ruler/core/table';
import { readTable, workspaceFor } from '@bold-ruler/core/workspace';
import { isProblem, Problem } from '@bold-ruler/core/problem';
import type { Drawn } from './drawing';
import { wishOf, type Sent, type Wish } from './wish';

/** The report and the files of its tables, however they came. */
function openedFrom({ content }: Wish) {
  if (content.kind === 'bundle') return readBundle(content.bytes, 'bundle');
  const report = checkReport(content.report, 'report');
  const encoder = new TextEncoder();
  const files = new Map(Object.entries(content.tables).map(([name, text]) => [name, encoder.encode(text)]));
  return { report, files };
}

async function drawn(sent: Sent): Promise<Drawn> {
  const drawing = wishOf(sent);
  const { report, files } = openedFrom(drawing);
  const tables = new Map<string, Table>();
  for (const entry of report.tables) {
    const bytes = files.get(entry.source.file);
    if (!bytes)
      throw new Problem(
        'file-not-there',
        `table “${entry.id}” reads ${entry.source.file}, which was not sent`,
        { in: 'tables' },
        'send its text under that name',
      );
    tables.set(entry.id, await readTable(entry, fileOf(entry.source.file, bytes)));
  }
  const { source, vocabulary } = workspaceFor(report, tables);
  let figure: FigureEntry;
  if (drawing.figure !== null) figure = figureNamed(report, drawing.figure);
  else {
    readBrief(drawing.brief!, vocabulary);
    figure = { id: 'brief', brief: drawing.brief!, look: {} };
  }
  if (sent.asks === 'numbers') {
    const numbers = numbersOf(await answerFigure({ source, report, vocabulary }, figure));
    return drawing.format === 'csv'
      ? { type: 'text/csv; charset=utf-8', body: numbersCsv(numbers) }
      : { type: 'application/json', body: `${JSON.stringify(numbers, null, 2)}\n` };
  }
  const { scene } = await drawFigure({ source, report, vocabulary }, figure);
  if (drawing.format === 'svg') return { type: 'image/svg+xml', body: writeSvg(scene) };
  if (drawing.format === 'json') return { type: 'application/json', body: `${JSON.stringify(scene, null, 2)}\n` };
  checkPixels(scene, drawing.scale);
  const { outlined } = await import('@bold-ruler/core/print');
  const marks = scene.marks.filter(({ role }) => role !== 'cell');
  return { type: 'image/svg+xml', body: writeSvg(outlined({ ...scene, marks }, fontFiles())), scale: drawing.scale };
}

/** The figure's font as it ships with the application. */
function fontFiles() {
  const require = createRequire(join(process.cwd(), 'package.json'));
  const filesOf = (weight: number) =>
    ['latin', 'latin-ext', 'vietnamese'].map((subset) =>
      readFileSync(require.resolve(`@fontsource/archivo-narrow/files/archivo-narrow-${subset}-${weight}-normal.woff`)),
    );
  return { 400: filesOf(400), 600: filesOf(600) };
}

parentPort!.on('message', (sent: Sent) => {
  drawn(sent).then(
    (value) => parentPort!.postMessage({ ok: true, value }),
    (error: unknown) =>
      parentPort!.postMessage({
        ok: false,
        problem: isProblem(error)
          ? { code: error.code, message: error.sentence, place: error.place ?? null, remedy: error.remedy ?? null }
          : { code: 'unforeseen', message: 'something unforeseen went wrong', place: null, remedy: null },
      }),
  );
});
