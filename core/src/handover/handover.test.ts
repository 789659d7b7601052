import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { drawPage } from '../page';
import { readCsv } from '../reading';
import { checkReport } from '../report';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { smallestAnywhere, workingsOf, writeHtml } from '.';
import { toBase91 } from './base91';
import { framed } from './streams';
import { LOADER_SCRIPT, LOADER_SCRIPT_HASH, PAGE_SCRIPT, PAGE_SCRIPT_HASH } from './script';

async function fileOf(lines: readonly string[], title = 'A page') {
  const report = checkReport({
    boldRuler: 1,
    name: 'r',
    tables: [{ id: 't', source: { file: 't.csv' } }],
    measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
    figures: [{ id: 'f', brief: 'net by shop as bars' }],
    pages: [{ id: 'p', title, rows: [{ blocks: [{ figure: 'f', share: 12 }] }] }],
  });
  const table = makeTable(await readCsv('t', ['shop,net', ...lines].join('\n')), { id: 't' });
  const { source, vocabulary } = workspaceFor(report, new Map([['t', table]]));
  const page = await drawPage({ source, report, vocabulary }, report.pages[0]!);
  return writeHtml(page, { fonts: { 400: 'AAAA' }, reckoning: await workingsOf(source, report, page) });
}

test('its only script is the one its policy names, and it asks for nothing', async () => {
  expect(createHash('sha256').update(PAGE_SCRIPT).digest('base64')).toBe(PAGE_SCRIPT_HASH);
  const html = await fileOf(['North,5', 'South,7']);
  expect(html).toContain(`script-src 'sha256-${PAGE_SCRIPT_HASH}'`);
  expect(html.match(/<script>/g)).toHaveLength(1);
  expect(html.replaceAll('http://www.w3.org/2000/svg', '')).not.toMatch(/https?:|\bsrc="|href=/);
});

test('bytes as letters come back as they were by the loader, and never end a script', async () => {
  expect(createHash('sha256').update(LOADER_SCRIPT).digest('base64')).toBe(LOADER_SCRIPT_HASH);
  const [loader] = LOADER_SCRIPT.split('let carriedTables');
  let text = '';
  const page = { getElementById: () => ({ textContent: text }) };
  const [bytesOf, streamsOf] = new Function('document', `${loader};return [bytesOf, streamsOf]`)(page) as [
    (text: string) => Uint8Array,
    (id: string) => Promise<ArrayBuffer[]>,
  ];
  const pack = await smallestAnywhere();
  const bytes = fc.uint8Array({ maxLength: 300 });
  await fc.assert(
    fc.asyncProperty(bytes, fc.array(bytes, { maxLength: 4 }), async (one, streams) => {
      text = toBase91(one);
      expect(text).toMatch(/^[#-;=-~]*$/);
      expect(text.length).toBeLessThanOrEqual(Math.ceil((one.length * 16) / 13) + 1);
      expect(bytesOf(text)).toEqual(one);
      text = toBase91(framed(streams.map(pack)));
      expect((await streamsOf('tables')).map((stream) => new Uint8Array(stream))).toEqual(streams);
    }),
  );
  expect(bytesOf(toBase91(new Uint8Array(99).fill(255)))).toEqual(new Uint8Array(99).fill(255));
});

test('each mark has its words and its working', async () => {
  const html = await fileOf(['North,5', 'South,7']);
  const data = JSON.parse(/id="reckonings">(.*?)<\/script>/.exec(html)![1]!) as { t: string; s: string[][] }[];
  expect(data.map(({ t }) => t)).toEqual(['North', 'South']);
  expect(data[1]!.s[0]).toEqual(['1 row of t.csv where shop is South.']);
  expect(html).toContain('<rect data-r="1" x=');
  for (const script of [PAGE_SCRIPT, LOADER_SCRIPT]) expect(script).toContain("setAttribute('role','button')");
});

test('markup in names and titles stays text, everywhere in the file', async () => {
  const evil = '</script><img src=x onerror=alert(1)>';
  const html = await fileOf([`"${evil}",5`, 'South,7'], evil);
  expect(html).not.toContain('<img');
  expect(html.match(/<\/script>/g)).toHaveLength(2);
  const data = JSON.parse(/id="reckonings">(.*?)<\/script>/.exec(html)![1]!) as { t: string }[];
  expect(data[0]!.t).toBe(evil);
});

test('a figure of very many rows gives no workings away, and is still there', async () => {
  const html = await fileOf(Array.from({ length: 90 }, (_, i) => `Shop ${i},${i + 1}`));
  expect(html).toContain('id="reckonings">[]<');
  expect(html).toContain('Shop 89');
});
