import { factsIn, makeTable } from '../table';
import { readCsv } from '../reading';
import { checkReport, type Report } from '../report';
import { workspaceFor } from '../workspace';
import type { Names } from '.';

// A small Pellwether report in which everything names something else.

const read = async (id: string, text: string) => [id, makeTable(await readCsv(id, text), { id })] as const;

const tables = new Map(
  await Promise.all([
    read('sales', 'day,shop,line,net,pieces\n2025-01-02,Alder,brass,5,1\n2025-02-03,Birch,keys,7,2'),
    read('goals', 'month,shop,goal\n2025-01,Alder,4\n2025-02,Birch,9'),
    read('shops', 'shop,region\nAlder,North\nBirch,South'),
    read('visits', 'day,door,visits\n2025-01-02,East,12'),
  ]),
);

export const base: Report = checkReport({
  boldRuler: 1,
  name: 'Pellwether',
  tables: [
    {
      id: 'sales',
      source: { file: 'sales.csv' },
      derived: [
        { name: 'price', expression: 'net / pieces' },
        { name: 'spare', expression: 'net + 1' },
      ],
      joins: [{ columns: ['shop'], to: 'shops', on: ['shop'] }],
    },
    { id: 'goals', source: { file: 'goals.csv' } },
    { id: 'visits', source: { file: 'visits.csv' } },
    { id: 'shops', source: { file: 'shops.csv' } },
  ],
  measures: [
    { name: 'net', table: 'sales', expression: 'sum(net)' },
    { name: 'pieces', table: 'sales', expression: 'sum(pieces)' },
    { name: 'dearest', table: 'sales', expression: 'max(price)' },
    { name: 'visitors', table: 'visits', expression: 'sum(visits)' },
  ],
  benchmarks: [
    { name: 'goal', kind: 'table', table: 'goals', expression: 'sum(goal)' },
    { name: 'stretch', kind: 'scaled', of: 'goal', by: 0.1 },
    { name: 'further', kind: 'scaled', of: 'stretch', by: 0.1 },
    { name: 'at each door', kind: 'fixed', value: 3, per: ['door'] },
  ],
  rulers: [{ id: 'euros', kind: 'linear' }],
  highlights: [
    { name: 'loud', on: 'value', rules: [{ id: 'high', when: { from: 5 }, encode: { ink: '#B4472F' } }] },
    { name: 'calm', on: 'standing', rules: [] },
  ],
  figures: [
    {
      id: 'a',
      brief: 'net, share of net by shop against goal as table',
      look: {
        columns: [
          { of: 'net', cell: 'bar' },
          { of: 'share of net', cell: 'share bar' },
          { of: 'goal', cell: 'number' },
        ],
        references: ['stretch', 'last year'],
        stops: { low: 0, high: 'further' },
      },
    },
    { id: 'b', brief: 'net by shop against stretch as bullet, lit by loud, on euros' },
    { id: 'c', brief: 'net by shop against goal as waterfall', look: { quantity: 'pieces' } },
    { id: 'd', brief: 'visitors by door against at each door as bullet' },
    { id: 'e', brief: 'no brief at all' },
  ],
  pages: [
    {
      id: 'p',
      title: 'How it goes',
      filters: [
        { field: 'shop', choice: 'one' },
        { field: 'door', choice: 'several' },
      ],
      rows: [
        { head: 'Sales' },
        {
          blocks: [
            { figure: 'a', share: 6 },
            { figure: 'd', share: 6 },
          ],
        },
        { blocks: [{ figure: 'd', share: 12 }] },
        {
          blocks: [
            {
              text: 'Alder leads.',
              about: 'b',
              claims: [{ kind: 'extreme member', member: 'Alder', text: 'Alder leads.' }],
              share: 8,
            },
          ],
        },
      ],
      dismissed: [{ figure: 'd', kind: 'lands' }],
    },
  ],
  accepted: [
    { code: 'rule-gap', about: 'highlight', id: 'loud', reason: 'as agreed' },
    { code: 'rates-added', about: 'measure', id: 'net', reason: 'as agreed' },
    { code: 'zoomed', about: 'figure', id: 'd', reason: 'as agreed' },
    { code: 'stale-finding', about: 'page', id: 'p', reason: 'as agreed' },
    { code: 'far-days', about: 'table', id: 'visits', reason: 'as agreed' },
  ],
});

/** The names that an edit of this report looks up. */
export function namesOf(report: Report): Names {
  const { vocabulary, tables: read } = workspaceFor(
    report,
    // Whatever a table is called, its rows are those of its file.
    new Map(
      report.tables.flatMap(({ id, source }) => {
        const rows = tables.get(source.file.replace(/\.csv$/, ''));
        return rows ? [[id, { ...rows, id }] as const] : [];
      }),
    ),
  );
  return {
    vocabulary,
    facts: factsIn(read, report.calendar),
  };
}
