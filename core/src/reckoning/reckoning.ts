import { startOf, step as stepsOn, writtenDay } from '../calendar';
import { formOf } from '../brief';
import {
  asRanks,
  bracketed,
  formDefinition,
  numbersFor,
  rowName,
  type Drawn,
  type Sentence,
  type Sum,
} from '../figure';
import { exactWriting, writeNumber, writePercent } from '../format';
import { aggregatesOf } from '../measure';
import { power, tidy } from '../number';
import { counted, Problem } from '../problem';
import {
  measured as measuredBy,
  dataSpan,
  judgementAt,
  only,
  rowSource,
  standingCode,
  STANDINGS,
  valuesOf,
  type Behind,
  type Cells,
  type OpenSource,
  type Workspace,
} from '../query';
import type { Benchmark, Report } from '../report';
import { behindRow, behindWords } from './behind';
import { placesOf } from './places';
import { ruleSentences } from './rules';

export type { Sentence, Sum };

/** The arithmetic of a sentence with what it comes to; null where there is none, or nothing but the number itself. */
export function sumWords({ sum }: Sentence): string | null {
  return sum && sum.text !== String(sum.value) ? `${sum.text} = ${sum.value}` : null;
}

/** The working behind a row of a figure, from rows to pixels. */
export interface Reckoning {
  readonly title: string;
  readonly sentences: readonly Sentence[];
  /** The rows it was made from; null where they are those of several members. */
  readonly behind: Behind | null;
  /** How many rows these are. */
  readonly rows: number;
}

/** Instead of a row: the whole, which titles and totals tell. */
export const WHOLE = -1;

type Write = (value: number) => string;

/**
 * The working behind a row of a drawn figure: which rows, what the expression makes of them, what it is held against, the gap
 * and how it is judged, the rule that paints it, and where its marks stand on the ruler.
 * @param row a row of `drawn.rows`, or `WHOLE`
 */
export async function reckon(
  workspace: Pick<Workspace, 'source' | 'report'>,
  drawn: Drawn,
  row: number,
): Promise<Reckoning> {
  const { source, report } = workspace;
  const cells = numbersFor(drawn);
  if (row === WHOLE) return reckonWhole(source, report, cells);
  const { scene, request } = drawn;
  const [own, at] = rowSource(cells, row);
  const writing = exactWriting(own);
  const write: Write = (value) => writeNumber(value, writing);
  const sentences: Sentence[] = [];
  const made = await madeOf(source, report, own, at, write);
  const definition = formDefinition(formOf(cells.brief));
  // Where ranks are drawn as values, they are what is held against something and judged.
  const ranks = cells.view.kind === 'rank' && !cells.stacked && !definition.ranks ? asRanks(cells) : null;
  const held = heldSentences(report, own, at, write);
  sentences.push(...made.sentences);
  if (ranks) sentences.push(...held.filter(({ about }) => about === 'benchmark'), ...rankSentences(ranks, row));
  else sentences.push(...held);
  sentences.push(...(await columnSentences(source, own, at)));
  const { reckoning = {} } = definition;
  sentences.push(...(reckoning.sentences?.(cells, row, write) ?? []));
  if (reckoning.isLit?.(cells) ?? true)
    sentences.push(...ruleSentences(request.highlight, ranks ?? cells, row, ranks ? String : write));
  sentences.push(...placesOf(scene, cells, row, reckoning.ofRanks || ranks ? String : write));
  return { title: rowName(cells, row), sentences, behind: made.behind, rows: made.rows };
}

/** The working behind the whole of a figure: what its title tells. Throws a `Problem` where it has none. */
async function reckonWhole(source: OpenSource, report: Report, cells: Cells): Promise<Reckoning> {
  const { shown: total, view, brief, fields } = cells;
  if (cells.stacked || (view.kind !== 'plain' && view.kind !== 'cumulative' && view.kind !== 'rank'))
    throw new Problem('no-whole', 'this figure has no whole that is one number', undefined, 'ask for one of its rows');
  if (cells.isSelection && fields.length !== 1)
    throw new Problem('no-whole', 'members of several fields were chosen', undefined, 'ask for one of its rows');
  const one = (value: number) => Float64Array.of(value);
  // Of a selection the whole is that of the members that are shown.
  const members = cells.isSelection ? [...new Set(cells.members[0])].map((member) => member || null) : null;
  const whole: Cells = {
    ...cells,
    brief: members ? { ...brief, only: [...brief.only, { kind: 'is', field: fields[0]!, members }] } : brief,
    view: { ...view, kind: 'plain' },
    fields: [],
    members: [],
    grain: null,
    steps: null,
    count: 1,
    isRest: new Uint8Array(1),
    isUnknown: new Uint8Array(1),
    actual: one(total.actual),
    benchmarks: cells.benchmark ? one(total.benchmark) : null,
    due: Number.isNaN(total.due) ? null : one(total.due),
    gap: one(total.gap),
    gapPercent: one(total.gapPercent),
    standing: Uint8Array.of(standingCode(total.standing)),
    dueGap: one(total.dueGap),
    dueGapPercent: one(total.dueGapPercent),
    dueStanding: Uint8Array.of(standingCode(total.dueStanding)),
    rank: null,
  };
  const writing = exactWriting(whole);
  const write: Write = (value) => writeNumber(value, writing);
  const made = await madeOf(source, report, whole, 0, write);
  const sentences = [...made.sentences, ...heldSentences(report, whole, 0, write)];
  return { title: 'The whole', sentences, behind: made.behind, rows: made.rows };
}

/** The further columns of a table: what each measure's expression makes of its rows. */
async function columnSentences(source: OpenSource, cells: Cells, row: number): Promise<Sentence[]> {
  const sentences: Sentence[] = [];
  for (const { view, measure, of: values } of cells.values) {
    const value = values[row]!;
    // The first column is told before.
    const isFirst = measure === cells.measure && view.kind === cells.view.kind;
    if (isFirst || Number.isNaN(value)) continue;
    const of = measuredBy(source, cells.calendar, measure);
    const isSame = measure === cells.measure;
    const asked: Cells = { ...cells, view, measure, actual: values, decimals: isSame ? cells.decimals : null };
    const behind = behindRow(asked, row, await dataSpan(source, of));
    if (!behind) continue;
    const measured = async ({ span, where }: Behind) =>
      only(await valuesOf(source, of, { by: [], grain: null, span, where }));
    const plain = await measured(behind);
    const writing = exactWriting({ ...asked, view: { ...view, kind: 'plain' } as Cells['view'] });
    const write: Write = (number) => writeNumber(number, writing);
    const text = await filledIn(source, asked, behind, of.expression);
    if (!isSame)
      sentences.push({
        about: 'column',
        text: `${measure.name} is ${measure.expression}${convertedWords(of)}: ${write(plain)}.`,
        ...(text === null || Number.isNaN(plain) ? {} : { sum: { text, value: plain } }),
      });
    const made = await viewSentence(asked, row, plain, behind, measured, write);
    if (made) sentences.push({ ...made, about: 'column' });
  }
  return sentences;
}

/** The rows, what the expression makes of them, and what the view makes of that. */
async function madeOf(source: OpenSource, report: Report, cells: Cells, row: number, write: Write) {
  const { measure } = cells;
  const of = measuredBy(source, report.calendar, measure);
  const behind = behindRow(cells, row, await dataSpan(source, of));
  const file = report.tables.find(({ id }) => id === measure.table)?.source.file ?? measure.table;
  if (!behind) {
    const rows = cells.rows[row]!;
    const text = `All members that are not shown, together: ${counted(rows, 'row')} of ${file}.`;
    return { sentences: [{ about: 'rows', text } satisfies Sentence], behind, rows };
  }
  const measured = async (rows: Behind) =>
    valuesOf(source, of, { by: [], grain: null, span: rows.span, where: rows.where });
  const values = await measured(behind);
  const rows = values.at.get('')?.rows ?? 0;
  // Beside a benchmark no rows are 0; a mean is of other steps than its own.
  const isNothing =
    rows === 0 && cells.benchmark !== null && cells.view.kind !== 'smoothed' && !Number.isNaN(cells.actual[row]!);
  const value = isNothing ? 0 : only(values);
  const text = await filledIn(source, cells, behind, of.expression);
  // The measure itself is written in its own way, whatever the view makes of it.
  const say: Write = cells.view.kind === 'share' ? (number) => String(number) : write;
  const sentences: Sentence[] = [
    { about: 'rows', text: `${counted(rows, 'row')} of ${file}${behindWords(behind)}.` },
    {
      about: 'value',
      text: isNothing
        ? `There are no rows, so ${measure.name} counts as ${say(0)} against ${cells.benchmark!.name}.`
        : `${measure.name} is ${measure.expression}${convertedWords(of)}: ${Number.isFinite(value) ? say(value) : 'there is none'}.`,
      ...(isNothing ? { sum: { text: '0', value } } : {}),
      ...(text === null || !Number.isFinite(value) ? {} : { sum: { text, value } }),
    },
  ];
  const view = await viewSentence(cells, row, value, behind, async (other) => only(await measured(other)), say);
  return { sentences: view ? [...sentences, view] : sentences, behind, rows };
}

/** By which rates amounts were converted before they were added up. */
function convertedWords({ conversion }: ReturnType<typeof measuredBy>): string {
  if (!conversion) return '';
  const { to, at, rates } = conversion.said;
  const when =
    at === 'own' ? (conversion.day === null ? 'its rate' : 'the rate of its own period') : `the rate of ${at}`;
  return `, each row converted to ${to} by ${when} in “${rates}”`;
}

/** The expression with a number in the place of each aggregate; null where it is more than arithmetic. */
async function filledIn(
  source: OpenSource,
  { measure }: Cells,
  { table, span, where }: Behind,
  expression: Parameters<typeof aggregatesOf>[0],
): Promise<string | null> {
  const aggregates = aggregatesOf(expression);
  const { count, values } = await source.groups({ table, aggregates, by: [], grain: null, span, where });
  if (count === 0) return null;
  let text = measure.expression;
  // From the last to the first, so that the places of the others stay where they are.
  for (const [i, { at }] of [...aggregates.entries()].sort((a, b) => b[1].at[0] - a[1].at[0])) {
    // What only tells whether every row has a rate stands nowhere in the text.
    if (at[1] === 0) continue;
    const { of, decimals } = values[i]!;
    const value = decimals === null ? tidy(of[0]!) : of[0]! / power(decimals);
    text = `${text.slice(0, at[0])}${bracketed(value)}${text.slice(at[1])}`;
  }
  if (!/^[\d\s.+\-*/()eE]+$/.test(text)) return null;
  // A number that stands alone needs no brackets.
  return /^\(-[\d.]+\)$/.test(text) ? text.slice(1, -1) : text;
}

/** What a view makes of the measure's value. */
async function viewSentence(
  cells: Cells,
  row: number,
  value: number,
  behind: Behind,
  measured: (rows: Behind) => Promise<number>,
  write: Write,
): Promise<Sentence | null> {
  const { view, actual, calendar, grain, steps, rank } = cells;
  const shown = actual[row]!;
  switch (view.kind) {
    case 'plain':
      return null;
    case 'cumulative':
      return { about: 'view', text: `It is a running sum: everything from the first day of the period on is in it.` };
    case 'rank':
      return Number.isNaN(rank?.[row] ?? NaN)
        ? null
        : { about: 'view', text: `Among all members it has rank ${rank![row]}, by ${cells.measure.name}.` };
    case 'share': {
      // The whole is everything under the brief's own conditions, whichever member this is.
      const whole = await measured({ ...behind, where: cells.brief.only });
      if (Number.isNaN(shown) || Number.isNaN(whole)) return null;
      return {
        about: 'view',
        text: `The whole is ${write(whole)}, and its share of that ${writePercent(shown, 2, false)}.`,
        sum: { text: `${bracketed(value)} / ${bracketed(whole)}`, value: shown },
      };
    }
    case 'change': {
      if (!steps || !grain || !behind.span || Number.isNaN(shown)) return null;
      const from = startOf(grain, stepsOn(grain, steps[row]!, -1, calendar), calendar);
      // A step that still runs is compared with as many days of the one before.
      const cut = cells.isPart?.[row] ? cells.cutBefore : null;
      const before = await measured({ ...behind, span: cut ?? { from, to: steps[row]! - 1 } });
      const what = cut ? `From ${writtenDay(cut.from)} to ${writtenDay(cut.to)} it` : `The ${grain} before it`;
      return Number.isNaN(before)
        ? null
        : {
            about: 'view',
            text: `${what} was ${write(before)}; the change is ${write(shown)}.`,
            sum: { text: `${bracketed(value)} - ${bracketed(before)}`, value: shown },
          };
    }
    case 'smoothed':
      return {
        about: 'view',
        text: `It is smoothed: shown is the mean of ${view.steps} ${grain ?? 'step'}s, ${write(shown)}.`,
      };
  }
}

/** What it is held against, how that was made, the gap and how it is judged. */
function heldSentences(report: Report, cells: Cells, row: number, write: Write): Sentence[] {
  const { benchmark, benchmarks, measure, due, asOf, checks } = cells;
  if (!benchmark || !benchmarks) return [];
  const held = benchmarks[row]!;
  const told = (...codes: string[]) => checks.filter(({ code }) => codes.includes(code)).map(({ text }) => text);
  if (Number.isNaN(held)) {
    const why = told('filter-not-followed', 'per-which-member').map((text) => `: ${text}`);
    return [{ about: 'benchmark', text: `There is no ${benchmark.name} for it${why[0] ?? ''}.` }];
  }
  const notes = told('spread', 'split', 'history-too-short', 'forecast-rests-on');
  const sentences: Sentence[] = [
    {
      about: 'benchmark',
      text:
        [`It is held against ${benchmark.name}, ${write(held)}: ${howMade(report, benchmark, cells)}`, ...notes].join(
          '; ',
        ) + '.',
    },
  ];
  const { gap, gapPercent, standing, against } = judgementAt(cells, row);
  const byNow = against === 'due' ? due![row]! : held;
  if (against === 'due')
    sentences.push({
      about: 'due',
      text: `${[`The period goes on after ${writtenDay(asOf)}; ${write(byNow)} of it is due by then`, ...told('due-spread')].join(': ')}.`,
    });
  if (Number.isNaN(gap)) {
    for (const text of Number.isNaN(cells.actual[row]!) ? [] : told('partly-covered', 'due-not-known'))
      sentences.push({ about: 'gap', text: `There is no gap: ${text}.` });
    return sentences;
  }
  const actual = cells.actual[row]!;
  sentences.push({
    about: 'gap',
    text: `The gap is ${writeNumber(gap, exactWriting(cells), true)}.`,
    sum: { text: `${bracketed(actual)} - ${bracketed(byNow)}`, value: gap },
  });
  if (!Number.isNaN(gapPercent))
    sentences.push({
      about: 'gap',
      text: `That is ${writePercent(gapPercent, 2)} of ${against === 'due' ? 'what is due by then' : benchmark.name}.`,
      sum: { text: `${bracketed(gap)} / ${Math.abs(byNow)}`, value: gapPercent },
    });
  if (standing) {
    const wish = { raise: 'more is better', cut: 'less is better', hold: 'near is better' }[measure.aim];
    const within =
      measure.tolerance > 0 ? `, and up to ${writePercent(measure.tolerance, 1, false)} either way is level` : '';
    sentences.push({ about: 'standing', text: `Of ${measure.name} ${wish}${within}: it is ${standing}.` });
  }
  return sentences;
}

/** The rank of a row against the one that what it is held against has among the members. */
function rankSentences({ actual, benchmarks, gap, standing, benchmark }: Cells, row: number): Sentence[] {
  const [own, other, places] = [actual[row]!, benchmarks?.[row] ?? NaN, gap?.[row] ?? NaN];
  if (!benchmark || Number.isNaN(places)) return [];
  const stands = STANDINGS[standing![row]! - 1];
  return [
    {
      about: 'gap',
      text: `By its ${benchmark.name} it would have rank ${other}; the gap is ${counted(Math.abs(places), 'place')}.`,
      sum: { text: `${own} - ${other}`, value: places },
    },
    ...(stands ? [{ about: 'standing' as const, text: `The first rank is the best: it is ${stands}.` }] : []),
  ];
}

/** How a benchmark comes about, in words. */
function howMade(report: Report, benchmark: Benchmark, { benchmarkPeriod, measure }: Cells): string {
  const file = (id: string | undefined) => report.tables.find((table) => table.id === id)?.source.file ?? id ?? '';
  switch (benchmark.kind) {
    case 'expression':
      return `${benchmark.expression} over the same rows`;
    case 'table':
      return `${benchmark.expression} of ${file(benchmark.table)} for the same members and days`;
    case 'fixed':
      return `the number ${benchmark.value}${benchmark.per.length > 0 ? ` for each ${benchmark.per.join(' and ')}` : ''}`;
    case 'scaled':
      return `${benchmark.of === 'measure' ? measure.name : benchmark.of} and ${writePercent(benchmark.by, 1)} of it`;
    case 'period':
      return benchmarkPeriod
        ? `${measure.name} from ${writtenDay(benchmarkPeriod.from)} to ${writtenDay(benchmarkPeriod.to)}`
        : `${measure.name} of the steps before`;
    case 'peers':
      return `the ${benchmark.statistic}${benchmark.statistic === 'percentile' ? ` ${benchmark.percentile ?? ''}` : ''} of all members with a value`;
    case 'forecast':
      return `a forecast by “${benchmark.method}”`;
  }
}
