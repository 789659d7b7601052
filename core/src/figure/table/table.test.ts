import fc from 'fast-check';
import { expect, test } from 'vitest';
import { readBrief } from '../../brief';
import { answerBrief } from '../../query';
import { tries } from '../../proof/tries.fixture';
import { readCsv } from '../../reading';
import { checkReport } from '../../report';
import { makeTable } from '../../table';
import { workspaceFor } from '../../workspace';
import { drawFigure, type Drawn } from '../draw';

const row = fc.record({
  region: fc.constantFrom('North', 'South', ''),
  shop: fc.constantFrom('Alder', 'Birch', 'Cedar', 'constructor', ''),
  line: fc.constantFrom('keys', 'brass'),
  net: fc.option(fc.integer({ min: -900, max: 9000 }), { freq: 8 }),
  pieces: fc.integer({ min: 1, max: 9 }),
});

async function deskOf(rows: readonly (typeof row extends fc.Arbitrary<infer R> ? R : never)[]) {
  const lines = rows.map(({ region, shop, line, net, pieces }) => [region, shop, line, net ?? '', pieces].join());
  const report = checkReport({
    boldRuler: 1,
    name: 'Pellwether',
    tables: [{ id: 'sales', source: { file: 'sales.csv' } }],
    measures: [
      { name: 'net', table: 'sales', expression: 'sum(net)', format: { style: 'number', scale: 'none', decimals: 0 } },
      { name: 'price', table: 'sales', expression: 'sum(net) / sum(pieces)' },
    ],
  });
  const types = [
    { name: 'region', type: 'text' as const },
    { name: 'shop', type: 'text' as const },
    { name: 'line', type: 'text' as const },
    { name: 'net', type: 'number' as const },
  ];
  const csv = ['region,shop,line,net,pieces', 'North,Alder,keys,5,1', 'South,Birch,keys,7,1', ...lines].join('\n');
  const table = makeTable(await readCsv('sales', csv, types), { id: 'sales', columns: types });
  return { ...workspaceFor(report, new Map([['sales', table]])), report };
}

test('law: every row stands once, under what its group comes to; that is the measure of the group, whatever the measure', () =>
  fc.assert(
    fc.asyncProperty(
      fc.array(row, { maxLength: 30 }),
      fc.constantFrom(['region', 'shop'], ['line', 'shop'], ['region', 'shop', 'line']),
      fc.constantFrom('', ' sorted by value down', ' sorted by name up'),
      async (rows, by, sorted) => {
        const desk = await deskOf(rows);
        const brief = `net, price by ${by.join(', ')} as table${sorted}`;
        const { scene, rows: cells } = await drawFigure(desk, {
          id: 'f',
          brief,
          look: { subtotals: true, width: 1200 },
        });
        expect(scene.dropped).toBe(0);
        const stands = scene.marks.filter(({ role }) => role === 'cell');
        const own = stands.filter(({ key }) => Object.keys(key).length === by.length);
        expect(new Set(own.map(({ key }) => JSON.stringify(key))).size).toBe(cells.count);
        expect(own.length).toBe(cells.count);
        // Each group in one piece.
        const groups = own.map(({ key }) => key[by[0]!] ?? null);
        expect(new Set(groups).size).toBe(groups.filter((one, i) => i === 0 || one !== groups[i - 1]).length);
        for (let level = 0; level < by.length - 1; level++) {
          const shorter = readBrief(`net, price by ${by.slice(0, level + 1).join(', ')} as table`, desk.vocabulary);
          const answer = await answerBrief(desk, shorter);
          const told = scene.marks.flatMap((mark) =>
            mark.role === 'subtotal' && mark.shape === 'text' && Object.keys(mark.key).length === level + 1
              ? [[JSON.stringify(Object.values(mark.key)), mark.text] as const]
              : [],
          );
          for (let at = 0; at < answer.count; at++) {
            const key = JSON.stringify(by.slice(0, level + 1).map((_, f) => answer.members[f]![at]! || null));
            const [member, net] = told.filter(([one]) => one === key).map(([, text]) => text);
            expect(member).toBe(answer.members[level]![at]! || '(blank)');
            const value = answer.actual[at]! / 10 ** (answer.decimals ?? 0);
            if (!Number.isNaN(value)) expect(Number(net!.replace('−', '-').replaceAll(',', ''))).toBe(value);
          }
          expect(new Set(told.map(([key]) => key)).size).toBe(answer.count);
        }
      },
    ),
    { numRuns: tries(25) },
  ));

test('without them, or of a selection, the rows stand alone', async () => {
  const desk = await deskOf([]);
  for (const [brief, look] of [
    ['net by region, shop as table', {}],
    ['net by region, shop as table keep 1 highest', { subtotals: true as const }],
    ['net by region as table', { subtotals: true as const }],
  ] as const) {
    const { scene } = await drawFigure(desk, { id: 'f', brief, look });
    expect(scene.marks.some(({ role }) => role === 'subtotal')).toBe(false);
  }
});

test('law: narrow paper has the columns it has room for, short names whole, and tells of the others', () =>
  fc.assert(
    fc.asyncProperty(fc.array(row, { maxLength: 30 }), fc.integer({ min: 220, max: 1000 }), async (rows, width) => {
      const desk = await deskOf(rows);
      const brief = 'net, share of net, price, rank of net by shop as table';
      const [wide, narrow] = await Promise.all(
        [{}, { width }].map((look) => drawFigure(desk, { id: 'f', brief, look })),
      );
      const headed = ({ scene }: Drawn) => scene.marks.flatMap((mark) => mark.column ?? []);
      const [all, shown] = [headed(wide!), headed(narrow!)];
      expect(narrow!.scene.width).toBe(width);
      expect(shown).toEqual(all.slice(0, shown.length));
      const aside = all.length - shown.length;
      const told = /(\d+) more columns?/.exec(textsOf(narrow!).join('\n'));
      expect(Number(told?.[1] ?? 0)).toBe(aside);
      expect(narrow!.scene.description.includes('Without room here')).toBe(aside > 0);
      for (const name of ['Alder', 'Birch', 'Cedar', 'constructor'])
        expect(textsOf(narrow!).includes(name)).toBe(textsOf(wide!).includes(name));
    }),
    { numRuns: tries(40) },
  ));

const textsOf = ({ scene }: Drawn) => scene.marks.flatMap((mark) => (mark.shape === 'text' ? [mark.text] : []));
