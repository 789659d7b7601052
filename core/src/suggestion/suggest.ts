import { keptWords, rowOfMember } from '../format';
import { judgementAt, judgementOfShown, landingsOf, standingOf, type Cells, type Standing } from '../query';
import type { Claim } from '../report';

/** Something the numbers of a figure say, as a text with live values, and what it claims. */
export interface Suggestion {
  readonly claim: Claim;
  /** In the language of titles. */
  readonly text: string;
}

/** A whole this close to its benchmark hides what its members do. */
const HIDES = 0.03;
/** A member this far from its benchmark is worth a word, as a share of the benchmark. */
const FAR = 0.1;
/** A member makes up for another where it brings at least this part of what that lacks. */
const MAKES_UP = 0.5;
/** Times the median distance from the median: what is beyond stands out. */
const OUTSTANDING = 6;

/** What can be said of members that are compared: one field, no steps, no rest. */
function isCompared({ fields, grain, stacked, view }: Cells): boolean {
  return fields.length === 1 && !grain && !stacked && (view.kind === 'plain' || view.kind === 'share');
}

/** Members can be named in a text where their names cannot be taken for its own marks. */
const isNameable = (member: string) => member !== '' && !/[{}|]/.test(member);

/** Rows of compared members that can be named, and are no rest. */
function rowsOf(cells: Cells): number[] {
  if (!isCompared(cells)) return [];
  return Array.from({ length: cells.count }, (_, row) => row).filter(
    (row) => cells.isRest[row] === 0 && isNameable(cells.members[0]![row]!) && !Number.isNaN(cells.actual[row]!),
  );
}

const most = (rows: readonly number[], of: (row: number) => number): number | undefined =>
  rows.reduce<number | undefined>((best, row) => (best === undefined || of(row) > of(best) ? row : best), undefined);

/** The row furthest on one side of its benchmark; none where several are as far. */
function furthest(cells: Cells, standing: Standing): number | undefined {
  const rows = rowsOf(cells).filter((row) => judgementAt(cells, row).standing === standing);
  const gapOf = (row: number) => Math.abs(judgementAt(cells, row).gap);
  const found = most(rows, gapOf);
  return rows.filter((row) => gapOf(row) === gapOf(found!)).length > 1 ? undefined : found;
}

/** A sentence about who is the most of all: where only some members are shown, it is of these. */
function ofThoseShown(cells: Cells, sentence: string): string {
  const some = keptWords(cells);
  return some === null ? sentence : `Of ${some}, ${sentence}`;
}

const SIDES = {
  raise: { behind: 'behind', ahead: 'ahead of' },
  cut: { behind: 'worse than', ahead: 'better than' },
  hold: { behind: 'away from', ahead: 'near' },
} as const;

function largestGap(cells: Cells): Suggestion | null {
  if (!isCompared(cells) || !cells.benchmark || cells.count < 3) return null;
  const standing = furthest(cells, 'behind') !== undefined ? 'behind' : 'ahead';
  const row = furthest(cells, standing);
  if (row === undefined || cells.measure.aim === 'hold') return null;
  const member = cells.members[0]![row]!;
  const words = SIDES[cells.measure.aim][standing];
  const percent = Number.isNaN(judgementAt(cells, row).gapPercent) ? '' : `, or {gap % of ${member}}`;
  return {
    claim: { kind: 'largest gap', member, standing },
    text: ofThoseShown(cells, `${member} is furthest ${words} {benchmark}: {gap of ${member}}${percent}`),
  };
}

function hiddenOffset(cells: Cells): Suggestion | null {
  const found = hidden(cells, furthest(cells, 'behind'), furthest(cells, 'ahead'));
  if (!found) return null;
  const { member, by } = found;
  const [much, percent, other] = [`{gap of ${member}}`, `({gap % of ${member}})`, `{gap of ${by}}`];
  // Where less is better nobody lacks what is too much.
  const [whole, one, against] =
    cells.measure.aim === 'cut'
      ? ['{better than|level with|worse than}', `is ${much} ${percent} above it`, `is ${other} below`]
      : ['{ahead of|level with|behind}', `lacks ${much} ${percent}`, `is ${other} ahead`];
  return {
    claim: { kind: 'hidden offset', ...found },
    text: `As a whole {measure} is ${whole} {benchmark}, but ${member} ${one}; against that, ${by} ${against}`,
  };
}

/** A member far behind that the whole does not show, as another makes up for it. */
function hidden(cells: Cells, behind?: number, ahead?: number): { member: string; by: string } | null {
  if (!isCompared(cells) || !cells.benchmark || cells.measure.aim === 'hold') return null;
  if (behind === undefined || ahead === undefined || behind < 0 || ahead < 0) return null;
  const [lacks, brings] = [judgementAt(cells, behind), judgementAt(cells, ahead)];
  const isHidden =
    Math.abs(judgementOfShown(cells).gapPercent) <= HIDES &&
    lacks.standing === 'behind' &&
    brings.standing === 'ahead' &&
    Math.abs(lacks.gapPercent) >= FAR &&
    Math.abs(brings.gap) >= MAKES_UP * Math.abs(lacks.gap);
  return isHidden ? { member: cells.members[0]![behind]!, by: cells.members[0]![ahead]! } : null;
}

/** First and last rank of each member over the steps, in the order of the rows. */
function ranksOver({ count, members, rank, steps, fields }: Cells): { member: string; first: number; last: number }[] {
  if (!rank || !steps || fields.length !== 1) return [];
  const begin = Math.min(...steps);
  const end = Array.from(steps).reduce(
    (last, step, i) => (Number.isNaN(rank[i]!) ? last : Math.max(last, step)),
    -Infinity,
  );
  const over = new Map<string, { member: string; first: number; last: number }>();
  for (let row = 0; row < count; row++) {
    const member = members[0]![row]!;
    const one = over.get(member) ?? { member, first: NaN, last: NaN };
    over.set(member, one);
    if (steps[row] === begin) one.first = rank[row]!;
    if (steps[row] === end) one.last = rank[row]!;
  }
  return [...over.values()];
}

function tookTheLead(cells: Cells): Suggestion | null {
  if (cells.view.kind !== 'rank') return null;
  const ranks = ranksOver(cells);
  const over = ranks.find(({ first }) => first === 1);
  const leader = ranks.find(({ last }) => last === 1);
  if (!over || !leader || leader === over || !isNameable(leader.member) || !isNameable(over.member)) return null;
  const { member } = leader;
  return {
    claim: { kind: 'took the lead', member, from: over.member },
    text: `${member} has taken first place in {measure} from ${over.member}${
      Number.isNaN(leader.first) ? '' : `, {places up of ${member}}`
    }`,
  };
}

/** On which side of its benchmark a running sum will land; null where it has no landing. */
function landingSide(cells: Cells): Standing | null {
  const [landing, ...others] = landingsOf(cells);
  if (!landing || others.length > 0 || landing.daysLeft <= 0 || Number.isNaN(landing.landing)) return null;
  const { aim, tolerance } = cells.measure;
  return standingOf(landing.landing - landing.benchmarkEnd, landing.benchmarkEnd, aim, tolerance);
}

const LANDS = {
  raise: { behind: 'short of', ahead: 'beyond', level: 'level with' },
  cut: { behind: 'above', ahead: 'below', level: 'level with' },
  hold: { behind: 'away from', ahead: 'near', level: 'near' },
} as const;

function lands(cells: Cells): Suggestion | null {
  const standing = landingSide(cells);
  if (!standing) return null;
  const by = standing === 'level' ? '' : '{landing gap} ';
  return {
    claim: { kind: 'lands', standing },
    text: `At the pace so far {measure} lands at {landing}, ${by}${LANDS[cells.measure.aim][standing]} ${cells.benchmark!.name}`,
  };
}

/** How many times the usual distance from the median a row is away from it. */
function distances(cells: Cells): Map<number, number> {
  const rows = rowsOf(cells);
  const middle = median(rows.map((row) => cells.actual[row]!));
  const usual = median(rows.map((row) => Math.abs(cells.actual[row]! - middle)));
  return new Map(rows.map((row) => [row, usual > 0 ? Math.abs(cells.actual[row]! - middle) / usual : 0]));
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  return sorted.length === 0 ? NaN : sorted.length % 2 === 1 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
}

function extreme(cells: Cells): Suggestion | null {
  if (!isCompared(cells) || cells.count < 6) return null;
  const away = distances(cells);
  const row = most([...away.keys()], (one) => away.get(one)!);
  if (row === undefined || away.get(row)! < OUTSTANDING) return null;
  const member = cells.members[0]![row]!;
  return {
    claim: { kind: 'extreme member', member },
    text: ofThoseShown(
      cells,
      `${member} stands out from the other ${cells.fields[0]!.replace(/[{}|]/g, '')} members with {actual of ${member}}`,
    ),
  };
}

/** What the numbers of a figure say, the weightiest first; at most one of a kind. */
export function suggestionsOf(cells: Cells): Suggestion[] {
  return [hiddenOffset, lands, tookTheLead, largestGap, extreme].flatMap((look) => look(cells) ?? []);
}

/** Whether a claim still holds over a figure's numbers as they are now. */
export function holds(claim: Claim, cells: Cells): boolean {
  const name = (row: number | undefined) => (row === undefined || row < 0 ? null : cells.members[0]![row]!);
  switch (claim.kind) {
    case 'largest gap':
      return isCompared(cells) && name(furthest(cells, claim.standing)) === claim.member;
    case 'hidden offset':
      return hidden(cells, rowOfMember(cells, claim.member), rowOfMember(cells, claim.by)) !== null;
    case 'took the lead': {
      const ranks = ranksOver(cells);
      const rankOf = (member: string) => ranks.find((one) => one.member === member);
      return rankOf(claim.member)?.last === 1 && rankOf(claim.from)?.first === 1;
    }
    case 'lands':
      return landingSide(cells) === claim.standing;
    case 'extreme member':
      return isCompared(cells) && (distances(cells).get(rowOfMember(cells, claim.member)) ?? 0) >= OUTSTANDING;
  }
}

/** A claim in words, for those who must decide about it. */
export function claimWords(claim: Claim): string {
  switch (claim.kind) {
    case 'largest gap':
      return `${claim.member} is the one furthest ${claim.standing === 'behind' ? 'behind' : 'ahead'}`;
    case 'hidden offset':
      return `${claim.by} makes up for ${claim.member}`;
    case 'took the lead':
      return `${claim.member} took first place from ${claim.from}`;
    case 'lands':
      return claim.standing === 'level' ? 'it lands level' : `it lands ${claim.standing}`;
    case 'extreme member':
      return `${claim.member} stands out`;
  }
}
