'use client';

import type { CurrencyConversion, Measure } from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { useAnswer } from '@/store/useAnswer';
import { Field, INPUT } from '@/ui/Field';
import { WrittenText } from '@/fields/WrittenText';

interface Props {
  readonly kind: 'measure' | 'benchmark';
  /** The measure, or the benchmark from a table of targets. */
  readonly of: Pick<Measure, 'name' | 'table' | 'expression' | 'currency'>;
}

/** How amounts in several currencies become one before they are added up; nothing where they are all in one. */
export function CurrencyFields({ kind, of }: Props) {
  const { name, table, expression, currency } = of;
  const tables = useReport((state) => state.report!.tables);
  const { value: offers } = useAnswer([table, expression, currency, tables], (now) => desk().conversionOffers(now, of));
  if (!offers || (offers.columns.length === 0 && !currency)) return null;
  const put = (next: CurrencyConversion | null, place?: string) => {
    const rates = offers.tables.find(({ id }) => id === next?.rates)?.rates;
    void edit(
      { edit: 'convert-amounts', amounts: [{ kind, name, currency: next }], ...(rates ? { rates } : {}) },
      place,
    );
  };
  const choices = offers.tables.map(({ id }) => id);
  const rates = currency && !choices.includes(currency.rates) ? [currency.rates, ...choices] : choices;
  return (
    <fieldset className="border-t border-hairline pt-3">
      <legend className="sr-only">Currency conversion</legend>
      <div className="grid grid-cols-2 gap-2">
        <Field label="Amounts in several currencies">
          <select
            className={INPUT}
            value={currency ? 'converted' : 'plain'}
            disabled={!currency && !offers.offer}
            onChange={(event) => put(event.target.value === 'converted' ? offers.offer!.currency : null)}
          >
            <option value="plain">not converted</option>
            <option value="converted">converted</option>
          </select>
        </Field>
        {currency && (
          <Field label="To">
            <WrittenText
              className={INPUT}
              maxLength={3}
              value={currency.to}
              allows={(code) => /^[A-Za-z]{3}$/.test(code)}
              onWrite={(code, session) => put({ ...currency, to: code.toUpperCase() }, session)}
            />
          </Field>
        )}
        {currency && (
          <>
            <Field label="Currency of each row">
              <select
                className={INPUT}
                value={currency.column}
                onChange={(event) => put({ ...currency, column: event.target.value })}
              >
                {offers.columns.map((column) => (
                  <option key={column}>{column}</option>
                ))}
              </select>
            </Field>
            <Field label="Table of rates">
              <select
                className={INPUT}
                value={currency.rates}
                onChange={(event) => put({ ...currency, rates: event.target.value })}
              >
                {rates.map((id) => (
                  <option key={id}>{id}</option>
                ))}
              </select>
            </Field>
            <Field label="By the rates of">
              <select
                className={INPUT}
                value={currency.at === 'own' ? 'own' : 'fixed'}
                onChange={(event) =>
                  put({ ...currency, at: event.target.value === 'own' ? 'own' : (offers.latest ?? '2025') })
                }
              >
                <option value="own">each row’s own period</option>
                <option value="fixed">one period for all rows</option>
              </select>
            </Field>
            {currency.at !== 'own' && (
              <Field label="Day, month or fiscal year">
                <WrittenText
                  className={INPUT}
                  maxLength={10}
                  value={currency.at}
                  allows={(at) => /^\d{4}(?:-\d{2}(?:-\d{2})?)?$/.test(at)}
                  onWrite={(at, session) => put({ ...currency, at }, session)}
                />
              </Field>
            )}
          </>
        )}
      </div>
      {currency && offers.numbers.length > 1 && (
        <div role="group" aria-label="Columns that are amounts" className="mt-2 flex flex-wrap gap-x-3 gap-y-1">
          <span className="text-xs text-quiet">Amounts are</span>
          {offers.numbers.map((column) => {
            const amounts = currency.amounts ?? offers.numbers;
            const isAmount = amounts.includes(column);
            return (
              <label key={column} className="flex items-center gap-1 text-[13px]">
                <input
                  type="checkbox"
                  checked={isAmount}
                  disabled={isAmount && amounts.length === 1}
                  onChange={() =>
                    put({
                      ...currency,
                      amounts: isAmount ? amounts.filter((one) => one !== column) : [...amounts, column],
                    })
                  }
                />
                {column}
              </label>
            );
          })}
        </div>
      )}
      {!currency && !offers.offer && (
        <p className="mt-1 text-xs text-quiet">
          To convert them, add a table of rates at the Data step, with the columns currency, month and rate.
        </p>
      )}
    </fieldset>
  );
}
