import fc from 'fast-check';
import { expect, test } from 'vitest';
import { placedBlocks, SHEET } from '.';

const shares = fc
  .array(fc.integer({ min: 2, max: 12 }), { minLength: 1, maxLength: 4 })
  .filter((list) => list.reduce((sum, one) => sum + one, 0) <= 12);

test('blocks stand beside one another with a gutter between, none beyond the paper, equal shares in one line', () =>
  fc.assert(
    fc.property(shares, fc.integer({ min: 320, max: 2000 }), (list, width) => {
      const blocks = list.map((share) => ({ share }));
      const { columns, stacked } = placedBlocks(blocks, width);
      columns.forEach(({ x, width: wide }, i) => {
        expect(x).toBeGreaterThan(0);
        expect(x + wide).toBeLessThan(width);
        const next = columns[i + 1];
        if (next && !stacked) expect(next.x - x - wide).toBeCloseTo(SHEET.gutter, 6);
      });
      if (!stacked && list[0] === 6)
        expect(columns[0]).toEqual(placedBlocks([{ share: 6 }, { share: 6 }], width).columns[0]);
    }),
  ));

test('a share is so many twelfths of the paper, with 20 pixels around and between; below 640 pixels blocks stand in one column', () => {
  const at = (width: number, ...shares: number[]) =>
    placedBlocks(
      shares.map((share) => ({ share })),
      width,
    );
  expect(at(640, 6, 6)).toEqual({
    columns: [
      { x: 20, width: 290 },
      { x: 330, width: 290 },
    ],
    stacked: false,
  });
  expect(at(1000, 12)).toEqual({ columns: [{ x: 20, width: 960 }], stacked: false });
  const thirds = at(1000, 3, 4, 5).columns;
  expect(thirds.map(({ x, width }) => x + width)).toEqual(
    [245, 571.6666666666667, 980].map((x) => expect.closeTo(x, 9)),
  );
  expect(thirds.map(({ x }) => x)).toEqual([20, 265, 591.6666666666666].map((x) => expect.closeTo(x, 9)));
  expect(at(639, 6, 6)).toEqual({
    columns: [
      { x: 10, width: 619 },
      { x: 10, width: 619 },
    ],
    stacked: true,
  });
});
