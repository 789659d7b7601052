import { current, original } from 'mutative';
import { workweekText } from '../../calendar';
import { accepting, figuresOn, type Benchmark, type Report, type TableEntry } from '../../report';
import type { EditKinds, ReportDraft } from '../edit';
import { idsOf, sweepPage } from '../sweep';

const KINDS = { figures: 'figure', pages: 'page', tables: 'table' } as const;

/** Edits of a report as a whole. */
export const whole: EditKinds<
  'rename-report' | 'accept-finding' | 'restore-state' | 'put-back' | 'set-calendar' | 'set-hierarchies'
> = {
  'rename-report': {
    say: () => 'rename the report',
    apply: (draft, { name }) => {
      draft.name = name;
    },
  },

  'accept-finding': {
    say: ({ reason }) => (reason === null ? 'open a finding again' : 'accept a finding'),
    apply: (draft, { of, reason }) => {
      if (reason !== null && of.about !== 'report' && !idsOf(draft)[of.about].includes(of.id)) return;
      const { accepted } = accepting(current(draft) as Report, of, reason);
      if (accepted) draft.accepted = [...accepted];
      else delete draft.accepted;
    },
  },

  'restore-state': {
    say: () => 'go back to an earlier state',
    apply: (draft, { state }) => {
      const { tables } = original(draft) as Report;
      const added = tables.filter(({ id }) => !state.tables.some((one) => one.id === id));
      for (const key of Object.keys(draft) as (keyof Report)[]) if (!(key in state)) delete draft[key];
      const restored = state.tables.map((then) =>
        asReadNow(
          then,
          tables.find(({ id }) => id === then.id),
        ),
      );
      Object.assign(draft, structuredClone({ ...state, tables: [...restored, ...added] }));
    },
  },

  'put-back': {
    say: ({ kind }) => `put the ${KINDS[kind]} back`,
    apply: (draft, { kind, content, with: along }) => {
      // What has come in its name since stays as well.
      const id = freeId(
        content.id,
        draft[kind].map((one) => one.id),
      );
      (draft[kind] as { id: string }[]).push({ ...structuredClone(content), id });
      // Figures that were removed since stand on no page.
      if (kind === 'pages') {
        const page = draft.pages.at(-1)!;
        const known = new Set(draft.figures.map((one) => one.id));
        sweepPage(page, new Set(figuresOf(page).filter((figure) => !known.has(figure))));
      }
      if (along) addBack(draft, along);
    },
  },

  'set-hierarchies': {
    say: () => 'change the levels of fields',
    apply: (draft, { hierarchies }) => {
      if (hierarchies.length === 0) delete draft.hierarchies;
      else draft.hierarchies = hierarchies.map((levels) => [...levels]);
    },
  },

  'set-calendar': {
    say: ({ part }) =>
      part.asOf !== undefined
        ? 'change the as-of date'
        : 'weeks' in part || 'months' in part
          ? 'change the fiscal year'
          : part.holidays !== undefined
            ? 'change the holidays'
            : part.workweek !== undefined
              ? 'change the workdays'
              : part.weekStart !== undefined
                ? 'change the week'
                : part.fiscalYearNamed !== undefined
                  ? 'rename fiscal years'
                  : 'change the fiscal year',
    apply: (draft, { part }) => {
      Object.assign(draft.calendar, part);
      const { holidays, workweek, weeks, months } = draft.calendar;
      // Years are made in one way.
      if (weeks === undefined || part.months) delete draft.calendar.weeks;
      if (months === undefined || part.weeks) delete draft.calendar.months;
      if (holidays?.length === 0) delete draft.calendar.holidays;
      if (workweek && workweekText({ workweek }) === workweekText({})) delete draft.calendar.workweek;
    },
  },
};

/** Adds measures and benchmarks again whose names are free, whose tables are there, and what they rest on. */
function addBack(draft: ReportDraft, { measures, benchmarks }: Pick<Report, 'measures' | 'benchmarks'>): void {
  const tables = draft.tables.map(({ id }) => id);
  const isNamed = (list: readonly { readonly name: string }[], name: string) => list.some((one) => one.name === name);
  const isFree = (name: string) => !isNamed(draft.measures, name) && !isNamed(draft.benchmarks, name);
  for (const one of measures)
    if (isFree(one.name) && tables.includes(one.table))
      draft.measures.push(structuredClone(one) as ReportDraft['measures'][number]);
  const isHeldUp = (one: Benchmark) =>
    one.kind === 'scaled'
      ? one.of === 'measure' || isNamed(draft.benchmarks, one.of)
      : !('table' in one) || one.table === undefined || tables.includes(one.table);
  // Each one may be what others rest on.
  for (let added = true; added;) {
    const back = benchmarks.filter((one) => isFree(one.name) && isHeldUp(one));
    added = back.length > 0;
    draft.benchmarks.push(...(structuredClone(back) as ReportDraft['benchmarks']));
  }
}

/** How the rows of a table were read. */
const readingOf = ({ source, grain, leaveOut, repeats, long, columns = [] }: TableEntry) =>
  JSON.stringify([
    source,
    grain,
    leaveOut,
    repeats,
    long,
    columns.flatMap(({ name, type, read }) => (type === undefined && read === undefined ? [] : [[name, type, read]])),
  ]);

/** An entry of an earlier state for the rows there are now: where these were read from elsewhere or in another way, that stays. */
function asReadNow(then: TableEntry, now: TableEntry | undefined): TableEntry {
  if (!now || readingOf(now) === readingOf(then)) return then;
  const { derived: _, ...read } = now;
  return then.derived ? { ...read, derived: then.derived } : read;
}

/** The figures that a page names. */
function figuresOf({ rows, dismissed = [] }: ReportDraft['pages'][number]): string[] {
  return [...dismissed.map(({ figure }) => figure), ...figuresOn({ rows })];
}

/** The id, or where it is taken the first of the form `id 2`, `id 3`, … that is not. */
function freeId(id: string, taken: readonly string[]): string {
  if (!taken.includes(id)) return id;
  for (let n = 2; ; n++) if (!taken.includes(`${id} ${n}`)) return `${id} ${n}`;
}
