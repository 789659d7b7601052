import { transfer } from 'comlink';
import { create as change, type Draft } from 'mutative';
import type { Report, TableEntry } from '@bold-ruler/core/report';
import type { AddedRows, Table } from '@bold-ruler/core/table';
import { desk } from '@/store/desk';
import { useReport } from '@/store/reportStore';
import { listed, nearest, received } from '@bold-ruler/core/problem';
import { beginReading, lookInto } from '@/worker/reading';
import type { Proposed } from '@/worker/keeping';
import { buffersOf } from '@/worker/transferables';
import {
  letGo,
  openOf,
  rowsOf,
  stepAside,
  useProposal,
  waitingFor,
  WHICH_FILE,
  wordsFor,
  type Answer,
  type Called,
  type Newer,
  type Proposal,
} from './proposal';

const put = (part: Partial<Proposal>) =>
  useProposal.setState(({ proposal }) => ({ proposal: proposal && { ...proposal, ...part } }));

function changed(report: Report, tableId: string, alter: Proposal['change']): Report {
  return change(report, (draft) => {
    const entry = draft.tables.find(({ id }) => id === tableId);
    if (entry) alter(entry);
  });
}

/** The report as it would be with what is proposed. */
export function proposedReport(report: Report, { tableId, change: alter, entry, together }: Proposal): Report {
  if (together) return together.report;
  if (!entry) return changed(report, tableId, alter);
  return { ...report, tables: report.tables.map((one) => (one.id === tableId ? entry : one)) };
}

const codeOf = (error: unknown) => (error as { readonly code?: unknown } | null)?.code;
const wordsOf = (error: unknown) => (error instanceof Error ? error.message : String(error));

const NOTHING = {
  state: 'reading',
  rows: 0,
  difference: null,
  newer: null,
  entry: null,
  together: null,
  problem: null,
} as const;

/**
 * Answers a question about how a table is read, together with what was answered and is not taken yet, and shows what would be
 * different.
 * @param about the question, of which the last answer counts
 * @param newer another file
 */
export async function propose(
  tableId: string,
  about: string,
  what: string,
  alter: Answer['change'],
  newer?: File,
): Promise<void> {
  const { proposal } = useProposal.getState();
  const isHere = proposal?.tableId === tableId && !proposal.together;
  if (!isHere) stepAside();
  let before = isHere ? openOf(proposal) : null;
  if (!before) {
    before = waitingFor(tableId)[0] ?? null;
    letGo(tableId);
  }
  const others = (before?.answers ?? []).filter((one) => one.about !== about);
  // Which file it is comes first: what is answered holds for its rows.
  const answers = newer ? [{ about, what, change: alter }, ...others] : [...others, { about, what, change: alter }];
  const as = isHere && !newer ? proposal.newer : null;
  await tryOut(tableId, answers, newer ?? before?.newer ?? undefined, as ?? undefined);
  if (as?.mode === 'add') await addAgain(as);
}

/** Rows that were to be added still are when the newer file was read in another way. */
async function addAgain({ mode, keep }: Newer): Promise<void> {
  if (useProposal.getState().proposal?.state === 'ready') await takeNewer(mode, keep);
}

/** Tries what waits next for a table. */
export async function goOn(tableId: string): Promise<void> {
  const [own] = waitingFor(tableId);
  if (!own) return;
  const { proposal } = useProposal.getState();
  letGo(tableId);
  if (proposal?.tableId !== tableId || openOf(proposal)) stepAside();
  await tryOut(tableId, own.answers, own.newer ?? undefined);
}

/**
 * Reads a table again as its entry would be after answers, and shows what would be different.
 * @param as what is known of the newer file: what it calls columns otherwise (where that is not said, what is likely), and whether
 * somebody has said how its rows are taken
 */
async function tryOut(
  tableId: string,
  answers: readonly Answer[],
  newer?: File,
  { called, isChosen = false }: Partial<Pick<Newer, 'called' | 'isChosen'>> = {},
): Promise<void> {
  const what = wordsFor(answers);
  const alter: Answer['change'] = (entry) => answers.forEach((one) => one.change(entry));
  useProposal.getState().proposal?.cancel();
  const { report } = useReport.getState();
  if (!report) return;
  let cancelled = false;
  let stop = () => {};
  const cancel = () => {
    cancelled = true;
    stop();
  };
  useProposal.setState({ proposal: { ...NOTHING, tableId, what, answers, change: alter, cancel } });
  const entryAfter = (one: Proposal['change']) =>
    changed(report, tableId, one).tables.find(({ id }) => id === tableId)!;
  const read = (entry: TableEntry, file: File): Promise<Table> => {
    const reading = beginReading(entry, file, false, ({ rows }) => put({ rows }));
    stop = reading.cancel;
    return reading.done.then(({ table }) => table);
  };
  /** Has the desk look at a table. */
  const shown = async (table: Table): Promise<Proposed> =>
    received(await desk().propose(report, transfer(table, buffersOf([table])), newer ?? null));
  let looked: Newer | null = null;
  try {
    const file = newer ?? (await desk().file(report, tableId));
    if (cancelled) return;
    if (!file) return put({ state: 'no file' });
    if (!newer) {
      const { difference } = await shown(await read(entryAfter(alter), file));
      if (!cancelled) put({ state: 'ready', difference });
      return;
    }
    const sheet = await otherSheet(entryAfter(alter), file, (end) => (stop = end));
    const base: Proposal['change'] = (entry) => {
      alter(entry);
      if (sheet?.to === '') delete entry.source.sheet;
      else if (sheet) entry.source.sheet = sheet.to;
    };
    const facts = (answer: Proposed, now: Called): Newer => {
      const { overlap, lacking, come, difference } = answer;
      const { rows } = difference;
      const { repeats } = entryAfter(alter);
      const isOnce = repeats !== undefined && repeats.keep !== 'all';
      const way = { mode: 'replace', keep: 'new', isChosen } as const;
      return { file: newer, ...way, overlap, rows, isOnce, lacking, come, called: now, asked: alter, sheet };
    };
    // What the file calls its columns is seen also where it cannot be read as the report says.
    let change = calling(base, called ?? {});
    let isBare = false;
    const first = await read(entryAfter(change), file).catch((error: unknown) => {
      if (codeOf(error) !== 'unknown-column') throw error;
      isBare = true;
      const { id, source } = entryAfter(base);
      return read({ id, source }, file);
    });
    let answer = await shown(first);
    if (cancelled) return;
    const likely: Called = Object.fromEntries(
      answer.lacking.flatMap(({ column, match }) => (match ? [[column, match.to]] : [])),
    );
    const taken = called ?? likely;
    looked = facts(answer, taken);
    if (isBare || (called === undefined && Object.keys(likely).length > 0)) {
      change = calling(base, taken);
      answer = await shown(await read(entryAfter(change), file));
      looked = facts({ ...answer, lacking: looked.lacking, come: looked.come }, taken);
    }
    if (cancelled) return;
    const isAdded = called === undefined && addsRows(answer);
    put({ ...(isAdded ? {} : { state: 'ready' }), difference: answer.difference, change, newer: looked });
    if (isAdded) await takeNewer('add', 'new');
  } catch (error) {
    // What it lacks can be told by hand.
    if (!cancelled) put({ state: 'failed', problem: wordsOf(error), change: alter, newer: looked });
  }
}

/** Whether a newer file goes on from the rows there are: it has none of their days, or begins later. */
function addsRows({ overlap, difference: { from } }: Proposed): boolean {
  const [then, now] = from;
  return then !== null && now !== null && (overlap === null || now > then);
}

/** Reads the rows of a newer file, to be looked at before they are taken. */
export async function proposeFile(tableId: string, file: File): Promise<void> {
  const { about, what, change: alter } = rowsOf(file);
  await propose(tableId, about, what, alter, file);
}

/** Chooses the kept file of a table once more, which this browser had no room for. */
export async function chooseAgain(file: File): Promise<void> {
  const { proposal } = useProposal.getState();
  if (proposal) await tryOut(proposal.tableId, proposal.answers, file, { isChosen: true });
}

/** Shows what putting tables of the same columns under one another would do. */
export async function proposeTogether(tableId: string, gone: readonly string[]): Promise<void> {
  stepAside();
  const { report } = useReport.getState();
  if (!report) return;
  const what = `put ${listed(gone, 'and')} under ${tableId}`;
  let isCancelled = false;
  const cancel = () => (isCancelled = true);
  useProposal.setState({ proposal: { ...NOTHING, tableId, what, answers: [], change: () => {}, cancel } });
  try {
    const { entry, difference } = received(await desk().proposeStacked(report, [tableId, ...gone]));
    const { report: then } = received(await desk().edited(report, { edit: 'put-together', entry, gone }));
    if (!isCancelled) put({ state: 'ready', difference, entry, together: { gone, report: then } });
  } catch (error) {
    if (!isCancelled) put({ state: 'failed', problem: wordsOf(error) });
  }
}

/** How many rows there would be; null where that is known only when it is tried. */
export function rowsThen({ keep, overlap, rows: [old, now], isOnce }: Newer, mode: Newer['mode']): number | null {
  if (mode === 'replace') return now;
  if (isOnce) return null;
  if (!overlap || keep === 'both') return old + now;
  return old + now - overlap.rows[keep === 'old' ? 1 : 0];
}

/** A change of an entry that also says what the file calls columns. */
const calling =
  (base: Proposal['change'], called: Called): Proposal['change'] =>
  (entry) => {
    base(entry);
    for (const [name, to] of Object.entries(called))
      if (to === name) delete columnIn(entry, name).header;
      else columnIn(entry, name).header = to;
  };

/** The sheet that stands in for the one a newer file lacks: the one of the nearest name. */
async function otherSheet(
  { source }: TableEntry,
  file: File,
  stoppedBy: (stop: () => void) => void,
): Promise<Newer['sheet']> {
  if (source.sheet === undefined) return null;
  const look = lookInto(file, file.name);
  stoppedBy(look.cancel);
  const sheets = await look.done;
  if (sheets.includes(source.sheet)) return null;
  return { from: source.sheet, to: nearest(source.sheet, sheets)[0] ?? sheets[0]! };
}

/** Reads the newer file once more, with what it calls its columns. */
export async function callNewer(called: Called): Promise<void> {
  const { proposal } = useProposal.getState();
  if (!proposal?.newer) return;
  const { tableId, answers, newer } = proposal;
  await tryOut(tableId, answers, newer.file, { called, isChosen: newer.isChosen });
  if (newer.mode === 'add') await addAgain(newer);
}

/** Takes the rows of the newer file in another way: instead of those there are, or besides them. */
export async function takeNewer(mode: Newer['mode'], keep: AddedRows): Promise<void> {
  const { proposal } = useProposal.getState();
  const { report } = useReport.getState();
  const entry = report?.tables.find(({ id }) => id === proposal?.tableId);
  if (!proposal?.newer || !report || !entry) return;
  const { newer, cancel } = proposal;
  const way = ++ways;
  /** Nothing else was asked for in the meantime. */
  const isWanted = () => way === ways && useProposal.getState().proposal?.cancel === cancel;
  const rows = `${mode === 'add' ? 'add' : 'take'} the rows of ${newer.file.name}`;
  const what = wordsFor(proposal.answers.map((one) => (one.about === WHICH_FILE ? { ...one, what: rows } : one)));
  put({ state: 'reading', what });
  try {
    const {
      difference,
      entry: then,
      overlap,
    } = received(
      mode === 'add'
        ? await desk().proposeAdded(report, entry, keep, newer.called)
        : await desk().proposeReplaced(report),
    );
    if (isWanted())
      put({ state: 'ready', difference, entry: then, newer: { ...newer, mode, keep, overlap, isChosen: true } });
  } catch (error) {
    if (isWanted()) put({ state: 'failed', what, problem: wordsOf(error) });
  }
}
/** How often another way was asked for. */
let ways = 0;

/** Takes the proposed table: figures follow. */
export async function accept(): Promise<void> {
  const { proposal } = useProposal.getState();
  const { report, editRows } = useReport.getState();
  if (!proposal || !report || proposal.newer?.isChosen === false) return;
  const columns = proposal.difference?.columns ?? [];
  const { together } = proposal;
  const entry = proposedReport(report, proposal).tables.find(({ id }) => id === proposal.tableId)!;
  if (together) {
    const { gone } = together;
    try {
      await editRows({ edit: 'put-together', entry, gone }, [proposal.tableId, ...gone], 'proposed');
      put({ state: 'accepted' });
    } catch (error) {
      put({ state: 'failed', problem: wordsOf(error) });
    }
    return;
  }
  // By the names that the report has for them.
  const names = new Map(entry.columns?.map(({ name, header }) => [header ?? name, name]));
  const renamed = new Set(Object.entries(proposal.newer?.called ?? {}).flat());
  const called = (name: string) => names.get(name) ?? name;
  const isRenamed = (name: string) => renamed.has(name) || renamed.has(called(name));
  try {
    await editRows(
      {
        edit: 'read-table',
        saying: proposal.what,
        entry,
        columns: {
          lost: columns.flatMap(({ name, after }) =>
            after?.kind === 'number' || isRenamed(name) ? [] : [called(name)],
          ),
          newNumbers: columns.flatMap(({ name, before, after }) =>
            after?.kind === 'number' && before?.kind !== 'number' && !isRenamed(name)
              ? [{ name: called(name), ...(after.unit ? { unit: after.unit } : {}) }]
              : [],
          ),
        },
      },
      [proposal.tableId],
      'proposed',
    );
    put({ state: 'accepted' });
  } catch (error) {
    put({ state: 'failed', problem: wordsOf(error) });
  }
}

export function discard(): void {
  useProposal.getState().proposal?.cancel();
  useProposal.setState({ proposal: null });
  void desk().discard();
}

/** Takes back what was accepted, as long as nothing was changed since. */
export async function putBack(): Promise<void> {
  await useReport.getState().undo();
  useProposal.setState({ proposal: null });
}

/** What the report says of a column, to be changed; begun where it says nothing yet. */
export function columnIn(entry: Draft<TableEntry>, name: string): Draft<NonNullable<TableEntry['columns']>[number]> {
  entry.columns ??= [];
  let column = entry.columns.find((known) => known.name === name);
  if (!column) entry.columns.push((column = { name }));
  return column;
}

export const LEAVE_REPEATS_OUT = 'leave out rows that stand there already';

/**
 * Says of a table which rows are the same row once more, and whether they are left out.
 * @param key the columns that tell a row from others; with none all do
 */
export function setRepeats(entry: Draft<TableEntry>, key: readonly string[], isLeftOut: boolean): void {
  const by = key.length === 0 ? ('row' as const) : [...key];
  if (isLeftOut) entry.repeats = { by, keep: 'first' };
  else if (by === 'row') delete entry.repeats;
  else entry.repeats = { by, keep: 'all' };
}
