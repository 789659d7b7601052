import { describe, expect, test } from 'vitest';
import { forms } from '../form';
import { formOf, readBrief } from '../brief';
import { Problem } from '../problem';
import { numbersOf } from '../figure';
import { readCsv } from '../reading';
import { checkReport } from '../report';
import { makeTable } from '../table';
import { workspaceFor } from '../workspace';
import { answerFigure, drawFigure, formsFor, repairsFor } from '.';

// No choice of fields and forms ends in nothing: what has too many members shows the largest, what does not fit is mended.

const ORDERS = 12_000;

async function orderLines(count: number) {
  const lines = Array.from(
    { length: count },
    (_, i) =>
      `2025-0${(i % 5) + 1}-1${i % 9},A-${i + 1},${['Alder', 'Birch', 'Cedar'][i % 3]},${i % 97},${(i % 13) + 1}`,
  );
  const table = makeTable(await readCsv('orders', ['day,Order No,shop,net,pieces', ...lines].join('\n')), {
    id: 'orders',
  });
  const report = checkReport({
    boldRuler: 1,
    name: 'many',
    tables: [{ id: 'orders', source: { file: 'orders.csv' } }],
    measures: [
      { name: 'net', table: 'orders', expression: 'sum(net)' },
      { name: 'price', table: 'orders', expression: 'sum(net) / sum(pieces)' },
      { name: 'On time', table: 'orders', expression: 'count(*)' },
    ],
    benchmarks: [{ name: 'each', kind: 'fixed', value: 5, per: ['member', 'month'] }],
  });
  return workspaceFor(report, new Map([['orders', table]]));
}
const many = await orderLines(ORDERS);
const few = await orderLines(300);

describe('a field of twelve thousand members', () => {
  test.each(forms())('as %s shows the largest and the rest, says so, and adds up to the whole', async (form) => {
    const { source, report, vocabulary } = many;
    const view = form === 'pace' ? 'cumulative net' : form === 'bump' ? 'rank of net' : 'net';
    const each = ['pace', 'bump', 'trend', 'league'].includes(form) ? ' each month' : '';
    const brief = `${view} by "Order No"${each} during fiscal 2025 as ${form}`;
    const { cells, scene } = await drawFigure({ source, report, vocabulary }, { id: 'f', brief, look: {} });
    const told = cells.checks.find(({ code }) => code === 'more-than-drawn')!.text;
    const names = new Set(cells.members[0]);
    expect(told.replaceAll(',', '')).toContain(`of 12000 members the ${names.size - 1} largest are counted singly`);
    expect(names.size).toBeLessThanOrEqual(5001);
    expect(names.has('the rest')).toBe(true);
    const numbers = numbersOf(cells);
    const last = numbers.rows.filter(({ step }) => each === '' || form !== 'pace' || step === '2025-05');
    expect(last.reduce((sum, { actual }) => sum + (actual ?? 0), 0)).toBe(numbers.total.actual);
    expect(
      scene.marks.some((mark) => mark.shape === 'text' && mark.role === 'caption' && mark.text.includes('12,000')),
    ).toBe(true);
  });
  test('is held against a number for each member, and its average is that of all rows that are left', async () => {
    const { source, report, vocabulary } = many;
    const figure = { id: 'f', brief: 'net by "Order No" each month against each as trend', look: {} };
    expect((await drawFigure({ source, report, vocabulary }, figure)).cells.count).toBeGreaterThan(100);
    const price = await drawFigure(
      { source, report, vocabulary },
      { id: 'p', brief: 'price by "Order No" as bars', look: {} },
    );
    const rest = numbersOf(price.cells).rows.at(-1)!;
    expect([rest.rest, Number.isFinite(rest.actual)]).toEqual([true, true]);
    const both = await drawFigure(
      { source, report, vocabulary },
      { id: 'b', brief: 'price by "Order No", shop as bars', look: {} },
    );
    expect([both.cells.count, both.cells.isRest.includes(1)]).toEqual([400, false]);
    // Of what does not add up there is no rest, and none is told of.
    expect(both.cells.checks.map(({ text }) => text)).toContain(
      'of 12,000 members only the 400 largest are counted singly',
    );
  });
  test('its numbers are all there for who asks for numbers', async () => {
    const { source, report, vocabulary } = many;
    const cells = await answerFigure({ source, report, vocabulary }, { id: 'f', brief: 'net by "Order No"', look: {} });
    expect(cells.count).toBe(ORDERS);
  });
});

const BRIEFS = [
  'net',
  'net by shop',
  'net by shop against each',
  'net each month',
  'cumulative net each week during fiscal 2025 against each',
  'rank of net by shop each month',
  'change in net by shop each month',
  'price by shop each month',
  'net, price, "On time" by shop',
  'net by shop, keep 2 highest and the rest',
];

describe.each(BRIEFS)('from “%s”', (text) => {
  test('every form that is offered can be drawn, and says what it changes', async () => {
    const { source, report, vocabulary } = few;
    const brief = readBrief(text, vocabulary);
    const offers = await formsFor({ source, report, vocabulary }, brief);
    expect(offers.map(({ form }) => form)).toContain(formOf(brief));
    for (const offer of offers) {
      const { cells } = await drawFigure({ source, report, vocabulary }, { id: 'f', brief: offer.text, look: {} });
      expect([cells.brief.form, cells.count > 0]).toEqual([offer.form, true]);
      const isSame = JSON.stringify({ ...offer.brief, form: null }) === JSON.stringify({ ...brief, form: null });
      expect(offer.change === '').toBe(isSame);
    }
  });
  test('what a form does not draw is not offered as it is', async () => {
    const { source, report, vocabulary } = few;
    const brief = readBrief(text, vocabulary);
    const asIs = new Set(
      (await formsFor({ source, report, vocabulary }, brief)).flatMap(({ form, change }) =>
        change === '' ? [form] : [],
      ),
    );
    for (const form of forms()) {
      const drawn = drawFigure(
        { source, report, vocabulary },
        { id: 'f', brief: `${text} as ${form}`.replace(/(, keep [^,]*?)( as .*)$/, '$2$1'), look: {} },
      );
      if (asIs.has(form)) await drawn;
      else
        await drawn.then(
          () => Promise.reject(new Error(`${form} can be drawn`)),
          (error: unknown) => expect(error).toBeInstanceOf(Problem),
        );
    }
  });
});

test('a pace offers what it needs: a running sum, and steps', async () => {
  const { source, report, vocabulary } = few;
  const offers = await formsFor({ source, report, vocabulary }, readBrief('net against each', vocabulary));
  expect(offers.find(({ form }) => form === 'pace')?.change).toBe('shows “cumulative net”, adds “each week”');
});

test('a running sum that is held against something is a pace', () => {
  const { vocabulary } = few;
  expect(formOf(readBrief('cumulative net each month against each', vocabulary))).toBe('pace');
  expect(formOf(readBrief('cumulative net each month', vocabulary))).toBe('trend');
});

test.each([
  'rank of net',
  'change in net by shop',
  'net by shop each month as waterfall',
  'net as bump',
  'net by shop as pace',
  'price by shop as waterfall',
  'cumulative price each month',
  'price by shop, "Order No", keep 2 highest and the rest',
  'net during all time against last year',
  'net by shop as trend',
])('“%s” cannot be drawn, and what is offered instead can', async (text) => {
  const { source, report, vocabulary } = few;
  const figure = { id: 'f', brief: text, look: {} };
  await expect(drawFigure({ source, report, vocabulary }, figure)).rejects.toThrow(Problem);
  const repairs = await repairsFor({ source, report, vocabulary }, figure, readBrief(text, vocabulary));
  expect(repairs.length).toBeGreaterThan(0);
  for (const repair of repairs) {
    expect(repair.change).not.toBe('');
    await drawFigure({ source, report, vocabulary }, { ...figure, brief: repair.text });
  }
});
