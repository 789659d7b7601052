import { expect, test } from 'vitest';
import { PAPER } from '../../scene';
import { drawnFrom } from '../drawn.fixture';

// One a day from January on: a month is as much as it has days.
async function courseUntil(last: string, period = 'year to date') {
  const begins = Date.UTC(2025, 0, 1);
  const count = Math.round((Date.parse(last) - begins) / 86_400_000) + 1;
  const days = Array.from({ length: count }, (_, i) => new Date(begins + i * 86_400_000).toISOString().slice(0, 10));
  const { scene } = await drawnFrom(
    ['day,net', ...days.map((day) => `${day},1`)].join('\n'),
    `net during ${period} as headline`,
    { date: 'day', look: { spark: true }, measures: [{ name: 'net', table: 't', expression: 'sum(net)' }] },
  );
  const paths = scene.marks.flatMap((mark) => (mark.shape === 'path' && mark.role === 'path' ? [mark] : []));
  return {
    solid: paths.filter(({ paint }) => !paint.dash).map(({ points }) => points.length),
    dashed: paths.filter(({ paint }) => paint.dash).map(({ points }) => points.length),
    node: scene.marks.find(({ role }) => role === 'node')!,
    label: scene.marks.flatMap((mark) => (mark.shape === 'text' && mark.role === 'ticklabel' ? [mark.text] : [])),
  };
}

test('a headline’s course does not dip where a step still runs: the way there is dashed and says to which day', async () => {
  const { solid, dashed, node, label } = await courseUntil('2025-08-17');
  expect([solid, dashed]).toEqual([[7], [2]]);
  expect(node.value).toBe(17);
  expect(node.paint.fill).toBe(PAPER);
  expect(label).toEqual(['to 17 Aug']);
});

test('nor where the period cuts its first or its last step', async () => {
  const { solid, dashed, label } = await courseUntil('2025-12-31', '2025-01-15 to 2025-09-10');
  expect([solid, dashed]).toEqual([[7], [2, 2]]);
  expect(label).toEqual(['to 10 Sep']);
});

test('of whole steps all is one line', async () => {
  const { solid, dashed, node, label } = await courseUntil('2025-08-31');
  expect([solid, dashed]).toEqual([[8], []]);
  expect(node.paint.fill).not.toBe(PAPER);
  expect(label).toEqual(['Aug 2025']);
});
