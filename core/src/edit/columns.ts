import { original } from 'mutative';
import { briefOrNull, writeBrief, type Brief, type Vocabulary } from '../brief';
import { withNames } from '../form';
import { columnAsWritten, readExpression, withColumnNamed, withMembersNamed, type Expression } from '../measure';
import { isProblem } from '../problem';
import type { LookNote, Report } from '../report';
import { calledOtherwise } from './calledOtherwise';
import type { Names, ReportDraft } from './edit';

const alike = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();

/** The names by which a column of a table is called besides its own, such as `products.family`. */
export function aliasesOf({ facts }: Names, table: string, column: string): string[] {
  return [...(facts(table)?.aliases ?? [])].filter(([, name]) => name === column).map(([alias]) => alias);
}

/** An expression over a table with a column of another name. What cannot be read stays as it is. */
function expressionWith(text: string, from: string, aliases: readonly string[], to: string): string {
  // Behind its table's name it stays there.
  const named = (name: string) =>
    alike(name, from)
      ? columnAsWritten(to)
      : `${columnAsWritten(name.slice(0, -from.length - 1))}.${columnAsWritten(to)}`;
  return rewritten(text, (read) => withColumnNamed(text, read, isColumn(from, aliases), named));
}

const isColumn = (column: string, aliases: readonly string[]) => (name: string) =>
  alike(name, column) || aliases.some((alias) => alike(alias, name));

function rewritten(text: string, write: (read: Expression) => string): string {
  try {
    return write(readExpression(text));
  } catch (error) {
    if (!isProblem(error)) throw error;
    return text;
  }
}

/**
 * Follows a column's new name to every place that uses it, also in tables that look it up.
 * @param names what is known of the tables as they were
 */
export function followColumn(draft: ReportDraft, table: string, from: string, to: string, names: Names): void {
  follow(draft, original(draft) as Report, table, from, to, names, new Set());
}

function follow(
  draft: ReportDraft,
  report: Report,
  table: string,
  from: string,
  to: string,
  names: Names,
  done: Set<string>,
): void {
  const key = JSON.stringify([table, from]);
  if (done.has(key)) return;
  done.add(key);
  const { vocabulary, facts } = names;
  const aliases = aliasesOf(names, table, from);
  const next = (name: string) => (alike(name, from) ? to : name);
  const all = (list: readonly string[]) => list.map(next);
  const written = (text: string) => expressionWith(text, from, aliases, to);

  const entry = draft.tables.find(({ id }) => id === table);
  if (entry) {
    for (const column of entry.columns ?? []) {
      column.name = next(column.name);
      if (column.orderBy !== undefined) column.orderBy = next(column.orderBy);
    }
    if (entry.date) entry.date = next(entry.date);
    if (entry.rates) entry.rates = { currency: next(entry.rates.currency), rate: next(entry.rates.rate) };
    for (const one of entry.derived ?? []) one.expression = written(one.expression);
    for (const join of entry.joins ?? []) join.columns = all(join.columns);
    if (entry.repeats && entry.repeats.by !== 'row') entry.repeats.by = all(entry.repeats.by);
    if (entry.same && Object.keys(entry.same).some((name) => alike(name, from)))
      entry.same = Object.fromEntries(Object.entries(entry.same).map(([name, of]) => [next(name), of]));
  }
  const measured = new Set(report.measures.filter((one) => one.table === table).map(({ name }) => name));
  const renamed = <C extends { column: string; amounts?: string[] }>(currency: C): C => ({
    ...currency,
    column: next(currency.column),
    ...(currency.amounts ? { amounts: all(currency.amounts) } : {}),
  });
  for (const one of draft.measures)
    if (one.table === table) {
      one.expression = written(one.expression);
      if (one.currency) one.currency = renamed(one.currency);
    }
  for (const one of draft.benchmarks) {
    if (one.kind === 'table' && one.table === table) {
      one.expression = written(one.expression);
      if (one.currency) one.currency = renamed(one.currency);
      if (one.match)
        one.match = Object.fromEntries(Object.entries(one.match).map(([field, column]) => [field, next(column)]));
    }
    if (measured.size === 0) continue;
    if (one.kind === 'table' && one.table !== table) {
      const match = Object.fromEntries(Object.entries(one.match ?? {}).map(([field, column]) => [next(field), column]));
      // Targets that have the column under the name it had are matched with it as before.
      if (!Object.hasOwn(match, to) && facts(one.table)?.columns.has(from)) match[to] = from;
      if (Object.keys(match).length > 0) one.match = match;
    }
    if (one.kind === 'expression' && (one.table ?? table) === table) one.expression = written(one.expression);
    if (one.kind === 'fixed') one.per = all(one.per);
  }
  const others = report.measures.some((one) => one.table !== table && facts(one.table)?.columns.has(from));
  if (measured.size > 0) {
    for (const one of draft.highlights)
      if (one.expression !== undefined && !others) one.expression = written(one.expression);
    const after: Vocabulary = {
      ...vocabulary,
      fields: others ? [...vocabulary.fields, to] : all(vocabulary.fields),
      ...(vocabulary.numbers ? { numbers: others ? [...vocabulary.numbers, to] : all(vocabulary.numbers) } : {}),
    };
    for (const figure of draft.figures) {
      const brief = briefOrNull(figure.brief, vocabulary);
      if (!brief || !brief.views.some(({ measure }) => measured.has(measure))) continue;
      const look = withNames(figure.look, (name, of) =>
        of === 'field' ? next(name) : of === 'expression' ? written(name) : name,
      );
      if (look !== figure.look) figure.look = look;
      const named: Brief = {
        ...brief,
        by: all(brief.by),
        only: brief.only.map((condition) => ({ ...condition, field: next(condition.field) })),
      };
      const text = writeBrief(named, after);
      if (JSON.stringify(named) !== JSON.stringify(brief) || briefOrNull(figure.brief, after) === null)
        figure.brief = text;
    }
    if (!others && draft.hierarchies) draft.hierarchies = draft.hierarchies.map(all);
    if (!others) for (const page of draft.pages) for (const filter of page.filters) filter.field = next(filter.field);
  }
  // Where the column is looked up, it has its new name, too.
  for (const other of report.tables) {
    if (!other.joins?.some((join) => join.to === table)) continue;
    const at = draft.tables.find(({ id }) => id === other.id);
    for (const join of at?.joins ?? []) {
      if (join.to !== table) continue;
      join.on = all(join.on);
      if (join.since !== undefined) join.since = next(join.since);
    }
    for (const { to: id, names: brought } of facts(other.id)?.joined ?? []) {
      if (id !== table) continue;
      for (const { name, of } of brought)
        if (of === from)
          follow(draft, report, other.id, name, name === from ? to : name.slice(0, -from.length) + to, names, done);
    }
  }
}

/** Follows members that are read as others to conditions, expressions, highlights, orders, titles and findings that name them. */
export function followMembers(
  draft: ReportDraft,
  table: string,
  column: string,
  same: Readonly<Record<string, string | null>>,
  names: Names,
): void {
  const report = original(draft) as Report;
  const { vocabulary, facts } = names;
  // Where the column is looked up, its members are read as others, too.
  for (const { id, joins = [] } of report.tables) {
    if (id === table || !joins.some(({ to }) => to === table)) continue;
    for (const { to, names: brought } of facts(id)?.joined ?? [])
      for (const { name, of } of brought)
        if (to === table && of === column) followMembers(draft, id, name, same, names);
  }
  const next = (member: string) => (Object.hasOwn(same, member) ? (same[member] ?? member) : member);
  const all = (members: readonly string[]) => [...new Set(members.map(next))];
  const measured = new Set(report.measures.filter((one) => one.table === table).map(({ name }) => name));
  const entry = draft.tables.find(({ id }) => id === table);
  const said = entry?.columns?.find(({ name }) => name === column);
  if (said?.order) said.order = all(said.order);
  const isIt = isColumn(column, aliasesOf(names, table, column));
  const written = (text: string) => rewritten(text, (read) => withMembersNamed(text, read, isIt, next));
  for (const one of entry?.derived ?? []) one.expression = written(one.expression);
  for (const one of draft.measures) if (one.table === table) one.expression = written(one.expression);
  for (const one of draft.benchmarks)
    if ((one.kind === 'table' || one.kind === 'expression') && (one.table ?? table) === table)
      one.expression = written(one.expression);
  if (measured.size === 0) return;
  const others = report.measures.some((one) => one.table !== table && facts(one.table)?.columns.has(column));
  if (!others)
    for (const one of draft.highlights) if (one.expression !== undefined) one.expression = written(one.expression);
  const members = (field: string) => {
    const known = vocabulary.members(field);
    return known && field === column ? [...new Set([...known, ...all(known)])] : known;
  };
  const after: Vocabulary = { ...vocabulary, members };
  for (const figure of draft.figures) {
    const brief = briefOrNull(figure.brief, vocabulary);
    if (!brief || !brief.views.some(({ measure }) => measured.has(measure))) continue;
    const only = brief.only.map((condition) =>
      'members' in condition && condition.field === column
        ? { ...condition, members: [...new Set(condition.members.map((one) => (one === null ? null : next(one))))] }
        : condition,
    );
    if (JSON.stringify(only) !== JSON.stringify(brief.only)) figure.brief = writeBrief({ ...brief, only }, after);
    const look = withNames(figure.look, (name, of) => (of === 'expression' ? written(name) : name));
    if (look !== figure.look) figure.look = look;
    followInNotes(figure, column, next);
    if (brief.by.includes(column)) followInWords(draft, figure, next);
  }
  for (const { on, rules } of draft.highlights)
    if (on === 'member') for (const { when } of rules) if ('members' in when) when.members = all(when.members);
}

/** Notes hang on their members by name. */
function followInNotes(figure: ReportDraft['figures'][number], column: string, next: (member: string) => string): void {
  const { notes } = figure.look;
  const member = (key: NonNullable<LookNote['at']>['key']) =>
    key && Object.hasOwn(key, column) ? (key[column] ?? null) : null;
  if (!notes?.some(({ at }) => member(at?.key) !== null)) return;
  figure.look.notes = notes.map((note) => {
    const was = member(note.at?.key);
    return was === null ? note : { ...note, at: { ...note.at, key: { ...note.at?.key, [column]: next(was) } } };
  });
}

/** Follows a figure's members to what its title, its caption and the texts about it say of them. */
function followInWords(
  draft: ReportDraft,
  { id, look }: ReportDraft['figures'][number],
  next: (member: string) => string,
): void {
  const told = (text: string) =>
    text.replace(/\{([^{}|]*?) of ([^{}|]+)\}/g, (_, value: string, member: string) => `{${value} of ${next(member)}}`);
  if (look.emphasis) look.emphasis = [...new Set(look.emphasis.map(next))];
  if (look.title !== undefined) look.title = told(look.title);
  if (look.caption !== undefined) look.caption = told(look.caption);
  for (const { rows } of draft.pages)
    for (const row of rows)
      for (const block of 'blocks' in row ? row.blocks : []) {
        if (!('text' in block) || block.about !== id) continue;
        for (const claim of block.claims ?? []) {
          const was = claim.text;
          for (const key of ['member', 'by', 'from'] as const) {
            const of = claim as { [part in typeof key]?: string };
            const member = of[key];
            if (member === undefined || next(member) === member) continue;
            of[key] = next(member);
            // Its sentence names the member as it was.
            claim.text = calledOtherwise(claim.text, member, next(member));
          }
          claim.text = told(claim.text);
          // The claim's own sentence follows; what else stands in the text is its writer's.
          if (was !== '') block.text = block.text.split(was).join(claim.text);
        }
        block.text = told(block.text);
      }
}
