import { expect, test } from 'vitest';
import { readCsv } from '../reading';
import { makeTable } from './table';
import { levelsIn } from './levels';

async function levelsOf(lines: readonly string[]) {
  return levelsIn(makeTable(await readCsv('t', lines.join('\n')), { id: 't' }));
}

test('fields whose members each have one of a wider field are below it; what crosses is not', async () => {
  const rows = Array.from({ length: 200 }, (_, i) => {
    const rep = i % 12;
    return `${'NS'[Math.floor(rep / 6)]},T${Math.floor(rep / 2)},R${rep},${['web', 'shop'][(i + Math.floor(i / 12)) % 2]},${i}`;
  });
  expect(await levelsOf(['region,territory,rep,channel,net', ...rows])).toEqual([['region', 'territory', 'rep']]);
  // One row that says otherwise is enough, a blank is not.
  const crossed = [...rows, 'N,T5,R11,web,1'];
  expect(await levelsOf(['region,territory,rep,channel,net', ...crossed])).toEqual([['territory', 'rep']]);
  expect(await levelsOf(['region,territory,rep,channel,net', ...rows, ',T5,R11,web,1'])).toEqual([
    ['region', 'territory', 'rep'],
  ]);
});

test('two finer fields of one are two hierarchies; keys, names for the same and single members are no levels', async () => {
  const rows = Array.from({ length: 240 }, (_, i) => {
    const a = i % 8;
    const b = (Math.floor(i / 8) % 6) + 6 * Math.floor(a / 4);
    return `one,${'XY'[Math.floor(a / 4)]},A${a},B${b},code${a},order${i}`;
  });
  expect(await levelsOf(['all,side,a,b,code,order', ...rows])).toEqual([
    ['side', 'a'],
    ['side', 'b'],
  ]);
});
