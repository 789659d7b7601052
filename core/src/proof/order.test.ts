import { expect, test } from 'vitest';
import { answerFigure, numbersOf } from '../figure';
import { openedSource, type Source } from '../query';
import { columnarSource } from '../source';
import { inWorlds } from './world.fixture';

/** A source that answers when it likes: each question after another number of turns, several together or each alone. */
function unhurried(source: Source, seed: number): { readonly source: Source; readonly rounds: () => number } {
  let state = seed;
  let rounds = 0;
  const wait = async () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    for (let turns = state % 23; turns > 0; turns--) await Promise.resolve();
  };
  return {
    rounds: () => rounds,
    source: {
      ...source,
      async groups(queries) {
        rounds++;
        await wait();
        return source.groups(queries);
      },
      async spans(asked) {
        await wait();
        return source.spans(asked);
      },
    },
  };
}

/** More rounds of questions are too many for a source that is far away: only what an answer has to be known for comes later. */
const MOST_ROUNDS = 5;

test('numbers, notes and words are the same whenever the source answers, and a few rounds are enough', async () => {
  let seed = 1;
  let all = 0;
  let inOne = 0;
  await inWorlds(60, 20, async (drawn, desk) => {
    const raw = columnarSource(desk.tables, desk.report.calendar);
    const slow = unhurried(raw, seed++);
    const source = openedSource(slow.source, raw.factsAt);
    const figure = { id: 'f', brief: drawn.cells.text, look: drawn.request.look };
    const expected = numbersOf(await answerFigure(desk, figure));
    expect(numbersOf(await answerFigure({ ...desk, source }, figure))).toEqual(expected);
    expect(slow.rounds()).toBeLessThanOrEqual(MOST_ROUNDS);
    all++;
    if (slow.rounds() === 1) inOne++;
  });
  expect(inOne).toBeGreaterThan(all / 2);
});
