import Papa from 'papaparse';
import { expect, test } from 'vitest';
import { writeCsv } from '.';

const EVIL = [
  '=9',
  '+9',
  '-9',
  '@x',
  ' =9',
  '\t=9',
  'a;=9',
  'a;\t-9',
  'a|@x',
  'a\t+9',
  'a\n=9',
  'a;b;＝9',
  '"a";=9',
  ';',
  'a;=1;=2',
];
const PLAIN = ['a, b', 'a;b', 'a-b', 'a = b', 'two\nlines', '5 "inch"', 'a;b=c'];

test('text begins a formula in no program, whatever it parts cells by, and plain text is as it was', () => {
  const written = writeCsv([...EVIL, ...PLAIN].map((text) => ['x', text, 3]));
  for (const delimiter of [',', ';', '\t', '|'])
    for (const row of Papa.parse<string[]>(written, { delimiter }).data)
      for (const cell of row) expect(cell.trimStart(), delimiter).not.toMatch(/^[=+\-@＝]/);
  const back = Papa.parse<string[]>(writeCsv(PLAIN.map((text) => ['x', text, 3])), { delimiter: ',' }).data;
  expect(back.slice(0, -1).map(([, text]) => text)).toEqual(PLAIN);
});
