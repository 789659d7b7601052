import fc from 'fast-check';
import { apply } from 'mutative';
import { describe, expect, test } from 'vitest';
import { briefOrNull } from '../brief';
import { isProblem } from '../problem';
import { checkReport, writeReport, type Report } from '../report';
import {
  EDIT_NAMES,
  edited,
  editedPlain,
  NO_HISTORY,
  redone,
  remembered,
  undone,
  type Remembering,
  type Edit,
} from '.';
import { tries } from '../proof/tries.fixture';
import { anyEdit, DATA } from './anyEdit.fixture';
import { base, namesOf } from './report.fixture';

/** Everything in a report that names a figure, a page, a table, a measure, a benchmark, a highlight or a ruler. */
function dangling(report: Report): string[] {
  const { vocabulary } = namesOf(report);
  const figures = new Set(report.figures.map(({ id }) => id));
  const tableIds = new Set(report.tables.map(({ id }) => id));
  const benchmarks = new Set(vocabulary.benchmarks);
  const measures = new Set(vocabulary.measures);
  const found: string[] = [];
  const say = (isThere: boolean, what: string) => isThere || found.push(what);
  for (const { measures: list, kind } of [{ measures: report.measures, kind: 'measure' }])
    for (const { name, table } of list) say(tableIds.has(table), `${kind} ${name} of table ${table}`);
  for (const one of report.benchmarks) {
    if (one.kind === 'table') say(tableIds.has(one.table), `benchmark ${one.name} of table ${one.table}`);
    if (one.kind === 'scaled')
      say(one.of === 'measure' || benchmarks.has(one.of), `benchmark ${one.name} of ${one.of}`);
  }
  for (const { id, brief: text, look } of report.figures) {
    if (text !== 'no brief at all') say(briefOrNull(text, vocabulary) !== null, `brief of ${id}: ${text}`);
    say(look.quantity === undefined || measures.has(look.quantity), `quantity of ${id}`);
    for (const name of look.references ?? []) say(benchmarks.has(name), `reference of ${id}: ${name}`);
    for (const stop of [look.stops?.low, look.stops?.high])
      say(typeof stop !== 'string' || benchmarks.has(stop), `stop of ${id}: ${stop}`);
    for (const { of } of look.columns ?? [])
      say(benchmarks.has(of) || measures.has(of.replace(/^share of /, '')), `cells of ${id}: ${of}`);
  }
  for (const page of report.pages) {
    for (const { figure } of page.dismissed ?? []) say(figures.has(figure), `dismissed: ${figure}`);
    for (const row of page.rows)
      for (const block of 'blocks' in row ? row.blocks : []) {
        if ('figure' in block) say(figures.has(block.figure), `block of ${block.figure}`);
        else say(block.about === undefined || figures.has(block.about), `text about ${block.about}`);
      }
  }
  const ids = {
    figure: figures,
    page: new Set(report.pages.map(({ id }) => id)),
    table: tableIds,
    measure: measures,
    benchmark: new Set(report.benchmarks.map(({ name }) => name)),
    highlight: new Set(report.highlights.map(({ name }) => name)),
  };
  for (const { about, id } of report.accepted ?? [])
    say(about === 'report' || ids[about].has(id), `accepted: ${about} ${id}`);
  return found;
}
/** The report after an edit; an edit that cannot be done says so and changes nothing. */
function tried(report: Report, edit: Edit) {
  try {
    return edited(report, edit, namesOf(report));
  } catch (error) {
    if (!isProblem(error)) throw error;
    expect(error.message).not.toBe('');
    return null;
  }
}

const valid = (report: Report) => expect(() => checkReport(JSON.parse(JSON.stringify(report)))).not.toThrow();

describe('any row of edits', () => {
  test('names every edit there is', () => {
    expect(Object.keys(DATA).sort()).toEqual([...EDIT_NAMES].sort());
    expect(dangling(base)).toEqual([]);
  });

  test('leaves a valid report in which nothing names what is gone, says what it does, and can be taken back exactly', () => {
    fc.assert(
      fc.property(fc.array(anyEdit, { minLength: 1, maxLength: 12 }), (edits) => {
        const states: Report[] = [base];
        let history = NO_HISTORY;
        for (const edit of edits) {
          const before = states.at(-1)!;
          const frozen = JSON.stringify(before);
          const done = tried(before, edit);
          expect(JSON.stringify(before)).toBe(frozen);
          if (!done) continue;
          expect(done.name).toMatch(/^\S.*\S$/);
          valid(done.report);
          expect(dangling(done.report)).toEqual([]);
          expect(apply(done.report, done.back)).toEqual(before);
          expect(apply(before, done.forward)).toEqual(done.report);
          expect(done.report === before).toBe(JSON.stringify(done.report) === frozen);
          expect(done.forward.length === 0).toBe(done.report === before);
          if (done.report === before) continue;
          history = remembered(history, done);
          states.push(done.report);
        }
        let now: Remembering = { report: states.at(-1)!, ...history };
        for (const state of [...states].reverse().slice(1)) {
          now = undone(now)!;
          expect(now.report).toEqual(state);
        }
        expect(undone(now)).toBeNull();
        for (const state of states.slice(1)) {
          now = redone(now)!;
          expect(now.report).toEqual(state);
        }
        expect(redone(now)).toBeNull();
      }),
      { numRuns: tries(40) },
    );
  });

  test('renaming there and back is the very report', () => {
    fc.assert(
      fc.property(DATA.rename, (rename) => {
        // A measure and a benchmark of one name are one column of a table, so they are not told apart.
        const isBoth = [rename.from, rename.to].every((name) =>
          base.measures.concat(base.benchmarks as never).some((one) => one.name === name),
        );
        if (isBoth) return;
        const there = tried(base, { edit: 'rename', ...rename });
        if (!there) return;
        const back = tried(there.report, { edit: 'rename', kind: rename.kind, from: rename.to, to: rename.from })!;
        expect(writeReport(back.report)).toBe(writeReport(base));
      }),
      { numRuns: tries(150) },
    );
  });
});

const after = (edit: Edit, report = base) => edited(report, edit, namesOf(report)).report;

describe('what rests on a name goes with it', () => {
  test('a measure takes its figures along, and these their blocks, texts and what was let stand of them', () => {
    const { figures, pages, accepted } = after({ edit: 'remove', kind: 'measure', name: 'visitors' });
    expect(figures.map(({ id }) => id)).toEqual(['a', 'b', 'c', 'e']);
    expect(pages[0]!.rows.map((row) => ('head' in row ? row.head : row.blocks.length))).toEqual(['Sales', 1, 1]);
    expect(pages[0]!.dismissed).toBeUndefined();
    expect(accepted!.map(({ id }) => id)).toEqual(['loud', 'net', 'p', 'visits']);
  });

  test('a text about a figure that goes tells of none, and keeps its words', () => {
    const { pages } = after({ edit: 'remove-figure', figure: 'b' });
    expect(pages[0]!.rows[3]).toEqual({ blocks: [{ text: 'Alder leads.', share: 8 }] });
  });

  test('a table takes its measures, their figures, benchmarks of its fields and filters along', () => {
    const report = after({ edit: 'remove-table', table: 'visits' });
    expect(report.measures.map(({ name }) => name)).toEqual(['net', 'pieces', 'dearest']);
    expect(report.benchmarks.map(({ name }) => name)).toEqual(['goal', 'stretch', 'further']);
    expect(report.figures.map(({ id }) => id)).toEqual(['a', 'b', 'c', 'e']);
    expect(report.pages[0]!.filters).toEqual([{ field: 'shop', choice: 'one' }]);
    const bare = after({ edit: 'remove-table', table: 'goals' });
    expect(bare.benchmarks.map(({ name }) => name)).toEqual(['at each door']);
    expect(bare.figures[0]).toEqual({
      id: 'a',
      brief: 'net, share of net by shop as table',
      look: {
        columns: [
          { of: 'net', cell: 'bar' },
          { of: 'share of net', cell: 'share bar' },
        ],
        references: ['last year'],
        stops: { low: 0 },
      },
    });
  });

  test.each(['visits', 'goals'])(
    'the table %s brings back what it took along: its measures and all benchmarks',
    (id) => {
      const bare = after({ edit: 'remove-table', table: id });
      const gone = {
        measures: base.measures.filter((one) => !bare.measures.includes(one)),
        benchmarks: base.benchmarks.filter((one) => !bare.benchmarks.includes(one)).reverse(),
      };
      const content = base.tables.find((one) => one.id === id)!;
      const whole = after({ edit: 'put-back', kind: 'tables', content, with: gone }, bare);
      const named = (report: Report) => [...report.measures, ...report.benchmarks].map(({ name }) => name).sort();
      expect(named(whole)).toEqual(named(base));
      expect(dangling(whole)).toEqual([]);
      // What has come in its name since stays, and what rests on a table that is not there does not come.
      const figure = { kind: 'figures' as const, content: base.figures[0]! };
      const other = dangling(after({ edit: 'put-back', ...figure, with: gone }, bare));
      expect(other.filter((what) => /^(measure|benchmark) /.test(what))).toEqual([]);
      expect(named(after({ edit: 'put-back', kind: 'tables', content, with: gone }, whole))).toEqual(named(base));
    },
  );

  test('a derived column is kept while something reads it, and whoever asks is told what', () => {
    expect(() => after({ edit: 'remove-column', table: 'sales', column: 'price' })).toThrow('the measure dearest');
    expect(after({ edit: 'remove-column', table: 'sales', column: 'spare' }).tables[0]!.derived).toHaveLength(1);
  });
});

describe('a new name is followed', () => {
  test('by cells of tables and by what is let stand', () => {
    const { figures, accepted } = after({ edit: 'rename', kind: 'measure', from: 'net', to: 'net sales' });
    expect(figures[0]!.look.columns!.map(({ of }) => of)).toEqual(['net sales', 'share of net sales', 'goal']);
    expect(accepted!.find(({ about }) => about === 'measure')!.id).toBe('net sales');
    const held = after({ edit: 'rename', kind: 'benchmark', from: 'goal', to: 'plan' });
    expect(held.figures[0]!.look.columns![2]!.of).toBe('plan');
    const lit = after({ edit: 'rename', kind: 'highlight', from: 'loud', to: 'bold' });
    expect(lit.accepted![0]!.id).toBe('bold');
  });

  test('but not where it belongs to another already', () => {
    const rename = (kind: 'measure' | 'benchmark', from: string, to: string) => () =>
      after({ edit: 'rename', kind, from, to });
    expect(rename('measure', 'net', 'Pieces')).toThrow('another measure is called “Pieces”');
    expect(rename('benchmark', 'goal', 'last year')).toThrow('another benchmark is called “last year”');
    expect(rename('measure', 'gone', 'x')).toThrow('there is no measure “gone” any more');
    expect(after({ edit: 'rename', kind: 'measure', from: 'net', to: 'Net' }).measures[0]!.name).toBe('Net');
  });
});

test('what is written in one place is one step to take back', () => {
  const first = editedPlain(base, { edit: 'rename-report', name: 'P' });
  const second = editedPlain(first.report, { edit: 'rename-report', name: 'Pe' });
  const history = remembered(remembered(NO_HISTORY, first, 'x'), second, 'x');
  expect(history.past).toHaveLength(1);
  expect(undone({ report: second.report, ...history })!.report).toEqual(base);
});
