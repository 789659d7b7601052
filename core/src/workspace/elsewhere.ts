import { openedSource, type Source, type TableFacts } from '../query';
import { vocabularyOf, type Report } from '../report';
import { columnarSource, togetherSource, type ScanHelper } from '../source';
import type { FactsOf, Table } from '../table';
import type { OpenReport } from './opened';
import { tablesAs } from './described';

/** Tables that are elsewhere: what answers for them, and what is known of them. */
export interface Elsewhere {
  readonly source: Source;
  readonly facts: ReadonlyMap<string, TableFacts>;
}

/**
 * A report some of whose tables are in databases, ready to answer.
 * @param read its other tables as they were read
 * @throws {Problem} as `workspaceFor` does
 */
export function workspaceOver(
  report: Report,
  read: ReadonlyMap<string, Table>,
  elsewhere: Elsewhere,
  helpers?: readonly ScanHelper[],
): OpenReport {
  const tables = tablesAs(report, read);
  const here = columnarSource(tables, report.calendar, helpers);
  const factsAt: FactsOf = (id) => elsewhere.facts.get(id) ?? here.factsAt(id);
  return {
    report,
    tables,
    vocabulary: vocabularyOf(report, factsAt),
    source: openedSource(togetherSource(here, elsewhere.source, new Set(elsewhere.facts.keys())), factsAt),
  };
}
