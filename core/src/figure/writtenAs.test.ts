import { expect, test } from 'vitest';
import type { FigureFormat } from '../report';
import type { Form } from '../form';
import { drawnFrom } from './drawn.fixture';
import { numbersOf } from '.';

const CSV = 'shop,net,goal\nNorth,1234567.891,1200000\nSouth,-4321.5,5000';
const at = async (form: Form, format?: FigureFormat) => {
  const { scene, cells } = await drawnFrom(CSV, `net, margin by shop against goal as ${form}`, {
    look: format ? { format } : {},
    measures: [
      { name: 'net', table: 't', expression: 'sum(net)', format: { style: 'currency', currency: 'EUR' } },
      { name: 'margin', table: 't', expression: 'sum(net) / sum(goal)', format: { style: 'percent', decimals: 1 } },
    ],
    benchmarks: [{ name: 'goal', kind: 'expression', expression: 'sum(goal)' }],
  });
  const texts = scene.marks.flatMap((mark) => (mark.shape === 'text' ? [mark.text] : []));
  return { numbers: JSON.stringify(numbersOf(cells)), texts, title: scene.title };
};

test.each<Form>(['bullet', 'bars', 'table'])(
  '%s: its numbers are written as the figure says, those of other measures are not, and no number changes',
  async (form) => {
    const plain = await at(form);
    expect(plain.texts.some((text) => /^€1\.2\d*M$/.test(text))).toBe(true);
    const exact = await at(form, { scale: 'none', decimals: 2 });
    expect(exact.texts).toContain('€1,234,567.89');
    expect(exact.title).toContain('€1,230,246.39');
    const signed = await at(form, {
      scale: 'K',
      decimals: 0,
      plus: true,
      negative: 'parentheses',
      separators: 'comma',
    });
    expect(signed.texts).toContain('+€1.235K');
    expect(signed.texts).toContain('(€4K)');
    for (const { numbers, texts } of [exact, signed]) {
      expect(numbers).toBe(plain.numbers);
      // Percentages beside them have the same separators, and the same sign for less than zero.
      const percents = plain.texts.filter((text) => /^\+.*%$/.test(text));
      expect(percents.length).toBeGreaterThan(0);
      const written = (text: string) => {
        if (texts === exact.texts) return text;
        return text.replace(/[.,]/g, (mark) => (mark === '.' ? ',' : '.'));
      };
      if (form === 'table') for (const text of percents) expect(texts).toContain(written(text));
    }
  },
);
