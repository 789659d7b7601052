import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  levelBelow,
  pathOf,
  pickedBack,
  pickedNext,
  readBrief,
  restOpened,
  wayDown,
  wentBack,
  wentInto,
  writeBrief,
  type Brief,
} from '.';
import type { Vocabulary } from './brief';
import type { Below } from './levels';

const LEVELS = [
  ['region', 'territory', 'rep'],
  ['family', 'line', 'product'],
  ['channel', 'rep'],
];
const FIELDS = ['region', 'territory', 'rep', 'family', 'line', 'product', 'channel', 'constructor'];
const vocabulary: Vocabulary = {
  measures: ['net'],
  fields: FIELDS,
  benchmarks: ['plan'],
  highlights: [],
  rulers: [],
  members: () => null,
};
const has = (field: string) => FIELDS.includes(field);
const WAYS: Below = { has, holds: (benchmark, field) => benchmark !== 'plan' || field !== 'rep' };
const brief = (text: string) => readBrief(text, vocabulary);
const written = (one: Brief | null) => one && writeBrief(one, vocabulary);

describe('a level down', () => {
  test('is the next field of the first hierarchy that has one, but for those that are not there or shown already', () => {
    expect(levelBelow(LEVELS, 'Region', has)).toBe('territory');
    expect(levelBelow(LEVELS, 'rep', has)).toBeNull();
    expect(levelBelow(LEVELS, 'region', (field) => field !== 'territory')).toBe('rep');
    expect(levelBelow(LEVELS, 'region', has, ['territory'])).toBe('rep');
    expect(levelBelow(LEVELS, 'toString', has)).toBeNull();
    expect(wayDown(brief('net by channel, region'), LEVELS, WAYS)).toEqual({ field: 'region', below: 'territory' });
  });

  test('is asked within the row, and says so', () => {
    const into = wentInto(
      brief('net by region during year to date against plan as bullet'),
      LEVELS,
      { region: 'North' },
      WAYS,
    );
    expect(written(into)).toBe('net by territory during year to date against plan as bullet, only region is North');
    const blank = wentInto(brief('net by region only channel is web'), LEVELS, { region: null }, WAYS);
    expect(written(blank)).toContain('only channel is web and region is blank');
    expect(wentInto(brief('net by rep'), LEVELS, { rep: 'Ada' }, WAYS)).toBeNull();
    expect(wentInto(brief('net by region'), LEVELS, {}, WAYS)).toBeNull();
  });

  test('a benchmark that is not known below is left away, with what rests on it', () => {
    const held = brief('net by territory against plan as bullet keep 3 furthest behind sorted by gap up');
    const into = wentInto(held, LEVELS, { territory: 'Mill' }, WAYS);
    expect(written(into)).toBe('net by rep, keep 3 highest, sorted by value down, only territory is Mill');
  });

  test('a selection’s rest is opened member by member', () => {
    const kept = brief('net by rep keep 2 highest and the rest');
    expect(written(restOpened(kept, ['Ada', 'Bo']))).toContain('only rep is not Ada or Bo');
    expect(restOpened(brief('net by rep keep 2 highest'), ['Ada', 'Bo'])).toBeNull();
  });
});

test('law: going back before any step of the way is where one was then', () => {
  const member = fc.constantFrom('North', 'Ada', 'or', 'and the rest', null);
  const text = fc.constantFrom(
    'net by region during all time against plan as bullet sorted by value down',
    'cumulative net by family each month against plan',
    'net by channel keep 3 highest and the rest',
  );
  fc.assert(
    fc.property(text, fc.array(member, { minLength: 1, maxLength: 4 }), (first, members) => {
      const way: Brief[] = [brief(first)];
      for (const one of members) {
        const at = way.at(-1)!;
        const next = wentInto(at, LEVELS, { [at.by[0]!]: one }, { ...WAYS, holds: () => true });
        if (next) way.push(readBrief(writeBrief(next, vocabulary), vocabulary));
      }
      const last = way.at(-1)!;
      const path = pathOf(last, LEVELS);
      expect(path.map(({ member: name }) => name)).toEqual(members.slice(0, way.length - 1));
      path.forEach((_, step) => expect(written(wentBack(last, LEVELS, step))).toBe(written(way[step]!)));
    }),
  );
});

const larkmoor = { figure: 'f1', field: 'territory', member: 'Larkmoor' };
const rep = { figure: 'f1', field: 'rep', member: 'Ada' };

test('a member that is pressed is picked, one below it goes on, another takes its place, the same lets it go', () => {
  expect(pickedNext(null, larkmoor)).toEqual(larkmoor);
  const within = pickedNext(larkmoor, rep);
  expect(within).toEqual({ ...rep, within: [{ field: 'territory', member: 'Larkmoor' }] });
  expect(pickedNext(within, { ...rep, member: 'Bo' })).toEqual({ ...within, member: 'Bo' });
  expect(pickedNext(within, rep)).toEqual(larkmoor);
  expect(pickedNext(larkmoor, larkmoor)).toBeNull();
  expect(pickedNext(within, { ...larkmoor, figure: 'f2' })).toEqual({ ...larkmoor, figure: 'f2' });
});

test('going back before a step leaves the steps above it', () => {
  const account = { figure: 'f1', field: 'account', member: null };
  const deep = pickedNext(pickedNext(larkmoor, rep), account)!;
  expect(pickedBack(deep, 2)).toEqual(pickedNext(larkmoor, rep));
  expect(pickedBack(deep, 1)).toEqual(larkmoor);
  expect(pickedBack(deep, 0)).toBeNull();
});
