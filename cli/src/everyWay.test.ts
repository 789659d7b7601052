import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import fc from 'fast-check';
import { unzipSync } from 'fflate';
import { afterAll, beforeAll, expect, test, vi } from 'vitest';
import { periodFrom } from '@bold-ruler/core/brief';
import { pageAs } from '@bold-ruler/core/desk';
import { answerFigure, drawFigure, figureNamed, numbersFor, numbersOf } from '@bold-ruler/core/figure';
import { pageMarks, type Carried, type Program } from '@bold-ruler/core/handover';
import { sheetColumns, tablesOf } from '@bold-ruler/core/office';
import { drawPage, NOTHING_CHOSEN, type DrawnPage, type Reader } from '@bold-ruler/core/page';
import { isProblem } from '@bold-ruler/core/problem';
import { writeReport } from '@bold-ruler/core/report';
import { reckon } from '@bold-ruler/core/reckoning';
import { writeSvg } from '@bold-ruler/core/scene';
import { companies, openCompany, type Company } from '../../core/src/proof/company.fixture';
import { tries } from '../../core/src/proof/tries.fixture';
import { at, run } from './command.fixture';
import { fontFiles } from './fonts';
import { OpenedPage } from './openedPage.fixture';
import { smallest } from './smallest';

// One truth in every way out: what the bench says of a figure is what the command line, a page’s HTML file, PDF, slides, workbook and
// picture say of it, for companies of any calendar and files of any grain, and for whatever a page’s reader chooses.

let program: Program;
beforeAll(async () => {
  const packing = (await import('../../scripts/program.mjs' as string)) as { packedProgram(): Promise<Program> };
  program = await packing.packedProgram();
  // Each command would be watched by a thread of its own.
  vi.stubEnv('BOLD_RULER_TIME', '0');
});
afterAll(() => vi.unstubAllEnvs());

const choice = fc.record({
  shop: fc.constantFrom<readonly (string | null)[]>([], [], ['Alder'], ['Birch', 'Cedar']),
  line: fc.constantFrom<readonly (string | null)[]>([], [], ['keys']),
  period: fc.nat(),
  switched: fc.subarray(['signs/low', 'signs/high']),
  picked: fc.constantFrom(null, null, { field: 'shop', member: 'Alder' }, { field: 'line', member: 'brass' }),
});

type Choice = typeof choice extends fc.Arbitrary<infer C> ? C : never;

/** The texts of a page, as they stand on it. */
const textsOf = ({ placed }: DrawnPage) =>
  placed.flatMap(({ scene }) => scene.marks.flatMap((mark) => (mark.shape === 'text' ? [mark.text] : [])));

/** Words apart, in the order of their letters: programs that read files set blanks where they like. */
const letters = (texts: readonly string[]) => [...texts.join('').replace(/\s/g, '')].sort().join('');

const decoded = (xml: string) =>
  xml.replace(
    /&(amp|lt|gt|quot|#39|apos);/g,
    (_, name: string) => ({ amp: '&', lt: '<', gt: '>', quot: '"' })[name] ?? "'",
  );

type Desk = Awaited<ReturnType<typeof openCompany>>;

/** What is answered, or the words in which that is refused. */
async function answered<T>(ask: () => Promise<T>): Promise<{ readonly value: T } | { readonly refused: string }> {
  try {
    return { value: await ask() };
  } catch (error) {
    if (!isProblem(error)) throw error;
    return { refused: `bold-ruler: ${error.message}\n` };
  }
}

/** The command line gives a figure’s numbers and draws its picture, or refuses it in the words of the bench. Whether it is drawn. */
async function checkCommands(desk: Desk, id: string): Promise<boolean> {
  const figure = figureNamed(desk.report, id);
  const numbers = await answered(async () => numbersOf(await answerFigure(desk, figure)));
  const said = await run('numbers', 'company.ruler.json', id);
  if ('refused' in numbers) expect(said).toEqual({ status: 1, out: '', err: numbers.refused });
  else expect(JSON.parse(said.out)).toEqual(JSON.parse(JSON.stringify(numbers.value)));
  const picture = await answered(() => drawFigure(desk, figure));
  const made = await run('draw', 'company.ruler.json', id, '-o', 'figure.json');
  if ('refused' in picture) {
    expect(made).toEqual({ status: 1, out: '', err: picture.refused });
    return false;
  }
  const { scene } = picture.value;
  expect(made.status).toBe(0);
  expect(readFileSync(at('figure.json'), 'utf8')).toBe(`${JSON.stringify(scene, null, 2)}\n`);
  expect(writeSvg(scene)).not.toMatch(/NaN|undefined|Infinity/);
  return true;
}

const means = () => ({
  embedded: async () => ({}),
  program: async () => program,
  fonts: async () => fontFiles(),
  deflate: smallest,
  raster: async () => new Uint8Array(),
});
const fileAs = async (desk: Desk, as: 'html' | 'pdf' | 'pptx' | 'xlsx' | 'svg', width: number) =>
  (await pageAs(desk, 'p', { as, width, choice: null, paper: null }, means())).content;

/** The file’s own program draws the same marks, whatever is chosen, and tells the same workings. */
async function checkHtml(desk: Desk, html: string, { shop, line, period: nth, switched, picked: pressed }: Choice) {
  const page = desk.report.pages[0]!;
  const opened = await OpenedPage.open(html);
  const wide = Number(/<svg id="page"[^>]* width="(\d+)"/.exec(html)![1]);
  const drawnFor = (reader: Reader) => drawPage(desk, page, { width: wide, reader });
  const here = await drawnFor(NOTHING_CHOSEN);
  const { svg, cells } = pageMarks(here, () => true);
  expect(opened.svg).toBe(svg);
  for (const [i, { placed, cell }] of cells.entries()) {
    const { drawn } = placed;
    if (!drawn || i % 7 > 0) continue;
    const row = numbersOf(numbersFor(drawn)).rows.findIndex(
      ({ key, step }) => JSON.stringify([key, step]) === JSON.stringify([cell.key, cell.step ?? null]),
    );
    if (row < 0) continue;
    const { title, sentences } = await reckon(desk, drawn, row);
    const told = await opened.page.working(i);
    for (const text of [title, ...sentences.map((sentence) => sentence.text)]) expect(told).toContain(text);
  }
  const { periods } = JSON.parse(/id="carried">(.*?)<\/script>/.exec(html)![1]!) as Pick<Carried, 'periods'>;
  const period = [null, ...periods][nth % (periods.length + 1)]?.text ?? null;
  const picked = pressed && { figure: 'f0', ...pressed };
  const only = { shop, line };
  const there = await opened.page.chosen({ only, period: period ?? '', switched, picked });
  const reader = { ...NOTHING_CHOSEN, only, period: period === null ? null : periodFrom(period), switched, picked };
  expect(there).toBe(pageMarks(await drawnFor(reader), () => true).svg);
}

function checkPdf(page: DrawnPage, pdf: Uint8Array): void {
  const { stdout } = spawnSync('pdftotext', ['-raw', '-', '-'], { input: pdf, encoding: 'utf8' });
  expect(letters([stdout])).toBe(letters(textsOf(page)));
}

function checkSlides(page: DrawnPage, pptx: Uint8Array): void {
  const parts = unzipSync(pptx, { filter: ({ name }) => /slides\/slide\d+\.xml$/.test(name) });
  const texts = Object.values(parts).flatMap((part) =>
    [...new TextDecoder().decode(part).matchAll(/<a:tc>.*?<\/a:tc>/gs)].map(([cell]) =>
      [...cell.matchAll(/<a:t>(.*?)<\/a:t>/gs)].map(([, text]) => decoded(text!)).join(''),
    ),
  );
  const wanted = page.placed.flatMap(({ drawn, kind }) =>
    kind === 'figure' && drawn
      ? tablesOf(drawn).flatMap(({ header, lines }) => [...header, ...lines.flat().map(({ text }) => text)])
      : [],
  );
  expect([...texts].sort()).toEqual([...wanted].sort());
}

function checkWorkbook(page: DrawnPage, xlsx: Uint8Array): void {
  const parts = unzipSync(xlsx);
  const text = (name: string) => new TextDecoder().decode(parts[name]);
  const shared = parts['xl/sharedStrings.xml']
    ? [...text('xl/sharedStrings.xml').matchAll(/<si>(.*?)<\/si>/gs)].map(([, one]) =>
        decoded(one!.replace(/<[^>]*>/g, '')),
      )
    : [];
  const sheets = Object.keys(parts).filter((name) => /worksheets\/sheet\d+\.xml$/.test(name));
  const held = sheets.flatMap((name) =>
    [...text(name).matchAll(/<c\b([^>]*?)(?:\/>|>(.*?)<\/c>)/gs)].map(([, about, inner = '']) => {
      const words = decoded(/<(?:v|t)\b[^>]*>(.*?)<\/(?:v|t)>/s.exec(inner)?.[1] ?? '');
      if (/t="s"/.test(about!)) return shared[Number(words)];
      return /t="(?:inlineStr|str)"/.test(about!) ? words : Number(words);
    }),
  );
  const counts = new Map<unknown, number>();
  for (const one of held) counts.set(one, (counts.get(one) ?? 0) + 1);
  for (const { drawn, kind } of page.placed) {
    if (kind !== 'figure' || !drawn) continue;
    const cells = numbersFor(drawn);
    for (const cell of sheetColumns(cells, numbersOf(cells)).lines.flat()) {
      if (cell === null || cell === '') continue;
      const left = counts.get(cell) ?? 0;
      if (left === 0) throw new Error(`the workbook lacks ${cell}`);
      counts.set(cell, left - 1);
    }
  }
}

function checkPicture(page: DrawnPage, svg: string): void {
  const texts = [...svg.matchAll(/<text\b[^>]*?(?:\/>|>([^<]*)<)/g)].map(([, text]) => decoded(text ?? ''));
  expect(texts).toEqual(textsOf(page));
}

const writeFiles = ({ files, report }: Company): void => {
  for (const [name, text] of Object.entries(files)) writeFileSync(at(name), text);
  writeFileSync(at('company.ruler.json'), writeReport(report));
};

test('what leaves by one way is what leaves by every other', async () => {
  let [drawn, nth] = [0, 0];
  await fc.assert(
    fc.asyncProperty(companies, choice, async (company, chosen) => {
      writeFiles(company);
      const desk = await openCompany(company);
      const { figures, pages } = company.report;
      const width = [1160, 720][++nth % 2]!;
      if (await checkCommands(desk, figures[nth % figures.length]!.id)) drawn++;
      await checkHtml(desk, (await fileAs(desk, 'html', width)) as string, chosen);
      const page = await drawPage(desk, pages[0]!, { width });
      checkWorkbook(page, (await fileAs(desk, 'xlsx', width)) as Uint8Array);
      checkPicture(page, (await fileAs(desk, 'svg', width)) as string);
      // These take longest, and say what the picture says.
      if (nth % 3 === 0) checkPdf(page, (await fileAs(desk, 'pdf', width)) as Uint8Array);
      if (nth % 3 === 1) checkSlides(page, (await fileAs(desk, 'pptx', width)) as Uint8Array);
    }),
    { numRuns: tries(150) },
  );
  expect(drawn).toBeGreaterThan(tries(50));
});
