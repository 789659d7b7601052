import type { Vocabulary } from '../brief';
import { writePeriod } from '../calendar';
import type { Page, Report } from '../report';
import { asOfDay, type FactsOf } from '../table';
import { offeredPeriods, type OfferedPeriod } from './periods';
import { switchId } from './reader';

/** What a reader of a page can choose from; periods as a brief says them. */
export interface ReaderOffers {
  readonly fields: readonly {
    readonly field: string;
    readonly choice: 'one' | 'several';
    readonly members: readonly string[];
  }[];
  readonly periods: readonly (OfferedPeriod & { readonly text: string })[];
  readonly switches: readonly { readonly id: string; readonly name: string; readonly on: boolean }[];
}

export function readerOffers(report: Report, page: Page, facts: FactsOf, vocabulary: Vocabulary): ReaderOffers {
  const span = report.measures.map(({ table }) => facts(table)).find((table) => table?.date)?.span;
  const periods = page.period && span ? offeredPeriods(report.calendar, span, asOfDay(report.calendar.asOf, span)) : [];
  return {
    fields: page.filters.map(({ field, choice }) => ({ field, choice, members: vocabulary.members(field) ?? [] })),
    periods: periods.map((period) => ({ ...period, text: writePeriod(period.words) })),
    switches: report.highlights.flatMap(({ name, rules }) =>
      rules.flatMap((rule) =>
        rule.reader ? [{ id: switchId(name, rule.id), name: `${name}: ${rule.id}`, on: rule.on }] : [],
      ),
    ),
  };
}
