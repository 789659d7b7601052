import fc from 'fast-check';
import { expect, test } from 'vitest';
import { checkShape, wishOf } from './wish';

const bytes = (text: string) => new TextEncoder().encode(text);
const sent = (text: string, query = {}) => ({
  asks: 'draw' as const,
  kind: 'json' as const,
  bytes: bytes(text),
  query,
});
const whole = { report: { boldRuler: 1 }, tables: { 't.csv': 'a,b\n' }, figure: 'f' };

test('a body and its query make one wish; the body has the last word', () => {
  expect(wishOf(sent(JSON.stringify(whole), { format: 'png', scale: '2' }))).toMatchObject({
    figure: 'f',
    brief: null,
    format: 'png',
    scale: 2,
    content: { kind: 'report', tables: whole.tables },
  });
  expect(wishOf(sent(JSON.stringify({ ...whole, format: 'json' }), { format: 'png' })).format).toBe('json');
});

test.each([
  ['{', 'broken-json'],
  ['[]', 'wrong-request'],
  [JSON.stringify({ ...whole, more: 1 }), 'wrong-request'],
  [JSON.stringify({ ...whole, figure: undefined }), 'wrong-request'],
  [JSON.stringify({ ...whole, tables: { a: 1 } }), 'wrong-request'],
  ['['.repeat(50_000_000), 'odd-shape'],
  [`{"report":{${'"a":1,'.repeat(300_000)}"b":1}}`, 'odd-shape'],
])('what is no wish is told as such', (text, code) => {
  expect(() => wishOf(sent(text))).toThrow(expect.objectContaining({ code }) as Error);
});

test('brackets, colons and commas in texts count for nothing', () => {
  fc.assert(
    fc.property(fc.string({ unit: fc.constantFrom('[', '{', '"', '\\', ':', ',', 'a') }), (text) => {
      checkShape(bytes(JSON.stringify({ tables: { t: text.repeat(200) } })));
    }),
  );
  expect(() => checkShape(bytes(JSON.stringify({ t: '[,'.repeat(300_000) })))).not.toThrow();
});
