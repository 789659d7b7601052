import JSZip from 'jszip';
import { readSheet } from 'read-excel-file/node';
import { SaxesParser } from 'saxes';
import { expect, test } from 'vitest';
import { tidy } from '../number';
import { drawPage } from '../page';
import { fileOf, readCsv, readXlsx } from '../reading';
import { checkReport } from '../report';
import { writeSvg } from '../scene';
import { cellText, makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { pagePptx, pageXlsx, sheetNames, writeXlsx } from '.';

const EVIL = '=HYPERLINK("evil")';

async function page(lines: readonly string[]) {
  const report = checkReport({
    boldRuler: 1,
    name: 'r',
    tables: [{ id: 't', source: { file: 't.csv' } }],
    measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
    figures: [{ id: 'f', brief: 'net by shop against average as bars' }],
    pages: [
      {
        id: 'p',
        title: 'A <page> & more',
        rows: [
          {
            blocks: [
              { figure: 'f', share: 8 },
              { text: '# To know\n- {first} stands first', about: 'f', share: 4 },
            ],
          },
        ],
      },
    ],
  });
  const table = makeTable(await readCsv('t', ['shop,net', ...lines].join('\n')), { id: 't' });
  const { source, vocabulary } = workspaceFor(report, new Map([['t', table]]));
  return drawPage({ source, report, vocabulary }, report.pages[0]!);
}

const LINES = [`"${EVIL.replaceAll('"', '""')}",5.25`, 'South,7', '<b>East</b>,-3', 'Blank,'];
const PIXELS = Uint8Array.of(1, 2, 3);
const pictured = (scene: Parameters<typeof writeSvg>[0]) => Promise.resolve({ svg: writeSvg(scene), png: PIXELS });

/** The texts and the names of the elements of an XML part, as a reader that is not ours finds them. */
function readXml(text: string): { texts: string[]; elements: string[] } {
  const texts: string[] = [];
  const elements: string[] = [];
  const parser = new SaxesParser({ xmlns: true });
  parser.on('opentag', ({ name }) => elements.push(name));
  parser.on('text', (part) => part.trim() !== '' && texts.push(part));
  parser.on('error', (error) => {
    throw error;
  });
  parser.write(text).close();
  return { texts, elements };
}

test('a workbook holds the numbers themselves; text that begins like a formula is text, and stays it', async () => {
  const bytes = pageXlsx(await page(LINES));
  const rows = await readSheet(Buffer.from(bytes), 2);
  const heading = rows.findIndex((row) => row[0] === 'shop');
  expect(rows[heading]!.slice(0, 4)).toEqual(['shop', 'net', 'average', 'gap to average']);
  const lines = new Map(rows.slice(heading + 1).map((row) => [row[0], row[1]]));
  expect(lines.get(EVIL)).toBe(5.25);
  expect(lines.get('<b>East</b>')).toBe(-3);
  expect(lines.get('Blank')).toBeNull();
  const zip = await JSZip.loadAsync(bytes);
  const sheet = await zip.file('xl/worksheets/sheet2.xml')!.async('text');
  expect(readXml(sheet).elements).not.toContain('f');
  // The style of its cell keeps it text when somebody edits it.
  const style = Number(/r="A\d+" t="inlineStr" s="(\d+)"><is><t xml:space="preserve">=HYPER/.exec(sheet)![1]);
  const formats = (await zip.file('xl/styles.xml')!.async('text'))
    .match(/<cellXfs.*<\/cellXfs>/)![0]
    .match(/<xf[ /]/g)!;
  expect(formats.length).toBeGreaterThan(style);
  expect((await readSheet(Buffer.from(bytes), 'Contents')).flat()).toContain('A <page> & more');
});

/** A sheet of one figure, as a reader that is not ours finds it: its heading, its rows, and how each column's numbers are shown. */
async function sheetOf(brief: string, look: object = {}) {
  const report = checkReport({
    boldRuler: 1,
    name: 'r',
    calendar: { fiscalYearStart: 4 },
    tables: [{ id: 't', source: { file: 't.csv' } }],
    measures: [
      { name: 'net', table: 't', expression: 'sum(net)', format: { style: 'currency', currency: 'EUR' } },
      { name: 'lines', table: 't', expression: 'count(*)' },
      { name: 'weight', table: 't', expression: 'sum(kg)', format: { style: 'number', unit: 'kg' } },
    ],
    figures: [{ id: 'f', brief, look }],
    pages: [{ id: 'p', title: 'P', rows: [{ blocks: [{ figure: 'f', share: 12 }] }] }],
  });
  const lines = [
    'day,shop,net,kg',
    '2024-04-02,North,20,1',
    '2024-05-02,North,50.5,1',
    '2025-04-01,North,90,2',
    '2025-05-02,South,10.25,3',
  ];
  const table = makeTable(await readCsv('t', lines.join('\n')), { id: 't' });
  const { source, vocabulary } = workspaceFor(report, new Map([['t', table]]));
  const bytes = pageXlsx(await drawPage({ source, report, vocabulary }, report.pages[0]!));
  const rows = await readSheet(Buffer.from(bytes), 2);
  const at = rows.findIndex((row) => row.includes('rows'));
  const zip = await JSZip.loadAsync(bytes);
  const styles = await zip.file('xl/styles.xml')!.async('text');
  const named = new Map(
    [...styles.matchAll(/numFmtId="(\d+)" formatCode="([^"]*)"/g)].map((m) => [m[1]!, m[2]!.replaceAll('&quot;', '"')]),
  );
  const formats = [...styles.match(/<cellXfs.*<\/cellXfs>/)![0].matchAll(/<xf(?: numFmtId="(\d+)")?/g)].map(
    (m) => named.get(m[1] ?? '') ?? '',
  );
  const sheet = await zip.file('xl/worksheets/sheet2.xml')!.async('text');
  const shown = (column: string) => {
    const letter = String.fromCharCode(65 + rows[at]!.indexOf(column));
    const style = new RegExp(`<c r="${letter}${at + 2}" s="(\\d+)"`).exec(sheet)?.[1];
    return style === undefined ? '' : formats[Number(style)]!.split(';')[0];
  };
  return { heading: rows[at]!, rows: rows.slice(at + 1), shown };
}

test('columns of a workbook are called by what they hold and shown as their measure is, with no point behind whole numbers', async () => {
  const { heading, rows, shown } = await sheetOf(
    'net, lines, share of net by shop during 2025-04 to 2025-05 against last year as table',
  );
  expect(heading).toEqual([
    'shop',
    'net',
    'last year',
    'gap to last year',
    'gap to last year %',
    'standing to last year',
    'rank',
    'share',
    'places won',
    'lines',
    'share of net',
    'rows',
  ]);
  expect([shown('net'), shown('lines'), shown('share'), shown('rows')]).toEqual([
    '"€"#,##0.00',
    '#,##0',
    '0.0%',
    '#,##0',
  ]);
  expect(rows.map((row) => row.slice(0, 4))).toEqual([
    ['North', 90, 70.5, 19.5],
    ['South', 10.25, 0, 10.25],
  ]);
  expect((await sheetOf('weight by shop as bars')).shown('weight')).toBe('#,##0"\u00a0kg"');
});

test('months are days of the spreadsheet, quarters are named as the report’s calendar names them', async () => {
  const months = await sheetOf('net each month during 2025-04 to 2025-05 as trend');
  expect(months.shown('month')).toBe('yyyy\\-mm');
  expect(months.rows.map(([month]) => (month as unknown as Date).toISOString().slice(0, 10))).toEqual([
    '2025-04-01',
    '2025-05-01',
  ]);
  const quarters = await sheetOf('net each quarter during 2025-04 to 2025-05 as trend');
  expect(quarters.rows.map(([quarter]) => quarter)).toEqual(['2026-Q1']);
});

test('a headline brings all that it is held against', async () => {
  const { heading, rows } = await sheetOf('net during 2025-05 against previous period as headline', {
    references: ['last year'],
  });
  expect(heading).toEqual([
    'net',
    'previous period',
    'gap to previous period',
    'gap to previous period %',
    'standing to previous period',
    'last year',
    'gap to last year',
    'gap to last year %',
    'rows',
  ]);
  expect(rows[0]!.slice(0, 7)).toEqual([10.25, 90, -79.75, tidy(-79.75 / 90), 'behind', 50.5, -40.25]);
});

test('names of sheets are made fit, and never alike', () => {
  const names = sheetNames(['a/b', 'A b', "'q'", '', 'x'.repeat(40), 'x'.repeat(41)]);
  expect(names.slice(0, 4)).toEqual(['a b', 'A b 2', 'q', 'Sheet']);
  for (const name of names) expect(name.length).toBeLessThanOrEqual(31);
  expect(new Set(names.map((name) => name.toLowerCase())).size).toBe(names.length);
});

test('an empty figure and letters XML cannot hold leave a workbook that opens', async () => {
  const bytes = writeXlsx('t\u0000', [
    { name: 's', about: [], columns: [{ name: 'a\u0001b' }], lines: [['c\ud800d'], [Infinity]] },
  ]);
  expect(await readSheet(Buffer.from(bytes))).toEqual([['ab'], ['cd']]);
});

test('text that looks like an escaped character is read back as it is', async () => {
  const texts = ['_x003D_1+1', '_x005F_', '_x003D_x0041_', '_x12_', 'a_x000A_b'];
  const bytes = writeXlsx('t', [
    { name: 's', about: [], columns: [{ name: 'text' }], lines: texts.map((text) => [text]) },
  ]);
  const { columns, rows } = await readXlsx(fileOf('x.xlsx', bytes), {});
  expect(Array.from({ length: rows }, (_, row) => cellText(columns[0]!, row))).toEqual(texts);
});

test('slides hold titles and numbers as text, and each figure as vectors beside its pixels', async () => {
  const drawn = await page(LINES);
  const bytes = await pagePptx(drawn, pictured);
  expect(await pagePptx(drawn, pictured)).toEqual(bytes);
  const zip = await JSZip.loadAsync(bytes);
  for (const name of Object.keys(zip.files))
    if (/\.(xml|rels|svg)$/.test(name)) readXml(await zip.file(name)!.async('text'));
  const slide = async (n: number) => readXml(await zip.file(`ppt/slides/slide${n}.xml`)!.async('text'));
  expect((await slide(1)).texts).toEqual([
    'A <page> & more',
    'r',
    'To know',
    '–  <b>East</b> stands first',
    'From t.csv.',
  ]);
  const picture = await slide(2);
  expect(picture.elements).toContain('asvg:svgBlip');
  expect(await zip.file('ppt/media/figure2.png')!.async('uint8array')).toEqual(PIXELS);
  expect(readXml(await zip.file('ppt/media/figure2.svg')!.async('text')).texts).toContain('South');
  const table = await slide(3);
  expect(table.elements.filter((name) => name === 'a:tr')).toHaveLength(6);
  for (const text of [EVIL, '<b>East</b>', '5.25', '−3.00']) expect(table.texts).toContain(text);
  // Every part a slide leads to is there.
  const leads = readXmlTargets(await zip.file('ppt/slides/_rels/slide2.xml.rels')!.async('text'));
  for (const to of leads) expect(zip.file(`ppt/${to.replace('../', '')}`)).not.toBeNull();
});

const readXmlTargets = (text: string) => [...text.matchAll(/Target="([^"]+)"/g)].map(([, target]) => target!);

test('more rows than a slide has room for go on over the next, and what is left is told', async () => {
  const drawn = await page(Array.from({ length: 90 }, (_, i) => `Shop ${i},${i + 1}`));
  const zip = await JSZip.loadAsync(await pagePptx(drawn, pictured));
  const last = readXml(await zip.file('ppt/slides/slide5.xml')!.async('text'));
  expect(last.texts.some((text) => text.startsWith('rows 37 to 54 of 91 · 37 more'))).toBe(true);
  expect(zip.file('ppt/slides/slide6.xml')).toBeNull();
});
