import { describe, expect, test } from 'vitest';
import { readBrief } from '../brief';
import { drawFigure, numbersOf } from '../figure';
import { reckon } from '../reckoning';
import { open } from '../workspace/opened.fixture';
import { answerBrief, waterfallFor } from '.';

// What exchange rates did to a change since last year, worked out by hand.

const SALES = [
  'day,dealer,currency,amount,boxes',
  '2024-01-10,Ashdown,USD,100,10',
  '2024-02-10,Ashdown,USD,100,10',
  '2024-02-10,Birch,EUR,40,4',
  '2025-01-10,Ashdown,USD,120,12',
  '2025-02-10,Ashdown,USD,100,10',
  '2025-02-11,Birch,EUR,50,5',
  '2025-02-12,Corvane,GBP,10,1',
];
const RATES = [
  'month,currency,rate',
  '2024-01,USD,0.8',
  '2024-02,USD,0.9',
  '2025-01,USD,1',
  '2025-02,USD,0.95',
  '2024-02,GBP,1.1',
  '2025-02,GBP,1.3',
];
const TABLES = [
  { id: 'abroad', date: 'day' },
  { id: 'rates', date: 'month', grain: 'month', rates: { currency: 'currency', rate: 'rate' } },
];
const euros = (at = 'own') => ({
  measures: [
    {
      name: 'sales',
      table: 'abroad',
      expression: 'sum(amount)',
      currency: { column: 'currency', rates: 'rates', to: 'EUR', at },
    },
    { name: 'boxes', table: 'abroad', expression: 'sum(boxes)' },
    { name: 'dollars', table: 'abroad', expression: 'sum(amount)' },
  ],
});
const BRIEF = 'sales by dealer during 2025-01 to 2025-02 against last year as waterfall';
const opened = (rates: readonly string[] = RATES, more: object = euros()) =>
  open({ abroad: SALES, rates }, TABLES, more);
async function stepsOf(desk: Awaited<ReturnType<typeof opened>>, brief: string, choices: object) {
  const cells = await answerBrief(desk, readBrief(brief, desk.vocabulary), choices);
  const { steps } = waterfallFor(cells);
  return { steps: steps.map(({ kind, name, value, end }) => [kind, name, value, end]), cells };
}

describe('exchange rates as a step of their own', () => {
  test('members change at last year’s rates, and what rates did ties out to the actual', async () => {
    // Last year: 100 × 0.8 + 100 × 0.9 + 40 = 210. This year at its own rates: 120 × 1 + 100 × 0.95 + 50 + 10 × 1.3 = 278.
    // At last year's: 120 × 0.8 + 100 × 0.9 = 186, 50, and 10 × 1.1 = 11; so rates did 278 − 247 = 31.
    const { steps } = await stepsOf(await opened(), BRIEF, { exchange: true });
    expect(steps).toEqual([
      ['total', 'last year', 210, 210],
      ['step', 'Ashdown', 16, 226],
      ['step', 'Birch', 10, 236],
      ['step', 'Corvane', 11, 247],
      ['step', 'exchange rates', 31, 278],
      ['total', 'sales', 278, 278],
    ]);
    const plain = await stepsOf(await opened(), BRIEF, {});
    expect(plain.steps.map(([, name, value]) => [name, value])).toEqual([
      ['last year', 210],
      ['Ashdown', 45],
      ['Birch', 10],
      ['Corvane', 13],
      ['sales', 278],
    ]);
  });

  test('with three hundred members it stays by itself, and those without room are counted without it', async () => {
    const names = Array.from({ length: 300 }, (_, i) => `Dealer ${String(i).padStart(3, '0')}`);
    const sales = ['day,dealer,currency,amount,boxes'];
    for (const name of names) sales.push(`2024-01-10,${name},USD,10,1`, `2025-01-10,${name},USD,11,1`);
    const desk = await open({ abroad: sales, rates: RATES }, TABLES, euros());
    const brief = 'sales by dealer during 2025-01 against last year as waterfall';
    const figure = { id: 'f', brief, look: { exchange: true as const, height: 400 } };
    const { scene } = await drawFigure({ ...desk, report: { ...desk.report, figures: [figure] } }, figure);
    const texts = scene.marks.flatMap((mark) => (mark.shape === 'text' ? [mark.text] : []));
    // 300 × (11 × 0.8 − 10 × 0.8) and 300 × 11 × (1 − 0.8).
    const [others] = texts.filter((text) => / more\b/.test(text));
    const shown = texts.filter((text) => text.startsWith('Dealer ')).length;
    // Two hundred are drawn, the largest; all others are the rest.
    expect(others).toMatch(/^\d+ more and the rest$/);
    expect(Number(/\d+/.exec(others!)![0]) + shown).toBe(200);
    expect(texts).toContain('exchange rates');
    expect(texts).toContain('+660');
  });

  test('under a year of weeks with rates of calendar months', async () => {
    const calendar = { weeks: { pattern: '4-4-5', ends: 'saturday', on: 'last', of: 1 } };
    const desk = await open(
      {
        abroad: ['day,dealer,currency,amount', '2024-03-10,Ashdown,USD,100', '2025-03-10,Ashdown,USD,100'],
        rates: [
          'month,currency,rate',
          '2024-03,USD,0.5',
          '2025-03,USD,0.75',
          '2025-02,USD,0.1',
          '2024-02,USD,0.1',
          '2024-04,USD,0.1',
        ],
      },
      [
        { id: 'abroad', date: 'day' },
        { ...TABLES[1]!, columns: [{ name: 'month', type: 'date', read: 'calendar yyyy-MM' }] },
      ],
      { ...euros(), calendar },
    );
    const cells = await answerBrief(
      desk,
      readBrief('sales by dealer during year to date against last year as waterfall', desk.vocabulary),
      { exchange: true },
    );
    expect(waterfallFor(cells).steps.map(({ name, value }) => [name, value])).toEqual([
      ['last year', 50],
      ['Ashdown', 0],
      ['exchange rates', 25],
      ['sales', 75],
    ]);
  });

  test('of some members and the rest', async () => {
    const brief =
      'sales by dealer during 2025-01 to 2025-02 against last year as waterfall, keep 1 highest and the rest';
    const { steps } = await stepsOf(await opened(), brief, { exchange: true });
    expect(steps.map(([, , value]) => value)).toEqual([210, 16, 21, 31, 278]);
  });

  test('beside volume, price and mix, which are then at last year’s rates', async () => {
    const { steps } = await stepsOf(await opened(), BRIEF, { exchange: true, quantity: 'boxes' });
    const value = (name: string) => steps.find((step) => step[1] === name)![2];
    expect([value('new'), value('exchange rates'), steps.at(-1)![3]]).toEqual([11, 31, 278]);
    expect(steps.reduce((sum, [kind, , adds]) => (kind === 'step' ? sum + (adds as number) : sum), 210)).toBeCloseTo(
      278,
    );
  });

  test('a rate that last year lacks leaves its effect in the member’s step, and is told', async () => {
    const desk = await opened(RATES.filter((line) => !line.startsWith('2024-02,GBP')));
    const { steps, cells } = await stepsOf(desk, BRIEF, { exchange: true });
    expect(steps.map(([, name, value]) => [name, value]).slice(3)).toEqual([
      ['Corvane', 13],
      ['exchange rates', 29],
      ['sales', 278],
    ]);
    expect(cells.checks.find(({ code }) => code === 'rate-missing')!.text).toBe(
      '“rates” lacks rates of the period compared with for Corvane: what exchange rates did there is in the other steps',
    );
  });

  test.each([
    [
      BRIEF.replace('sales by', 'dollars by'),
      euros(),
      '“dollars” is not converted by the rates of each row’s own period',
    ],
    [BRIEF, euros('2024-02'), '“sales” is not converted by the rates of each row’s own period'],
    [BRIEF.replace(' against last year', ''), euros(), 'the effect of exchange rates tells two periods apart'],
  ])('%s is refused where there is nothing to tell apart', async (brief, more, said) => {
    await expect(stepsOf(await opened(RATES, more), brief, { exchange: true })).rejects.toThrow(said);
  });

  test('is drawn, is among the numbers, and its reckoning tells the amount at last year’s rates', async () => {
    const desk = await opened();
    const figure = { id: 'f', brief: BRIEF, look: { exchange: true as const } };
    const drawn = await drawFigure({ ...desk, report: { ...desk.report, figures: [figure] } }, figure);
    const texts = drawn.scene.marks.flatMap((mark) => (mark.shape === 'text' ? [mark.text] : []));
    expect(texts).toContain('exchange rates');
    const { waterfall } = numbersOf(drawn.cells);
    expect(waterfall!.find(({ name }) => name === 'exchange rates')).toMatchObject({ value: 31 });
    const { sentences } = await reckon(desk, drawn, 0);
    expect(sentences.map(({ text }) => text).join(' ')).toContain(
      'At the exchange rates of last year it is 186.00; the other 29.00 is in the step “exchange rates”.',
    );
  });
});
