'use client';

import type { Report } from '@bold-ruler/core/report';
import { ExpressionProblem } from '@/fields/ExpressionProblem';
import { INPUT } from '@/ui/Field';
import { count } from '@/ui/words';
import { useValue } from './useValue';

interface Props {
  /** The report as it would be. */
  readonly report: Report;
  readonly measure: string;
  readonly against: string | null;
  readonly fields: readonly string[];
  readonly field: string | null;
  readonly onField: (field: string | null) => void;
  /** Takes the measure’s expression as it is put right. */
  readonly onExpression?: (text: string) => void;
}

/** What a measure or benchmark gives now, over everything and by a field, while it is written; or what is wrong with it. */
export function LiveResult({ report, measure, against, fields, field, onField, onExpression }: Props) {
  const answer = useValue(report, { measure, against, field });
  const expression = report.measures.find(({ name }) => name === measure)?.expression ?? '';
  return (
    <section aria-label="Value now" className="border-t border-hairline pt-3">
      <div className="mb-2 flex items-center gap-2">
        <h3 className="grow text-xs text-quiet">Value now</h3>
        <select
          aria-label="By"
          className={`${INPUT} max-w-40`}
          value={field ?? ''}
          onChange={(event) => onField(event.target.value || null)}
        >
          <option value="">over everything</option>
          {fields.map((name) => (
            <option key={name} value={name}>
              by {name}
            </option>
          ))}
        </select>
      </div>
      {!answer && (
        <p role="status" className="border-b border-transparent py-1 text-[13px] text-quiet">
          computing …
        </p>
      )}
      {answer?.problem && (
        <ExpressionProblem
          problem={answer.problem}
          text={against === null ? expression : null}
          {...(onExpression ? { onFix: onExpression } : {})}
        />
      )}
      {answer?.value && (
        <>
          <table className="w-full text-[13px]">
            <tbody>
              {answer.value.rows.map(({ name, text }) => (
                <tr key={name} className="border-b border-hairline">
                  <th scope="row" className="max-w-40 truncate py-1 text-left font-normal">
                    {name}
                  </th>
                  <td className="py-1 text-right font-figure">{text}</td>
                </tr>
              ))}
              <tr>
                <th scope="row" className="py-1 text-left font-semibold">
                  {answer.value.more > 0
                    ? `all, with ${count.format(answer.value.more)} more`
                    : (answer.value.period ?? 'over everything')}
                </th>
                <td className="py-1 text-right font-figure font-semibold" title={answer.value.exact}>
                  {answer.value.whole}
                </td>
              </tr>
            </tbody>
          </table>
          {answer.value.notes.slice(0, 3).map((note) => (
            <p key={note} className="mt-1 text-xs text-quiet">
              {note}
            </p>
          ))}
        </>
      )}
    </section>
  );
}
