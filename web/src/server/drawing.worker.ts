import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { parentPort } from 'node:worker_threads';
import { readBrief } from '@bold-ruler/core/brief';
import { answerFigure, drawFigure, figureNamed } from '@bold-ruler/core/figure';
import { fileOf } from '@bold-ruler/core/reading';
import { numbersOf } from '@bold-ruler/core/figure';
import { numbersCsv } from '@bold-ruler/core/query';
import { checkReport, filesOf, readBundle, type FigureEntry } from '@bold-ruler/core/report';
import { checkPixels, readFontFiles, writeSvg, type FontFiles } from '@bold-ruler/core/scene';
import { openReportWith } from '@bold-ruler/core/workspace';
import { isProblem, Problem } from '@bold-ruler/core/problem';
import type { DrawnFile } from './drawing';
import { wishOf, type SentRequest, type Wish } from './wish';

/** The report and the files of its tables, however they came. */
function openedFrom({ content }: Wish) {
  if (content.kind === 'bundle') return readBundle(content.bytes, 'bundle');
  const report = checkReport(content.report, 'report');
  const encoder = new TextEncoder();
  const files = new Map(Object.entries(content.tables).map(([name, text]) => [name, encoder.encode(text)]));
  return { report, files };
}

async function drawn(sent: SentRequest): Promise<DrawnFile> {
  const drawing = wishOf(sent);
  const { report, files } = openedFrom(drawing);
  const workspace = await openReportWith(report, (entry) =>
    filesOf(entry).map((file) => {
      const bytes = files.get(file);
      if (bytes) return fileOf(file, bytes);
      throw new Problem(
        'file-not-there',
        `table “${entry.id}” reads ${file}, which was not sent`,
        { in: 'tables' },
        'send its text under that name',
      );
    }),
  );
  let figure: FigureEntry;
  if (drawing.figure !== null) figure = figureNamed(report, drawing.figure);
  else {
    readBrief(drawing.brief!, workspace.vocabulary);
    figure = { id: 'brief', brief: drawing.brief!, look: {} };
  }
  if (sent.asks === 'numbers') {
    const numbers = numbersOf(await answerFigure(workspace, figure));
    return drawing.format === 'csv'
      ? { type: 'text/csv; charset=utf-8', body: numbersCsv(numbers) }
      : { type: 'application/json', body: `${JSON.stringify(numbers, null, 2)}\n` };
  }
  const { scene } = await drawFigure(workspace, figure);
  if (drawing.format === 'json') return { type: 'application/json', body: `${JSON.stringify(scene, null, 2)}\n` };
  const { facesFor, outlined } = await import('@bold-ruler/core/print');
  if (drawing.format === 'svg') {
    const fonts = facesFor([scene], fontFiles());
    return { type: 'image/svg+xml', body: writeSvg(scene, { fonts }) };
  }
  checkPixels(scene, drawing.scale);
  const marks = scene.marks.filter(({ role }) => role !== 'cell');
  return {
    type: 'image/svg+xml',
    body: writeSvg(outlined({ ...scene, marks }, fontFiles())),
    scale: drawing.scale,
  };
}

/** The figure's font as it ships with the application, read once. */
const fontFiles = (): FontFiles =>
  (files ??= readFontFiles((path) => readFileSync(createRequire(join(process.cwd(), 'package.json')).resolve(path))));
let files: FontFiles | undefined;

parentPort!.on('message', (sent: SentRequest) => {
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
