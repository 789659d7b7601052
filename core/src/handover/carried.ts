import { briefOrNull, readBrief, type Picked, type Vocabulary } from '../brief';
import { askPage, NOTHING_CHOSEN, readerOffers, type ReaderOffers } from '../page';
import { isProblem, Problem } from '../problem';
import type { OpenSource, Workspace } from '../query';
import { figureOf, figuresOn, type Page, type Report } from '../report';
import type { Streams } from './streams';
import { NO_DAYS, packTables, type CarriedPart } from './packed';
import { namedBy, type CarriedNames } from './named';
import { asksWithin, recording, type Observed } from './recording';

/** What a page needs to be drawn anew where there is nothing but its file; periods are those all figures can follow from its rows. */
export interface Carried extends ReaderOffers {
  /** The part of the report that the page shows. */
  readonly report: Report;
  /** The tables: the columns that are shown or chosen by, the rows of the days that are shown or compared with. */
  readonly tables: Streams;
  readonly rows: number;
  readonly columns: readonly string[];
  /** What its figures and its reader call by name. */
  readonly names: CarriedNames;
  /** Why briefs of its figures cannot be read, by figure: what would be known of names depends on all there are. */
  readonly unread: Readonly<Record<string, UnreadBrief>>;
}

/** Why a brief cannot be read. */
export type UnreadBrief = Pick<Problem, 'code' | 'sentence'> & { readonly remedy: string | undefined };

/** A file carries at most this many rows; a page of more stays as it was handed over. */
const MOST_CARRIED = 250_000;

/**
 * The data behind a page, limited to what it shows; null where that is too much for a file. What the figures ask for is
 * observed while they ask, for the page as it is and for every period that is offered.
 */
export async function carriedBy(workspace: Workspace, page: Page): Promise<Carried | null> {
  const { report, vocabulary, source } = workspace;
  const watched = recording(source);
  const below = levelsOn(page, workspace);
  /** The page as it is, and gone into. */
  const ways = [null, ...below.flatMap((one) => waysInto(one, vocabulary))];
  for (const picked of ways)
    await askPage({ ...workspace, source: watched.source }, page, { ...NOTHING_CHOSEN, picked });
  const named = namedBy(workspace, figuresOn(page));
  const parts = new Map<string, CarriedPart>();
  const fields = [...page.filters.map(({ field }) => field), ...below.flatMap(({ levels }) => levels.slice(1))];
  // A table that is named and not asked for goes without its rows: what cannot be shown says so by what is known of it.
  for (const id of new Set([...watched.asked.keys(), ...named.columns.keys()])) {
    const facts = source.facts(id);
    if (!facts) continue;
    const asked = watched.asked.get(id);
    const columns = [facts.date ?? [], ...(asked?.columns ?? []), ...(named.columns.get(id) ?? []), ...fields].flat();
    parts.set(id, {
      columns: [...new Set(columns)].filter((name) => facts.columns.has(name)),
      span: asked ? asked.span : NO_DAYS,
      spans: Object.fromEntries(asked?.spans ?? []),
    });
  }
  // Rates are asked for by no query: they are known, and go along whole.
  for (const measure of [...report.measures, ...report.benchmarks]) {
    const id = 'currency' in measure ? measure.currency?.rates : undefined;
    const rates = report.tables.find((entry) => entry.id === id)?.rates;
    const facts = id === undefined ? undefined : source.facts(id);
    if (!rates || !facts || !('table' in measure) || !parts.has(measure.table!)) continue;
    parts.set(facts.id, { columns: [facts.date ?? [], rates.currency, rates.rate].flat(), span: null, spans: {} });
  }
  const counts = await Promise.all([...parts].map(([id, part]) => countIn(source, id, part)));
  const rows = counts.reduce((sum, count) => sum + count, 0);
  if (rows > MOST_CARRIED) return null;
  const offers = readerOffers(report, page, source.facts, vocabulary);
  const packing = await Promise.all(
    [...parts].map(async ([table, part]) => [await source.extract({ table, ...part }), part] as const),
  );
  const carried = reportOf(report, page, vocabulary, source, parts);
  return {
    ...offers,
    report: carried,
    periods: await within({ ...workspace, report: carried }, page, offers.periods, ways, watched.asked),
    tables: packTables(packing),
    rows,
    columns: packing.flatMap(([, { columns }]) => columns),
    names: namesOf([...named.fields, ...fields], vocabulary),
    unread: Object.fromEntries(
      [...named.unread].map(([id, { code, sentence, remedy }]) => [id, { code, sentence, remedy }]),
    ),
  };
}

/** What some fields are to whoever reads briefs. */
function namesOf(named: readonly string[], vocabulary: Vocabulary): CarriedNames {
  const known = [...new Set(named)];
  const members = known.flatMap((field) => {
    const all = vocabulary.members(field);
    return all === null ? [] : [[field, all] as const];
  });
  return {
    fields: known.filter((name) => vocabulary.fields.includes(name)),
    numbers: known.filter((name) => vocabulary.numbers?.includes(name)),
    members: Object.fromEntries(members),
  };
}

/** Why briefs of a file's figures cannot be read, as problems. */
export const unreadBriefs = ({ unread }: Pick<Carried, 'unread'>): ReadonlyMap<string, Problem> =>
  new Map(
    Object.entries(unread).map(([id, { code, sentence, remedy }]) => [
      id,
      new Problem(code, sentence, undefined, remedy),
    ]),
  );

/**
 * The levels along which a reader goes into the figures of a page: of each figure that has some, its own field and those below, as its
 * report's hierarchies have them.
 */
function levelsOn(page: Page, { report, vocabulary }: Workspace): { figure: string; levels: readonly string[] }[] {
  return [...figuresOn(page)].flatMap((figure) => {
    const [field, ...more] = briefOrNull(figureOf(report, figure)?.brief ?? '', vocabulary)?.by ?? [];
    if (field === undefined || more.length > 0) return [];
    return (report.hierarchies ?? [])
      .filter((levels) => levels.includes(field))
      .map((levels) => ({ figure, levels: levels.slice(levels.indexOf(field)) }));
  });
}

/**
 * The ways into a figure, level by level. By which member makes no difference to what is asked for; but one level down other days may be,
 * as for a target that is split in last year's proportions.
 */
function waysInto(
  { figure, levels }: ReturnType<typeof levelsOn>[number],
  { members }: Pick<Vocabulary, 'members'>,
): Picked[] {
  const steps = levels.slice(0, -1).map((field) => ({ field, member: members(field)?.[0] || null }));
  return steps.map((step, i) => ({ figure, ...step, ...(i > 0 ? { within: steps.slice(0, i) } : {}) }));
}

/** How many rows of a table a part holds. */
async function countIn(source: OpenSource, table: string, { span }: CarriedPart): Promise<number> {
  if (span === NO_DAYS) return 0;
  const facts = source.facts(table)!;
  if (!span || facts.date === null) return facts.rows;
  const { rows } = await source.groups({ table, aggregates: [], by: [], grain: null, span, where: [] });
  return rows[0] ?? 0;
}

/** The figures of the page, those they share a ruler with, and what all of them name. */
function reportOf(
  report: Report,
  page: Page,
  vocabulary: Vocabulary,
  { facts }: OpenSource,
  parts: ReadonlyMap<string, CarriedPart>,
): Report {
  const shown = figuresOn(page);
  const rulerOf = (brief: string) => {
    try {
      return readBrief(brief, vocabulary).ruler;
    } catch (error) {
      if (!isProblem(error)) throw error;
      return null;
    }
  };
  const rulers = new Set(report.figures.filter(({ id }) => shown.has(id)).map(({ brief }) => rulerOf(brief)));
  return {
    ...report,
    tables: report.tables
      .filter(({ id }) => parts.has(id))
      .map(({ id, source, rates }) => {
        const { date, grain, orders } = facts(id)!;
        const { columns } = parts.get(id)!;
        return {
          id,
          source: { file: source.file },
          date,
          ...(grain === null ? {} : { grain }),
          ...(rates ? { rates } : {}),
          columns: Object.entries(orders).flatMap(([name, order]) => (columns.includes(name) ? [{ name, order }] : [])),
        };
      }),
    measures: report.measures.filter(({ table }) => parts.has(table)),
    figures: report.figures.filter(
      ({ id, brief }) => shown.has(id) || (rulerOf(brief) !== null && rulers.has(rulerOf(brief))),
    ),
    pages: [page],
    accepted: [],
  };
}

/** The periods for which no figure asks for rows that are not carried. */
async function within(
  workspace: Workspace,
  page: Page,
  periods: ReaderOffers['periods'],
  ways: readonly (Picked | null)[],
  carried: ReadonlyMap<string, Observed>,
): Promise<ReaderOffers['periods']> {
  const found: ReaderOffers['periods'][number][] = [];
  for (const period of periods) {
    const isWithin = await asksWithin(workspace.source, carried, async (source) => {
      for (const picked of ways)
        await askPage({ ...workspace, source }, page, { ...NOTHING_CHOSEN, period: period.words, picked });
    });
    if (isWithin) found.push(period);
  }
  return found;
}
