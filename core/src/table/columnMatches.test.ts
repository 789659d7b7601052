import { expect, test } from 'vitest';
import { readCsv } from '../reading';
import { columnMatches, makeTable } from '.';

const table = async (...lines: string[]) => makeTable(await readCsv('t', lines.join('\n')), { id: 't' });

test('a column that is gone is found under its other name: by its members, its size, nearly its name, of one kind, once', async () => {
  const old = await table(
    'Date,Rep,Region,Net,Pieces',
    '2026-01-01,Nils Ohara,North,1000,2',
    '2026-01-02,Ines Vale,South,2000,3',
  );
  const now = await table(
    'Order date,Sales rep,Area,Net sales,Pcs,Remark',
    '2026-02-01,Nils Ohara,North,1100,2,late',
    '2026-02-02,Ines Vale,South,900,5,gift',
  );
  expect(Object.fromEntries(columnMatches(old, now).map(({ from, to }) => [from, to]))).toEqual({
    Date: 'Order date',
    Rep: 'Sales rep',
    Region: 'Area',
    Net: 'Net sales',
  });
  expect(columnMatches(old, old)).toEqual([]);
  const other = await table('colour,weight', 'red,5');
  expect(columnMatches(old, other)).toEqual([]);
});
