import { writeBrief, type Brief, type Vocabulary } from '../../brief';
import { writtenDay } from '../../calendar';
import type { Cells } from '../../query';
import { conversionOffers, type Measure } from '../../report';
import { matchedAt, ofFigures, type LevelCheck, type Said, type Seen } from '../level';

/** What answering a figure has noticed, with the reason why it matters. */
const WHY: Readonly<Record<string, string>> = {
  'part-period-against-whole': 'a part of a period held against the whole of it always looks short',
  'filter-not-followed':
    'a part of the sales has no target of its own, so nobody can tell whether it is ahead or behind',
  'partly-covered': 'what is held against a part of it always looks long',
  'members-without-target': 'what has no target lifts the whole above what it is held against',
  'periods-out-of-step': 'quarters of one calendar in those of another belong to two of them',
  'per-which-member': 'a number for each member is none for all of them until they are counted',
  'tie-at-the-edge': 'which of several equal members are shown is an accident of their order',
  'fewer-than-asked': 'a reader may look for those that are missing',
  'not-exact': 'the last digits of what is shown are not those of the rows',
  'rows-without-date': 'rows without a date are in no period, so they are missing from the numbers',
  'history-too-short': 'a forecast from too few steps says little',
  'more-than-drawn': 'a reader may look for those that are not shown by themselves',
  'left-away': 'a reader may miss what is not there',
  'note-adrift': 'what was written for a reader stands nowhere',
  'currencies-added': 'a dollar and a euro together are neither two dollars nor two euros',
  'rate-missing': 'what cannot be converted is in no sum, so what it belongs to is blank',
  backtest: 'what has missed before will miss again: its line promises more than it can keep',
};

/** What is decided at the Data step, with the rows of the measure. */
const OF_ROWS: ReadonlySet<string> = new Set(['rows-without-date', 'currencies-added', 'rate-missing']);

/** One check for each thing an answer may notice of itself. */
export const answers: readonly LevelCheck[] = Object.entries(WHY).map(([code, why]) =>
  ofFigures(code, why, ({ rows }, { id }, seen) =>
    rows.checks
      .filter((check) => check.code === code && !(code === 'backtest' && check.severity === 'note'))
      // Where members stand in the figure, those without a target are told there.
      .filter(() => code !== 'members-without-target' || rows.fields.length === 0 || rows.steps !== null)
      .map(({ severity, text }) => ({
        severity,
        text,
        ...(code === 'part-period-against-whole' ? partOfPeriod(id, rows, seen.vocabulary) : {}),
        ...(code === 'rows-without-date' ? { fact: rows.measure.table, view: 'left out' as const } : {}),
        ...(code === 'members-without-target' ? matchedAt(rows.benchmark) : {}),
        ...(OF_ROWS.has(code) ? { table: rows.measure.table } : {}),
        ...(code === 'currencies-added' ? converting(rows.measure, seen) : {}),
      })),
  ),
);

/** Where a table of rates has all that is needed, one press converts the measure’s amounts. */
function converting(measure: Measure, { report, source }: Seen): Partial<Said> {
  const { currency, rates, isGuess } = conversionOffers(report, source.facts, measure).offer ?? {};
  if (!currency || isGuess || measure.currency) return {};
  return {
    repair: {
      name: `Convert to ${currency.to}, by ${currency.rates}`,
      edit: {
        edit: 'convert-amounts',
        amounts: [{ kind: 'measure', name: measure.name, currency }],
        ...(rates ? { rates } : {}),
      },
    },
  };
}

/** Where it is known what is due by now, gaps are judged by that, and a reader only has to know; else they are misleading. */
function partOfPeriod(id: string, { brief, due, period, asOf }: Cells, vocabulary: Vocabulary): Partial<Said> {
  const told: Partial<Said> = due
    ? {
        fact: 'judged by what is due by now',
        severity: 'note',
        text: `its period runs to ${writtenDay(period.to)} and actuals only to ${writtenDay(asOf)}: each is judged by what is due by then`,
      }
    : {};
  if (brief.period.kind !== 'fiscal') return told;
  const next: Brief = { ...brief, period: { ...brief.period, toDate: true } };
  return {
    ...told,
    repair: {
      name: 'Compare up to the as-of date only',
      edit: { edit: 'set-brief', figure: id, brief: writeBrief(next, vocabulary) },
    },
  };
}
