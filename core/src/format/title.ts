import { sayPeriod, stepName, writtenDay } from '../calendar';
import { decimalsOf } from '../number';
import { counted, didYouMean, Problem } from '../problem';
import { judgementAt, judgementOfShown, landingsOf, type Cells } from '../query';
import { shownShares } from './shares';
import { BLANK, percentIn, writeNumber, writePercent, writingFor, type Writing } from './number';
import { rankedFirst, mostRisen, countStanding, memberName, benchmarkWords, membersIn } from './fittingTitle';

/** The writing of a figure's numbers: one for all of them. */
export function writingOf(cells: Cells): Writing {
  let magnitude = 0;
  for (const list of [cells.actual, cells.benchmarks]) {
    for (const value of list ?? []) if (Math.abs(value) > magnitude) magnitude = Math.abs(value);
  }
  if (cells.view.kind === 'share') return writingFor(percentIn(cells.measure.format), 1);
  return writingFor(cells.measure.format, magnitude, cells.decimals);
}

/** The writing that fits one row's numbers. */
export function writingOfRow(cells: Cells, row: number): Writing {
  if (cells.view.kind === 'share') return writingFor(percentIn(cells.measure.format), 1);
  const filled = [cells.actual[row]!, cells.benchmarks?.[row] ?? NaN].filter((value) => !Number.isNaN(value));
  return writingFor(cells.measure.format, Math.max(0, ...filled.map(Math.abs)), cells.decimals);
}

/** The writing of a gap between numbers that are written in some way: a difference of percentages is one of percentage points. */
export function gapWritingOf(
  { measure: { format }, view }: Pick<Cells, 'measure' | 'view'>,
  writing: Writing,
): Writing {
  if (view.kind === 'share') return writingFor({ ...percentIn(format), style: 'points' }, 1);
  return format.style === 'percent' ? writingFor({ ...format, style: 'points' }, 1) : writing;
}

/** The names a title may use in braces. */
export const TITLE_NAMES = [
  'measure',
  'actual',
  'benchmark',
  'benchmark value',
  'gap',
  'gap %',
  'period',
  'as of',
  'step',
  'members',
  'ahead',
  'level',
  'behind',
  'first',
  'last',
  'leader',
  'riser',
  'places won',
  'landing',
  'landing gap',
] as const;

type TitleName = (typeof TITLE_NAMES)[number];
/** What a title may say of one member, as in `{gap of Keys}`. */
export const MEMBER_VALUES = [
  'actual',
  'benchmark value',
  'gap',
  'gap %',
  'rank',
  'share',
  'places won',
  'places up',
] as const;

/**
 * A title from its template: names in braces become values, and `{ahead of|level with|behind}` chooses by the standing of
 * the whole (two alternatives: ahead or level, and behind). `{gap of Keys}` is a value of one member. Gaps stand without sign.
 * What is blank, or of a member that is not there, shows as a dash.
 * Throws a `Problem` for a name that does not exist.
 */
export function liveTitle(template: string, cells: Cells): string {
  const text = template.replace(/\{([^{}]*)\}/g, (whole, inner: string, offset: number) => {
    if (inner.includes('|')) return choose(inner.split('|'), cells);
    const name = inner.trim() as TitleName;
    const of = /^(.+?) of (.+)$/.exec(name);
    if (of && (MEMBER_VALUES as readonly string[]).includes(of[1]!))
      return memberValue(of[1] as (typeof MEMBER_VALUES)[number], rowOfMember(cells, of[2]!), cells);
    if (!TITLE_NAMES.includes(name)) {
      throw new Problem(
        'unknown-title-name',
        `a title has no value “${inner}”`,
        { in: `title “${template}”`, span: [offset, offset + whole.length] },
        didYouMean(inner, TITLE_NAMES, 'value'),
      );
    }
    return titleValue(name, cells);
  });
  return text.charAt(0).toUpperCase() + text.slice(1);
}

function choose(words: readonly string[], cells: Cells): string {
  const [ahead = '', second = '', third] = words;
  const [level, behind] = third === undefined ? [ahead, second] : [second, third];
  switch (judgementOfShown(cells).standing) {
    case 'ahead':
      return ahead;
    case 'level':
      return level;
    case 'behind':
      return behind;
    case null:
      return BLANK;
  }
}

function titleValue(name: TitleName, cells: Cells): string {
  const { shown: total, measure, period } = cells;
  const magnitude = Math.max(Math.abs(total.actual) || 0, Math.abs(total.benchmark) || 0);
  const writing =
    cells.view.kind === 'share'
      ? writingFor(percentIn(measure.format), 1)
      : writingFor(measure.format, magnitude, cells.decimals);
  const write = (value: number) => writeNumber(value, writing);
  const writeGap = (value: number) => writeNumber(Math.abs(value), gapWritingOf(cells, writing));
  switch (name) {
    case 'measure':
      return measure.name;
    case 'actual':
      return write(total.actual);
    case 'benchmark':
      return cells.benchmark ? benchmarkWords(cells) : BLANK;
    case 'benchmark value':
      return write(total.benchmark);
    case 'gap':
      return writeGap(judgementOfShown(cells).gap);
    case 'gap %':
      return writePercent(Math.abs(judgementOfShown(cells).gapPercent), 1, false, measure.format);
    case 'period':
      if (!cells.dated) return 'all rows';
      return sayPeriod(cells.brief.period, period, cells.calendar);
    case 'as of':
      // A period that is over is known up to its end.
      return cells.dated ? writtenDay(Math.min(cells.asOf, period.to)) : BLANK;
    case 'step':
      return total.step === null || !cells.brief.grain
        ? BLANK
        : stepName(cells.brief.grain, total.step, cells.calendar);
    case 'members':
      return String(membersIn(cells));
    case 'ahead':
    case 'level':
    case 'behind':
      return String(countStanding(cells, name));
    case 'first':
      return memberName(cells, 0);
    case 'last':
      return memberName(cells, cells.count - 1);
    case 'leader':
      return memberName(cells, rankedFirst(cells));
    case 'riser':
      return memberName(cells, mostRisen(cells).row);
    case 'places won':
      return String(mostRisen(cells).places);
    case 'landing':
      return write(landingsOf(cells)[0]?.landing ?? NaN);
    case 'landing gap': {
      const landing = landingsOf(cells)[0];
      return writeGap(landing ? landing.landing - landing.benchmarkEnd : NaN);
    }
  }
}

/** The row of a member; over time that of its last step with a value. −1 where there is none. */
export function rowOfMember({ count, members, actual, fields }: Cells, member: string): number {
  if (fields.length !== 1) return -1;
  let found = -1;
  for (let row = 0; row < count; row++)
    if (members[0]![row] === member && (found < 0 || !Number.isNaN(actual[row]!))) found = row;
  return found;
}

function memberValue(name: (typeof MEMBER_VALUES)[number], row: number, cells: Cells): string {
  if (row < 0) return BLANK;
  const write = (value: number) => writeNumber(value, writingOf(cells));
  const judged = judgementAt(cells, row);
  const isShare = cells.view.kind === 'share';
  switch (name) {
    case 'actual':
      return write(isShare ? shownShares(cells, cells.actual)[row]! : cells.actual[row]!);
    case 'benchmark value':
      return write(
        isShare && cells.benchmarks ? shownShares(cells, cells.benchmarks)[row]! : (cells.benchmarks?.[row] ?? NaN),
      );
    case 'gap':
      return writeNumber(Math.abs(judged.gap), gapWritingOf(cells, writingOf(cells)));
    case 'gap %':
      return writePercent(Math.abs(judged.gapPercent), 1, false, cells.measure.format);
    case 'rank':
      return Number.isNaN(cells.rank?.[row] ?? NaN) ? BLANK : String(cells.rank![row]);
    case 'share':
      return writePercent(cells.share ? shownShares(cells, cells.share)[row]! : NaN, 1, false, cells.measure.format);
    case 'places won':
      return String(placesWon(cells, row));
    case 'places up':
      return `${counted(placesWon(cells, row), 'place')} up`;
  }
}

/** Places a member has won between its first step with a rank and that of a row. */
function placesWon({ members, rank, steps }: Cells, row: number): number {
  if (!rank || !steps) return 0;
  let first = row;
  while (first > 0 && members.every((list) => list[first - 1] === list[row])) first -= 1;
  while (first < row && Number.isNaN(rank[first]!)) first += 1;
  return rank[first]! - rank[row]! || 0;
}

/** The most decimals that any of a figure's numbers has, up to 4. */
function decimalsIn({ actual, benchmarks }: Cells): number {
  let most = 0;
  for (const list of [actual, benchmarks ?? []])
    for (let row = 0; row < list.length && most < 4; row++) {
      const value = list[row]!;
      if (!Number.isNaN(value)) most = Math.max(most, decimalsOf(value) ?? 4);
    }
  return most;
}

/** A writing that shows every digit a figure's numbers have: never scaled, at most four decimals. */
export function exactWriting(cells: Cells): Writing {
  if (cells.view.kind === 'share') return writingFor({ ...percentIn(cells.measure.format), decimals: 3 }, 1);
  const { format } = cells.measure;
  const decimals = format.style === 'percent' || format.style === 'points' ? 3 : (cells.decimals ?? decimalsIn(cells));
  return writingFor({ ...format, scale: 'none', decimals }, 0);
}
