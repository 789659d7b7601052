import { openedSource } from '../query';
import { vocabularyOf, type Report } from '../report';
import { columnarSource, sqlSource, togetherSource, type TableInSql } from '../source';
import type { FactsOf, Table } from '../table';
import type { OpenReport } from './opened';

/**
 * A report some of whose tables are in databases, ready to answer.
 * @param elsewhere those tables, by their ids
 */
export async function openedOver(
  report: Report,
  tables: ReadonlyMap<string, Table>,
  elsewhere: ReadonlyMap<string, TableInSql>,
): Promise<OpenReport> {
  const here = columnarSource(tables, report.calendar);
  const there = sqlSource(elsewhere, report.calendar);
  const known = await there.facts();
  const factsAt: FactsOf = (id) => known.get(id) ?? here.factsAt(id);
  return {
    report,
    tables,
    vocabulary: vocabularyOf(report, factsAt),
    source: openedSource(togetherSource(here, there, new Set(elsewhere.keys())), factsAt),
  };
}
