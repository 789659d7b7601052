import { expect, test } from 'vitest';
import { drawnFrom } from '../drawn.fixture';

test('ranks over time count downward: the first is on top, nothing lies above it', async () => {
  const lines = ['day,shop,net'];
  for (const month of ['01', '02', '03'])
    for (const [i, shop] of ['A', 'B', 'C'].entries()) lines.push(`2025-${month}-28,${shop},${(i + 1) * 10}`);
  for (const brief of ['rank of net by shop each month', 'rank of net by shop each month as trend']) {
    const { scene } = await drawnFrom(lines.join('\n'), brief, {
      measures: [{ name: 'net', table: 't', expression: 'sum(net)' }],
    });
    const [ruler] = scene.rulers;
    expect(ruler!.domain).toEqual([1, 3]);
    expect(ruler!.range[0]).toBeLessThan(ruler!.range[1]);
    expect(ruler!.ticks).toEqual([1, 2, 3]);
    const texts = scene.marks.flatMap((mark) => (mark.shape === 'text' ? [mark] : []));
    const y = (name: string) => texts.findLast(({ text }) => text.startsWith(name))!.y;
    expect(y('C')).toBeLessThan(y('B'));
    expect(y('B')).toBeLessThan(y('A'));
  }
});
