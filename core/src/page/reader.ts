import {
  briefOrNull,
  wayDown,
  wentInto,
  writeBrief,
  type Below,
  type Brief,
  type Condition,
  type LevelMember,
  type Picked,
} from '../brief';
import type { PeriodWords } from '../calendar';
import { belowOf, type Workspace } from '../query';
import type { Highlight, Look, Report } from '../report';

/** What the reader of a page has chosen. */
export interface Reader {
  /** Members by field; an empty list chooses nothing. */
  readonly only: Readonly<Record<string, readonly (string | null)[]>>;
  /** Instead of each figure's own period. */
  readonly period: PeriodWords | null;
  /** Rules of highlights whose switch is the other way than the report has it, by `switchId`. */
  readonly switched: readonly string[];
  readonly picked: Picked | null;
}

export const NOTHING_CHOSEN: Reader = { only: {}, period: null, switched: [], picked: null };

/** What a switch on a page is called among what a reader has chosen. */
export function switchId(highlight: string, rule: string): string {
  return `${highlight}/${rule}`;
}

/** A report as a reader sees it, and what each of its figures could not follow, in words. */
export interface Narrowed {
  readonly report: Report;
  readonly ignored: ReadonlyMap<string, readonly string[]>;
  /** What is not known where a figure was gone into, in words. */
  readonly lost: ReadonlyMap<string, string>;
}

/**
 * The report under what a reader has chosen: conditions and periods in the briefs, switches in the highlights. A figure whose
 * table lacks a field, or any date, keeps its own rows, and that is told.
 */
export function narrowed({ report, source, vocabulary }: Workspace, reader: Reader): Narrowed {
  const { picked } = reader;
  const chosen = Object.entries(reader.only).filter(([, members]) => members.length > 0);
  if (chosen.length === 0 && reader.period === null && picked === null && reader.switched.length === 0)
    return { report, ignored: new Map(), lost: new Map() };
  const ignored = new Map<string, string[]>();
  const lost = new Map<string, string>();
  const figures = report.figures.map((figure) => {
    const conditions: Condition[] = chosen.map(([field, members]) => ({ kind: 'is', field, members }));
    const brief = briefOrNull(figure.brief, vocabulary);
    if (!brief) return figure;
    const measure = report.measures.find(({ name }) => name === brief.views[0]!.measure);
    const facts = measure && source.facts(measure.table);
    if (!facts) return figure;
    const own =
      picked?.figure === figure.id ? goneInto(brief, picked, report, belowOf({ report, source }, brief)) : null;
    // A figure of all members goes on to show them, so that ranks and order stay; the one that was pressed stands out.
    let { look } = figure;
    if (own?.brief) look = lookWithin(look);
    if (own?.brief && own.brief.against !== brief.against)
      lost.set(figure.id, `“${brief.against}” is not known by “${own.brief.by[0]}”`);
    const asked = own?.brief ?? brief;
    const pressed = !picked ? [] : own ? (own.last ? [own.last] : []) : [...(picked.within ?? []), picked];
    for (const { field, member } of pressed) {
      if (!asked.by.includes(field)) conditions.push({ kind: 'is', field, members: [member] });
      else if (member !== null && brief.by.length === 1) look = { ...look, emphasis: [member] };
    }
    const follows = conditions.filter(({ field }) => facts.columns.has(field));
    const missed = conditions.filter(({ field }) => !facts.columns.has(field)).map(({ field }) => field);
    const period = reader.period !== null && facts.date !== null ? reader.period : brief.period;
    if (reader.period !== null && facts.date === null) missed.push('period');
    if (missed.length > 0) ignored.set(figure.id, missed);
    const next: Brief = { ...asked, period, only: [...asked.only, ...follows] };
    return { ...figure, look, brief: writeBrief(next, vocabulary) };
  });
  const highlights = reader.switched.length === 0 ? report.highlights : switchedIn(report.highlights, reader.switched);
  return { report: { ...report, figures, highlights }, ignored, lost };
}

/**
 * The figure that was pressed, as far down as its hierarchies lead: its brief there, or null where nothing is below; and the member that
 * stands out in it, as it was pressed and has no level below.
 */
function goneInto(
  brief: Brief,
  { field, member, within = [] }: Picked,
  { hierarchies = [] }: Report,
  ways: Below,
): { readonly brief: Brief | null; readonly last: LevelMember | null } {
  let at: Brief | null = null;
  let last: LevelMember | null = null;
  for (const step of [...within, { field, member }]) {
    const now: Brief = at ?? brief;
    const way = wayDown(now, hierarchies, ways);
    // With several fields only the one that leads down is known of what was pressed.
    const next: Brief | null =
      way?.field === step.field && now.by.length === 1
        ? wentInto(now, hierarchies, { [step.field]: step.member }, ways)
        : null;
    if (next) at = next;
    else last = step;
  }
  return { brief: at, last };
}

/** What a look says of single members does not hold one level down. */
function lookWithin({ emphasis: _, opened: __, ...look }: Look): Look {
  return look;
}

function switchedIn(highlights: readonly Highlight[], switched: readonly string[]): Highlight[] {
  const ids = new Set(switched);
  return highlights.map((highlight) => ({
    ...highlight,
    rules: highlight.rules.map((rule) =>
      rule.reader && ids.has(switchId(highlight.name, rule.id)) ? { ...rule, on: !rule.on } : rule,
    ),
  }));
}
