'use client';

import { useState } from 'react';
import { listed } from '@bold-ruler/core/problem';
import type { SeveralCurrencies } from '@bold-ruler/core/desk';
import { Button } from '@/ui/Button';
import { INPUT } from '@/ui/Field';
import { edit } from '@/store/edit';
import { Item, Stands } from './SettleItem';

/** What the level checks call sums over several currencies. */
export const CURRENCIES = 'currencies-added';

/** Amounts in several currencies: they are converted before they are added up, where there are rates. */
export function Currencies({
  tableId,
  several: { by, codes, amounts },
}: {
  tableId: string;
  several: SeveralCurrencies;
}) {
  const [to, setTo] = useState('');
  const fits = amounts.flatMap(({ kind, name, currency }) => (currency ? [{ kind, name, currency }] : []));
  const [first] = fits;
  const rates = amounts.find((one) => one.rates)?.rates;
  const isGuess = amounts.some((one) => one.isGuess);
  const named = listed(
    amounts.map(({ name }) => `“${name}”`),
    'and',
  );
  const target = isGuess ? to : (first?.currency.to ?? '');
  const convert = () =>
    void edit({
      edit: 'convert-amounts',
      amounts: fits.map((one) => ({ ...one, currency: { ...one.currency, to: target } })),
      ...(rates ? { rates } : {}),
    });
  return (
    <Item
      actions={
        <>
          {first && isGuess && (
            <span className="w-24">
              <input
                aria-label={`Currency that the rates of “${first.currency.rates}” are to`}
                placeholder="EUR"
                className={INPUT}
                maxLength={3}
                value={to}
                onChange={(event) => setTo(event.target.value.toUpperCase())}
              />
            </span>
          )}
          {first && (
            <Button small disabled={!/^[A-Z]{3}$/.test(target)} onClick={convert}>
              Convert {target && `to ${target} `}by “{first.currency.rates}”
            </Button>
          )}
          <Stands
            code={CURRENCIES}
            tableId={tableId}
            reason="amounts of several currencies may be added up"
            saying="leave several currencies as they are"
          >
            Leave as they are
          </Stands>
        </>
      }
    >
      {by.isBeside
        ? `Cells of “${by.column}” have ${listed(codes, 'and')} beside the number.`
        : `Amounts are in ${listed(codes, 'and')}, by “${by.column}”.`}{' '}
      {named} {amounts.length === 1 ? 'adds' : 'add'} them up as if they were one currency.
      {by.isBeside && ' To convert them, put the currency into a column of its own.'}
      {!by.isBeside && !first && ' To convert them, add a table of rates with the columns currency, month and rate.'}
      {first && isGuess && ` Which currency are the rates of “${first.currency.rates}” to?`}
    </Item>
  );
}
