import { writeView } from '../brief';
import { judgementAt, judgementOfShown, namesOfRow, type Cells } from '../query';
import { BLANK } from './number';

/** Whose numbers a selection without its rest shows: `the 9 furthest behind of 202`; null where nobody is left away. */
export const selectionWords = (cells: Cells): string | null => (cells.isSelection ? keptWords(cells) : null);

/** Which members are shown one by one, where there are others; null where all are. */
export function keptWords(cells: Cells): string | null {
  const shown = membersIn(cells);
  if (shown >= cells.everyone) return null;
  const order = cells.brief.keep?.order ?? 'largest either sign';
  const named = order === 'largest either sign' ? 'largest' : order;
  if (shown === 1) return `the ${named === 'widest gaps' ? 'widest gap' : named} of ${cells.everyone}`;
  return `the ${shown} ${named} of ${cells.everyone}`;
}

/** Who leads, and who won most places. */
function leadersTitle(cells: Cells): string {
  const { row, places } = mostRisen(cells);
  const head = `{leader} ${isFirstAlone(cells, rankedFirst(cells)) ? 'first' : 'shares first place'} in {measure}`;
  if (places < 2) return head;
  return memberName(cells, row) === memberName(cells, rankedFirst(cells))
    ? `${head}, up {places won} places`
    : `${head}; {riser} up {places won} places`;
}

/** Nobody shares the best rank of its step. */
function isFirstAlone({ count, rank, steps }: Cells, best: number): boolean {
  for (let row = 0; row < count; row++)
    if (row !== best && rank![row] === rank![best] && steps?.[row] === steps?.[best]) return false;
  return true;
}

/** The row of the best rank that is shown: over time that of the last step anyone has a rank in. */
export function rankedFirst({ count, rank, steps }: Cells): number {
  let best = -1;
  for (let row = 0; row < count; row++) {
    if (Number.isNaN(rank?.[row] ?? NaN)) continue;
    if (
      best < 0 ||
      (steps?.[row] ?? 0) > (steps?.[best] ?? 0) ||
      (steps?.[row] === steps?.[best] && rank![row]! < rank![best]!)
    )
      best = row;
  }
  return best;
}

/** The member that won most places between its first and its last rank. */
export function mostRisen({ count, rank, steps }: Cells): { row: number; places: number } {
  let found = { row: -1, places: 0 };
  for (let from = 0; steps && rank && from < count;) {
    let to = from + 1;
    while (to < count && steps[to]! > steps[to - 1]!) to++;
    const ranks = Array.from(rank.slice(from, to)).filter((one) => !Number.isNaN(one));
    const places = ranks.length > 1 ? ranks[0]! - ranks[ranks.length - 1]! : 0;
    if (places > found.places) found = { row: from, places };
    from = to;
  }
  return found;
}

/** How many are ahead, level or behind: over time each member as of its last step that has a standing. */
export function countStanding(cells: Cells, standing: 'ahead' | 'level' | 'behind'): number {
  const isOnce = cells.grain !== null && cells.fields.length > 0;
  const found = new Map<number | string, typeof standing>();
  for (let row = 0; row < cells.count; row++) {
    const judged = judgementAt(cells, row).standing;
    if (cells.isRest[row] === 0 && judged !== null)
      found.set(isOnce ? namesOfRow(cells, row).join('\u0000') : row, judged);
  }
  return [...found.values()].filter((one) => one === standing).length;
}

export function memberName(cells: Cells, row: number): string {
  return cells.count === 0 || row < 0 ? BLANK : namesOfRow(cells, row).join(' · ');
}

/** Something of a figure is ahead, level or behind: a row, or the whole. */
function hasStandings(cells: Cells): boolean {
  if (judgementOfShown(cells).standing !== null) return true;
  for (let row = 0; row < cells.count; row++) if (judgementAt(cells, row).standing !== null) return true;
  return false;
}

/** The benchmark as a title names it: while the period runs, what is due of it by now. */
export function benchmarkWords(cells: Cells): string {
  return judgementOfShown(cells).against === 'due' ? `the ${cells.benchmark!.name} due by now` : cells.benchmark!.name;
}

/** The sentence a figure bears when its look gives none: what stands where, and how many are behind. */
export function fittingTitle(cells: Cells): string {
  const { measure, benchmark, fields, count } = cells;
  const of = fields.length > 0 ? fields.join(' and ') : '';
  // Rows that a selection cannot rank are there all the same.
  if (count === 0)
    return cells.everyone > 0
      ? `{measure} by ${of}: none of ${cells.everyone} can be ranked, and none is shown`
      : '{measure}: no rows in {period}';
  if (cells.stacked)
    return benchmark
      ? `{ahead} of {members} ahead of {benchmark}${countStanding(cells, 'behind') > 0 ? ', {behind} behind' : ''}`
      : '{members} measures in {period}';
  const { kind } = cells.view;
  const name = kind === 'plain' || kind === 'cumulative' ? '{measure}' : writeView(cells.view);
  // A number of some is never left to be read as that of all.
  const whose = selectionWords(cells);
  const ofWhom = whose === null ? '' : `, ${whose}:`;
  // Where a selection has left the first away, nobody who is shown leads.
  if (kind === 'rank')
    return cells.rank?.[rankedFirst(cells)] === 1 ? leadersTitle(cells) : `${name} by ${of || 'step'}`;
  // Changes and means speak of one step, and shares of everything are everything.
  const isOver = kind === 'change' || kind === 'smoothed';
  const actual = isOver ? '{actual} in {step}' : '{actual}';
  const isCompared = benchmark !== null && hasStandings(cells);
  if (!isCompared) {
    // Where no step has both that it takes, there is none to speak of.
    if (!of && isOver && cells.grain && Number.isNaN(cells.shown.actual)) return `${name} each ${cells.grain}`;
    if (!of) return `${name}: ${actual}`;
    if (Number.isNaN(cells.shown.actual) || (kind === 'share' && !cells.isSelection))
      return `${name} by ${of}${whose === null ? '' : `, ${whose}`}`;
    return `${name} by ${of}${ofWhom || ':'} ${actual} ${cells.additive ? 'together' : 'over all that is shown'}`;
  }
  const words = {
    raise: '{ahead of|level with|behind}',
    cut: '{better than|level with|worse than}',
    hold: '{near|near|away from}',
  }[measure.aim];
  const { gap, gapPercent, standing } = judgementOfShown(cells);
  // Percentage points say all; a percentage of a percentage beside them would be read as one.
  const isOfPoints = kind === 'share' || measure.format.style === 'percent' || measure.format.style === 'points';
  const head = Number.isNaN(gap)
    ? `${name} by ${of || 'step'} against {benchmark}${whose === null ? '' : `, ${whose}`}`
    : standing === 'level'
      ? `${name}${ofWhom} ${actual}, ${words} {benchmark}`
      : `${name}${ofWhom} ${actual}, {gap}${Number.isNaN(gapPercent) || isOfPoints ? '' : ' ({gap %})'} ${words} {benchmark}`;
  // Over time the rows are steps, not members.
  if (!of || count < 2 || cells.grain) return head;
  const behind = countStanding(cells, 'behind');
  const which = measure.aim === 'hold' ? 'away from it' : 'behind';
  const { held, without, blank } = judgedMembers(cells);
  const parts = [
    ...(held === 0 && without + blank > 0
      ? []
      : [`${behind === 0 ? 'none' : '{behind}'} of ${without + blank === 0 ? '{members}' : held} ${which}`]),
    ...(without === 0 ? [] : [`${without} without it`]),
    ...(blank === 0 ? [] : [`${blank} without actuals`]),
  ];
  return `${head}; ${parts.join(', ')}`;
}

/** The title that writes itself, and shorter ones in its own words: without what is said of the members, without the gap, and the bare measure. */
export function shorterTitles(cells: Cells): string[] {
  const whole = fittingTitle(cells);
  const [head = whole] = whole.split('; ');
  const bare = head.replace(/, (?:\{gap\}.*|\{(?:ahead of|better than|near)\|.*)$/, '');
  return [...new Set([whole, head, bare])];
}

/** Members that are shown, without the rest of them: over time each once; without a field, the rows. */
export function membersIn(cells: Cells): number {
  const { count, isRest, fields, grain } = cells;
  const rows = Array.from({ length: count }, (_, row) => row).filter((row) => isRest[row] === 0);
  if (grain === null || fields.length === 0) return rows.length;
  return new Set(rows.map((row) => namesOfRow(cells, row).join('\u0000'))).size;
}

/** How many members are held against something, have nothing to be held against, and have nothing that could be. */
function judgedMembers(cells: Cells): { held: number; without: number; blank: number } {
  let [held, without, blank] = [0, 0, 0];
  for (let row = 0; row < cells.count; row++) {
    if (cells.isRest[row]) continue;
    // Whoever cannot be judged is not among those that are behind or not.
    if (!Number.isNaN(judgementAt(cells, row).gap)) held += 1;
    else if (Number.isNaN(cells.benchmarks![row]!)) without += 1;
    else blank += 1;
  }
  return { held, without, blank };
}
