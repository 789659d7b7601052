import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import {
  decodePDFRawStream,
  PDFArray,
  PDFDict,
  PDFDocument,
  PDFHexString,
  PDFName,
  PDFNumber,
  type PDFRawStream,
  type PDFRef,
} from '@cantoo/pdf-lib';
import { beforeAll, describe, expect, test } from 'vitest';
import { drawPage, type DrawnPage } from '../page';
import { readCsv } from '../reading';
import { checkReport, type Page } from '../report';
import type { FontFiles } from '../scene';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { writePdf } from '.';

const require = createRequire(import.meta.url);
const fontsOf = (weight: number) => [
  readFileSync(require.resolve(`@fontsource/archivo-narrow/files/archivo-narrow-latin-${weight}-normal.woff`)),
];
const fonts: FontFiles = { 400: fontsOf(400), 600: fontsOf(600) };

/** An element as it is read back. */
interface Read {
  readonly name: string;
  readonly parts: readonly Read[];
  /** Which contents it has, sheet by sheet. */
  readonly contents: readonly (readonly [sheet: number, id: number])[];
  readonly alt: string | null;
  readonly scope: string | null;
  readonly summary: string | null;
}

/** The structure of a document, and what its sheets say is told by whom. */
async function readBack(bytes: Uint8Array) {
  const document = await PDFDocument.load(bytes, { updateMetadata: false });
  const sheets = document.getPages();
  const name = PDFName.of.bind(PDFName);
  const text = (dict: PDFDict | undefined, key: string) =>
    dict?.lookupMaybe(name(key), PDFHexString)?.decodeText() ?? null;
  const tree = document.catalog.lookup(name('StructTreeRoot'), PDFDict);
  const paths = new Map<string, PDFRef>();
  const read = (ref: PDFRef): Read => {
    const dict = document.context.lookup(ref, PDFDict);
    const parts: Read[] = [];
    const contents: [number, number][] = [];
    const kids = dict.lookup(name('K'), PDFArray);
    for (let k = 0; k < kids.size(); k++) {
      const kid = kids.lookup(k, PDFDict);
      const id = kid.lookupMaybe(name('MCID'), PDFNumber)?.asNumber();
      if (id === undefined) parts.push(read(kids.get(k) as PDFRef));
      else {
        const sheet = sheets.findIndex((one) => one.ref === kid.get(name('Pg')));
        contents.push([sheet, id]);
        paths.set(`${sheet} ${id}`, ref);
      }
    }
    const attributes = dict.lookupMaybe(name('A'), PDFDict);
    return {
      name: dict.lookup(name('S'), PDFName).decodeText(),
      parts,
      contents,
      alt: text(dict, 'Alt'),
      scope: attributes?.lookupMaybe(name('Scope'), PDFName)?.decodeText() ?? null,
      summary: text(attributes, 'Summary'),
    };
  };
  const root = read(tree.get(name('K')) as PDFRef);
  const numbers = tree.lookup(name('ParentTree'), PDFDict).lookup(name('Nums'), PDFArray);
  const parents = sheets.map((sheet) => {
    const at = sheet.node.lookup(name('StructParents'), PDFNumber).asNumber();
    return numbers.lookup(2 * at + 1, PDFArray).asArray();
  });
  const operators = sheets.map((sheet) => {
    const stream = sheet.node.Contents()!;
    const streams = stream instanceof PDFArray ? stream.asArray().map((one) => document.context.lookup(one)) : [stream];
    return streams
      .map((one) => Buffer.from(decodePDFRawStream(one as PDFRawStream).decode()).toString('latin1'))
      .join('\n');
  });
  return { document, root, paths, parents, operators };
}

const flat = (element: Read): Read[] => [element, ...element.parts.flatMap(flat)];

const ROWS = Array.from(
  { length: 36 },
  (_, i) => `2026-0${1 + (i % 3)}-0${1 + (i % 9)},Shop ${i % 7},${i % 5 === 0 ? 'Web' : 'Schools'},${10 * i}`,
);

describe('what a page as PDF tells those who hear it', () => {
  let page: DrawnPage;
  const all: Page['rows'] = [
    {
      blocks: [
        { figure: 'whole', share: 6 },
        { text: 'Said before any heading.', share: 6 },
      ],
    },
    { head: 'Shops' },
    { blocks: [{ figure: 'bars', share: 12 }] },
    {
      blocks: [
        {
          text: '# To know\nOne thing\n- first\n- second, which is so long that it goes on in further lines below it\n\nEnd',
          share: 4,
        },
        { figure: 'sums', share: 8 },
      ],
    },
    { head: 'Over time' },
    { blocks: [{ figure: 'months', share: 12 }] },
    { blocks: [{ figure: 'broken', share: 12 }] },
  ];

  beforeAll(async () => {
    const report = checkReport({
      boldRuler: 1,
      name: 'Spring',
      calendar: { fiscalYearStart: 1 },
      tables: [{ id: 'sales', source: { file: 'sales.csv' }, date: 'day' }],
      measures: [{ name: 'net', table: 'sales', expression: 'sum(net)' }],
      figures: [
        { id: 'whole', brief: 'net as headline' },
        { id: 'bars', brief: 'net by shop as bars' },
        { id: 'sums', brief: 'net, share of net by channel, shop as table', look: { subtotals: true } },
        { id: 'months', brief: 'net by shop each month as trend' },
        { id: 'broken', brief: 'net by nothing' },
      ],
      pages: [{ id: 'p', title: 'Spring', rows: all }],
    });
    const table = makeTable(await readCsv('sales', ['day,shop,channel,net', ...ROWS].join('\n')), {
      id: 'sales',
      date: 'day',
    });
    page = await drawPage(workspaceFor(report, new Map([['sales', table]])), report.pages[0]!);
  });

  for (const paper of [undefined, 'a4', 'letter'] as const)
    test(`each content stands in one element, the sheet and the tree agree (${paper ?? 'one sheet'})`, async () => {
      const { bytes } = await writePdf(page, { fonts, ...(paper ? { paper } : {}) });
      const { paths, parents, operators, root, document } = await readBack(bytes);
      expect(String(document.catalog.lookup(PDFName.of('MarkInfo')))).toContain('/Marked true');
      expect(flat(root).flatMap(({ contents }) => contents)).toHaveLength(paths.size);
      expect(operators.length).toBeGreaterThan(paper ? 1 : 0);
      for (const [sheet, text] of operators.entries()) {
        // Contents are numbered as they come, never within one another, and nothing is drawn outside of them.
        const ids: number[] = [];
        let open = 0;
        for (const line of text.split('\n')) {
          if (/(?:BDC|BMC)$/.test(line)) open += 1;
          if (/^EMC$/.test(line)) open -= 1;
          if (/ (?:Tj|re|[lc])$|^[fSB]$/.test(line)) expect(open, `${sheet}: ${line}`).toBe(1);
          expect(open).toBeLessThan(2);
          const id = /\/MCID (\d+)/.exec(line)?.[1];
          if (id !== undefined) ids.push(Number(id));
        }
        expect(open).toBe(0);
        expect(ids).toEqual(ids.map((_, i) => i));
        expect(parents[sheet]).toEqual(ids.map((id) => paths.get(`${sheet} ${id}`)));
      }
    });

  test('headings do not skip a level, and say the titles of page, sections and figures in their order', async () => {
    const { root } = await readBack((await writePdf(page, { fonts })).bytes);
    const levels = flat(root).flatMap(({ name }) => (/^H\d$/.test(name) ? [Number(name.slice(1))] : []));
    // The page; a figure; a section with its figure, a text's heading and a table; another with a figure.
    expect(levels).toEqual([1, 2, 2, 3, 3, 3, 2, 3]);
  });

  test('each figure has its description, a table its cells: as many in each line, with what heads them', async () => {
    const { root } = await readBack((await writePdf(page, { fonts })).bytes);
    const figures = page.placed.filter(({ kind }) => kind === 'figure');
    const isTable = ({ figure }: (typeof figures)[number]) => figure === 'sums';
    expect(flat(root).flatMap(({ alt }) => alt ?? [])).toEqual(
      figures.filter((one) => !isTable(one)).map(({ scene }) => scene.description),
    );
    const [table, ...others] = flat(root).filter(({ name }) => name === 'Table');
    expect(others).toEqual([]);
    const shown = figures.find(isTable)!;
    expect(table!.summary).toBe(shown.scene.description);
    const lines = table!.parts;
    // Headings; two channels with what they come to, or their shops; all.
    const pairs = new Set(ROWS.map((row) => row.split(',').slice(1, 3).join()));
    expect(lines).toHaveLength(1 + 2 + pairs.size + 1);
    for (const line of lines) {
      expect(line.name).toBe('TR');
      expect(line.parts.map(({ name }) => /^T[HD]$/.test(name))).toEqual(Array(4).fill(true));
    }
    expect(lines[0]!.parts.map(({ name, scope }) => [name, scope])).toEqual(Array(4).fill(['TH', 'Column']));
    for (const line of lines.slice(1)) {
      const filled = line.parts.filter(({ contents }) => contents.length > 0);
      expect(filled.filter(({ name }) => name === 'TH').map(({ scope }) => scope)).toEqual(['Row']);
      expect(filled.filter(({ name }) => name === 'TD')).toHaveLength(2);
    }
  });

  test('items below one another are one list; what adorns and samples of legends are told by nobody', async () => {
    const { root, operators } = await readBack((await writePdf(page, { fonts })).bytes);
    const lists = flat(root).filter(({ name }) => name === 'L');
    expect(lists.map(({ parts }) => parts.map(({ name, parts: [body] }) => [name, body?.name]))).toEqual([
      [
        ['LI', 'LBody'],
        ['LI', 'LBody'],
      ],
    ]);
    expect(operators.join('\n')).toContain('/Artifact BMC');
  });
});
