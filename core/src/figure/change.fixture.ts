import fc from 'fast-check';
import { isoDay } from '../calendar';
import type { Look } from '../report';
import type { Mark, Scene } from '../scene';
import type { Drawing } from './drawn.fixture';

export const DUST = 1e-6;
export const marksOf = ({ marks }: Scene, ...roles: Mark['role'][]) => marks.filter(({ role }) => roles.includes(role));
export const textsOf = ({ marks }: Scene, role: Mark['role']) =>
  marks.flatMap((mark) => (mark.shape === 'text' && mark.role === role ? [mark.text] : []));

/** Rows of some shops over two years that end within a month; the goals go on. */
export const world = fc.record({
  shops: fc.array(fc.constantFrom('Nord', 'Süd', 'A shop of which the name goes on and on and on', 'Ö'), {
    minLength: 1,
    maxLength: 4,
  }),
  many: fc.option(fc.integer({ min: 20, max: 60 }), { freq: 1, nil: undefined }),
  amounts: fc.array(
    fc.oneof(fc.integer({ min: -300, max: 900 }), fc.constant(0), fc.double({ min: -1e6, max: 1e7, noNaN: true })),
    {
      minLength: 3,
      maxLength: 60,
    },
  ),
  asOf: fc.integer({ min: 0, max: 364 }),
});
export type World = typeof world extends fc.Arbitrary<infer W> ? W : never;

const START = 19_723; // 2024-01-01
export function csvOf({ shops, many, amounts }: World): string {
  const names = Array.from({ length: many ?? shops.length }, (_, i) => `${shops[i % shops.length]!} ${i}`);
  const lines = amounts.flatMap((amount, i) => {
    const day = START + ((i * 37) % 730);
    return [
      `${isoDay(day)},${names[(i * 7) % names.length]!},${Math.round(amount * 100) / 100},${Math.round(Math.abs(amount) * 90) / 100 + 1}`,
    ];
  });
  return ['day,shop,net,goal', ...lines].join('\n');
}
export const dated = ({ asOf }: World, look: Look = {}): Drawing => ({
  date: 'day',
  look,
  calendar: { fiscalYearStart: 1, asOf: isoDay(START + 366 + asOf) },
  measures: [{ name: 'net', table: 't', expression: 'sum(net)', aim: 'raise' }],
  benchmarks: [{ name: 'goal', kind: 'fixed', value: 100, per: ['member', 'month'] }],
  types: [
    { name: 'day', type: 'date' },
    { name: 'shop', type: 'text' },
    { name: 'net', type: 'number' },
    { name: 'goal', type: 'number' },
  ],
});
