import { aggregated } from '../../query';
import { power } from '../../number';
import { isProblem, listed, someOf } from '../../problem';
import type { Benchmark, Report } from '../../report';
import type { OpenSource } from '../../query';
import { amountOf, type Amount, type LevelCheck, type Said } from '../level';

type Targets = Extract<Benchmark, { kind: 'table' }>;

/** Targets of members that the measured rows do not have: they count for the whole, and for no row. */
export const unmatchedTargets: LevelCheck = {
  code: 'targets-unmatched',
  why: 'what is aimed at under a name that no row has is missing from every row, and only the whole knows of it',
  run: async ({ report, source }) => {
    const seen = new Set<string>();
    const found: Said[] = [];
    for (const one of report.benchmarks) {
      if (one.kind !== 'table' || seen.has(one.table)) continue;
      seen.add(one.table);
      const said = await strangersIn(source, report, one);
      if (said) found.push(said);
    }
    return found;
  },
};

async function strangersIn(source: OpenSource, report: Report, targets: Targets): Promise<Said | null> {
  const there = source.facts(targets.table);
  const measured = [...new Set(report.measures.map(({ table }) => table))].filter((id) => id !== targets.table);
  if (!there || measured.length === 0) return null;
  const parts: string[] = [];
  let most: Amount | null = null as Amount | null;
  for (const field of source.facts(measured[0]!)?.members.keys() ?? []) {
    const column = targets.match && Object.hasOwn(targets.match, field) ? targets.match[field]! : field;
    const theirs = there.members.get(column);
    const tables = measured.flatMap((id) => source.facts(id) ?? []).filter(({ members }) => members.has(field));
    if (!theirs || tables.length === 0) continue;
    const ours = new Set(tables.flatMap(({ members }) => members.get(field) ?? []));
    const strangers = theirs.filter((member) => !ours.has(member));
    // Where none is known the names are those of something else.
    if (strangers.length === 0 || strangers.length === theirs.length) continue;
    try {
      const { expression } = aggregated(source, targets.table, targets.expression, `benchmark “${targets.name}”`);
      if (expression.kind !== 'aggregate') continue;
      const query = { table: targets.table, aggregates: [expression], grain: null, span: null };
      const [{ count, fields, values }, all] = await Promise.all([
        source.groups({ ...query, by: [column], where: [{ kind: 'is', field: column, members: strangers }] }),
        source.groups({ ...query, by: [], where: [] }),
      ]);
      const { of, decimals } = values[0]!;
      const amounts = Array.from({ length: count }, (_, i) => ({
        name: fields[0]!.members[fields[0]!.codes[i]!]!,
        amount: of[i]! / power(decimals ?? 0),
      })).filter(({ amount }) => amount !== 0 && !Number.isNaN(amount));
      if (amounts.length === 0) continue;
      amounts.sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount));
      const sum = amounts.reduce((all, { amount }) => all + amount, 0);
      const { of: whole, decimals: scale } = all.values[0]!;
      const amount = amountOf(targets.name, sum, (whole[0] ?? NaN) / power(scale ?? 0));
      if (amount.share > (most?.share ?? -1)) most = amount;
      parts.push(
        `${sum.toLocaleString('en', { maximumFractionDigits: 2 })} for ${someOf(amounts.map(({ name }) => `“${name}”`))} of ${column}`,
      );
    } catch (error) {
      if (!isProblem(error)) throw error;
    }
  }
  return parts.length === 0
    ? null
    : {
        severity: 'warning',
        about: { kind: 'table', id: targets.table },
        text: `“${targets.table}” has targets that no row of “${measured[0]!}” is held against: ${listed(parts, 'and')}`,
        amount: most,
        view: 'match',
      };
}
