import { power } from '../number';
import { likelyMeasure, proposedUse, useOf, type ProposedUse, type TableUse } from '../report';
import {
  codedField,
  columnOf,
  columnsRead,
  fieldsNamedAlike,
  levelsIn,
  lookupOffers,
  proposeMerges,
  proposeNames,
  type Joining,
  type KeysNotFound,
  type Likeness,
  type LookupOffer,
  type Table,
  isStackable,
} from '../table';
import type { OpenReport } from '../workspace';
import { tableOf } from './data';

/** A lookup as it stands in a report, and what came of it. */
export interface LookupShown extends Joining {
  /** The names its columns have here. */
  readonly brings: readonly string[];
  readonly twice: readonly { readonly key: string; readonly rows: number }[];
  /** Rows are valid from a day on there, and those here have none. */
  readonly undated: boolean;
  readonly notFound: KeysNotFound | null;
  /** The number of the table that amounts are told in; null where it has none. */
  readonly amountOf: string | null;
}

/** What a table looks up in others, and could. */
export interface Lookups {
  readonly joined: readonly LookupShown[];
  /** Tables of the same columns, which can be put under this one. */
  readonly alike: readonly string[];
  readonly offers: readonly (LookupOffer & { readonly brings: readonly string[] })[];
  /** Names of the number its amounts are told in. */
  readonly tables: readonly {
    readonly id: string;
    readonly columns: readonly string[];
    readonly dates: readonly string[];
  }[];
}

/** A name in a field: how many rows have it, what they hold, and what it may stand for. */
export interface NameShown {
  readonly name: string;
  readonly rows: number;
  /** Null where there is no number. */
  readonly amount: number | null;
  readonly proposed: { readonly meant: string; readonly why: Likeness } | null;
}

/** Names to be matched, beside those they may stand for. */
export interface NamesShown {
  readonly names: readonly NameShown[];
  /** How many there are; of very many only those with the most are given. */
  readonly count: number;
  readonly known: readonly Omit<NameShown, 'proposed'>[];
  /** Names that are read as others by now. */
  readonly same: readonly { readonly name: string; readonly meant: string }[];
  /** The numbers that amounts are told in, here and there. */
  readonly amountOf: string | null;
  readonly knownAmountOf: string | null;
}

const numberOf = (table: Table): string | null =>
  likelyMeasure(columnsRead(table).flatMap(({ name, kind }) => (kind === 'number' ? [name] : []))) ?? null;

/** How many rows have each member of a column, and what they hold. */
function membersIn(table: Table, column: string): Omit<NameShown, 'proposed'>[] {
  const of = columnOf(table, column);
  if (!of) return [];
  const { members, codes } = codedField(of);
  const number = numberOf(table);
  const amounts = number === null ? undefined : columnOf(table, number);
  const rows = new Float64Array(members.length);
  const sums = new Float64Array(members.length);
  const values = amounts?.kind === 'number' ? amounts.values : null;
  const scale = power((amounts?.kind === 'number' ? amounts.decimals : null) ?? 0);
  const counted = new Uint8Array(members.length);
  for (let row = 0; row < codes.length; row++) {
    const code = codes[row]!;
    rows[code]!++;
    const value = values?.[row] ?? NaN;
    if (Number.isNaN(value)) continue;
    sums[code]! += value;
    counted[code] = 1;
  }
  return members.flatMap((name, code) =>
    code === 0 || rows[code] === 0
      ? []
      : [{ name, rows: rows[code]!, amount: counted[code] ? sums[code]! / scale : null }],
  );
}

/** More names are not shown. */
const MOST_NAMES = 500;

/** Tables behind one in the report that have its columns, and are targets where it is. */
function alikeBelow({ report, tables: all }: OpenReport, table: Table, others: readonly Table[]): string[] {
  const place = (id: string) => report.tables.findIndex((entry) => entry.id === id);
  const isTarget = (id: string) => useOf(report, id) === 'targets';
  return others
    .filter(({ id }) => place(id) > place(table.id) && isTarget(id) === isTarget(table.id))
    .filter(({ id }) => isStackable(table, all.get(id)!))
    .map(({ id }) => id);
}

/** Questions about how tables hang together. */
export const tables = {
  lookups(desk: OpenReport, tableId: string): Lookups {
    const table = tableOf(desk, tableId);
    const others = [...desk.tables.values()].filter(({ id }) => id !== tableId);
    // Whoever looks something up here, through others or not, cannot be looked up in.
    const looksHere = (id: string): boolean =>
      (desk.report.tables.find((entry) => entry.id === id)?.joins ?? []).some(
        ({ to }) => to === tableId || looksHere(to),
      );
    const joined = (table.joined ?? []).map(
      ({ columns, to, on, since, names, twice, undated, notFound }): LookupShown => ({
        columns,
        to,
        on,
        ...(since === undefined ? {} : { since }),
        brings: names.map(({ name }) => name),
        twice: twice.slice(0, 100),
        undated,
        notFound: twice.length > 0 || undated ? null : notFound(),
        amountOf: numberOf(table),
      }),
    );
    const offers = others.flatMap((other) => {
      if (looksHere(other.id) || joined.some(({ to }) => to === other.id)) return [];
      // More rows of the same kind say nothing more of these.
      if (useOf(desk.report, other.id) === 'targets' || isStackable(table, other)) return [];
      const [best] = lookupOffers(table, other);
      if (!best) return [];
      const left = new Set([...best.on, best.since]);
      return [{ ...best, brings: other.columns.map(({ name }) => name).filter((name) => !left.has(name)) }];
    });
    return {
      joined,
      offers,
      alike: alikeBelow(desk, table, others),
      tables: others
        .filter(({ id }) => !looksHere(id))
        .map(({ id, columns }) => ({
          id,
          columns: columns.map(({ name }) => name),
          dates: columns.flatMap(({ name, kind }) => (kind === 'date' ? [name] : [])),
        })),
    };
  },

  /** What a table is for, and what it is likely to be for beside the one that is measured. */
  use(
    desk: OpenReport,
    tableId: string,
  ): { readonly use: TableUse; readonly proposed: ProposedUse; readonly main: string | null } {
    const main = desk.report.measures.find(({ table }) => table !== tableId)?.table ?? null;
    return {
      use: useOf(desk.report, tableId),
      proposed: proposedUse(main === null ? null : (desk.tables.get(main) ?? null), tableOf(desk, tableId)),
      main,
    };
  },

  /**
   * The names in a column that those of another lack, with what each may stand for; with no other, the names that may be one.
   * @param other the table and column whose names are right
   */
  names(
    desk: OpenReport,
    tableId: string,
    column: string,
    other: { readonly table: string; readonly column: string } | null,
  ): NamesShown {
    const table = tableOf(desk, tableId);
    const members = membersIn(table, column);
    const said = desk.report.tables.find(({ id }) => id === tableId)?.same?.[column] ?? {};
    const same = Object.entries(said).map(([name, meant]) => ({ name, meant }));
    const weigh = (one: { rows: number; amount: number | null }) => Math.abs(one.amount ?? one.rows);
    const known = (other ? membersIn(tableOf(desk, other.table), other.column) : [...members]).sort(
      (a, b) => weigh(b) - weigh(a),
    );
    const there = new Set(known.map(({ name }) => name));
    const names = other ? members.filter(({ name }) => !there.has(name)) : members;
    const proposals = new Map(
      (other
        ? proposeNames(
            names.map(({ name }) => name),
            known.map(({ name }) => name),
          )
        : proposeMerges(
            names.map(({ name }) => name),
            names.map(({ rows }) => rows),
          )
      ).map(({ name, ...proposed }) => [name, proposed]),
    );
    const shown = names
      .map((one) => ({ ...one, proposed: proposals.get(one.name) ?? null }))
      .filter(({ proposed }) => other !== null || proposed !== null)
      .sort((a, b) => weigh(b) - weigh(a));
    return {
      names: shown.slice(0, MOST_NAMES),
      count: shown.length,
      known: known.slice(0, 5000),
      same,
      amountOf: numberOf(table),
      knownAmountOf: other ? numberOf(tableOf(desk, other.table)) : numberOf(table),
    };
  },

  /** Fields in order, each finer than the one before, as the rows of a table have them and the report does not say yet. */
  levels(desk: OpenReport, tableId: string): string[][] {
    const said = desk.report.hierarchies ?? [];
    const isSaid = (levels: readonly string[]) =>
      said.some((one) => levels.every((field) => one.some((other) => other.toLowerCase() === field.toLowerCase())));
    return levelsIn(tableOf(desk, tableId)).filter((levels) => !isSaid(levels));
  },

  /** Fields of the measured table that targets have under a name that is nearly the same. */
  fieldsAlike(desk: OpenReport, of: string, targets: string): Readonly<Record<string, string>> {
    return fieldsNamedAlike(tableOf(desk, of), tableOf(desk, targets));
  },
};
