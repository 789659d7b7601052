import fc from 'fast-check';
import { zipSync, strToU8 } from 'fflate';
import JSZip from 'jszip';
import { expect, test } from 'vitest';
import { isProblem } from '../problem';
import { checkReport, readBundle, writeBundle, writeReport } from '.';
import { tries } from '../proof/tries.fixture';

const report = (...files: string[]) =>
  checkReport({ boldRuler: 1, name: 'r', tables: files.map((file, i) => ({ id: `t${i}`, source: { file } })) });
const text = (content: string) => strToU8(content);
const zip = (parts: Record<string, string>) =>
  zipSync(Object.fromEntries(Object.entries(parts).map(([name, content]) => [name, strToU8(content)])));

test('what was bundled is there again, under names that lie beside the report', async () => {
  const made = report('a.csv', '../up/a.csv', 'sub/b.ruler.json', 'a.csv');
  const bytes = writeBundle(
    made,
    new Map([
      ['a.csv', text('one')],
      ['../up/a.csv', text('two')],
      ['sub/b.ruler.json', text('three')],
    ]),
  );
  const { report: back, files } = readBundle(bytes);
  expect(back.tables.map(({ source }) => source.file)).toEqual(['a.csv', 'a-2.csv', 'b.ruler-2.json', 'a.csv']);
  expect([...files].map(([name, content]) => [name, Buffer.from(content).toString()])).toEqual([
    ['a.csv', 'one'],
    ['a-2.csv', 'two'],
    ['b.ruler-2.json', 'three'],
  ]);
  // A program that is not ours finds the same in it.
  const others = await JSZip.loadAsync(bytes);
  expect(Object.keys(others.files).sort()).toEqual(['a-2.csv', 'a.csv', 'b.ruler-2.json', 'report.ruler.json']);
  expect(await others.file('report.ruler.json')!.async('text')).toBe(writeReport(back));
});

const ours = writeReport(report('a.csv'));
test.each([
  ['odd-path', { 'r.ruler.json': ours, '../a.csv': 'x' }],
  ['odd-path', { 'r.ruler.json': ours, '/etc/a.csv': 'x' }],
  ['odd-path', { 'r.ruler.json': ours, 'c:\\a.csv': 'x' }],
  ['odd-path', { 'r.ruler.json': ours, 'c:a.csv': 'x' }],
  ['odd-path', { 'r.ruler.json': ours, 'in\\a.csv': 'x' }],
  ['odd-path', { 'r.ruler.json': ours, '\\a.csv': 'x' }],
  ['odd-path', { 'r.ruler.json': ours, 'in/../../a.csv': 'x' }],
  ['not-a-bundle', { 'a.csv': 'x' }],
  ['not-a-bundle', { 'r.ruler.json': ours, 's.ruler.json': ours, 'a.csv': 'x' }],
  ['file-not-there', { 'r.ruler.json': ours, 'b.csv': 'x' }],
  ['file-not-there', { 'r.ruler.json': writeReport(report('__proto__')), 'b.csv': 'x' }],
  [
    'too-many-files',
    { 'r.ruler.json': ours, ...Object.fromEntries(Array.from({ length: 200 }, (_, i) => [`${i}`, ''])) },
  ],
])('%s is refused', (code, parts: Record<string, string>) => {
  expect(() => readBundle(zip(parts))).toThrow(expect.objectContaining({ code }) as Error);
});

test('a bundle in a folder of its own is read from there', () => {
  expect(readBundle(zip({ 'x/r.ruler.json': ours, 'x/a.csv': 'in', 'a.csv': 'out' })).files.get('a.csv')).toEqual(
    text('in'),
  );
});

test('whatever the bytes, it opens or says what is wrong', () => {
  const whole = zip({ 'r.ruler.json': ours, 'a.csv': 'day,net\n2025-01-01,5\n' });
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.nat(), fc.nat(255)), { minLength: 1, maxLength: 6 }), fc.nat(), (changes, cut) => {
      const bytes = whole.slice(0, cut % 3 === 0 ? cut % whole.length : whole.length);
      for (const [at, value] of changes) if (bytes.length > 0) bytes[at % bytes.length] = value;
      try {
        readBundle(bytes);
      } catch (error) {
        expect(isProblem(error)).toBe(true);
      }
    }),
    { numRuns: tries(200) },
  );
});
