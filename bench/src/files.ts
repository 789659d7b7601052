/** The demo's page as files: how long a PDF takes, and how large the HTML file is. */
import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { carriedBy, hasBasicLetters, workingsOf, writeHtml, type Program } from '@bold-ruler/core/handover';
import { pageXlsx } from '@bold-ruler/core/office';
import { drawPage } from '@bold-ruler/core/page';
import { writePdf } from '@bold-ruler/core/print';
import { openReport } from '../../cli/src/files';
import { embeddedFonts, fontFiles } from '../../cli/src/fonts';
import { smallest } from '../../cli/src/smallest';
import { median } from './timing';

const [reportFile, programFile] = process.argv.slice(2) as [string, string];
const PDF_GOAL = 1000;
const HTML_GOAL = 350_000;

const { report, source, vocabulary } = await openReport(reportFile, []);
const page = report.pages[0]!;
const draw = () => drawPage({ source, report, vocabulary }, page);

const cold = performance.now();
await writePdf(await draw(), { fonts: fontFiles() });
const first = performance.now() - cold;
const pdf = await median(async () => writePdf(await draw(), { fonts: fontFiles() }), 9, 1);
console.log(
  `time demo-page-to-pdf ${pdf.toFixed(0)} ms, the first time ${first.toFixed(0)} ms  (goal ≤ ${PDF_GOAL}: ${first <= PDF_GOAL ? 'met' : 'missed'})`,
);
const xlsx = await median(async () => pageXlsx(await draw()), 9, 1);
console.log(`time demo-page-to-workbook ${xlsx.toFixed(0)} ms`);

const start = performance.now();
const drawn = await draw();
const carried = (await carriedBy({ source, report, vocabulary }, page))!;
const program = JSON.parse(readFileSync(programFile, 'utf8')) as Program;
const reckoning = await workingsOf(source, report, drawn);
const html = writeHtml(drawn, {
  fonts: hasBasicLetters(drawn, carried) ? program.fonts : embeddedFonts(),
  reckoning,
  live: { carried, program, deflate: smallest },
});
const size = Buffer.byteLength(html);
console.log(`time demo-page-to-html ${(performance.now() - start).toFixed(0)} ms`);
console.log(
  `size demo-page-as-html ${(size / 1000).toFixed(0)} KB, packed ${(gzipSync(html).length / 1000).toFixed(0)} KB; carries ${carried.rows} rows  (goal ≤ ${HTML_GOAL / 1000}: ${size <= HTML_GOAL ? 'met' : 'missed'})`,
);
