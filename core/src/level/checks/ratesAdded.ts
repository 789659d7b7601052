import { aggregatesOf, readExpression, type Aggregate } from '../../measure';
import { isProblem } from '../../problem';
import { isRate } from '../../report';
import type { SeveralEdit } from '../../edit';
import type { About, LevelCheck, Said } from '../level';

/** Sums of a column that looks like a rate, the last in the text first. */
function sumsOfRates(expression: string): { readonly sum: Aggregate; readonly column: string }[] {
  try {
    return aggregatesOf(readExpression(expression))
      .flatMap((sum) =>
        sum.fn === 'sum' && sum.of?.kind === 'column' && isRate(sum.of.name) ? [{ sum, column: sum.of.name }] : [],
      )
      .sort((a, b) => b.sum.at[0] - a.sum.at[0]);
  } catch (error) {
    // What cannot be read is told by the figures that use it.
    if (!isProblem(error)) throw error;
    return [];
  }
}

/** Measures and benchmarks that add up what does not add up. */
export const ratesAdded: LevelCheck = {
  code: 'rates-added-up',
  why: 'rates, scores and prices of several rows have no sum: twice as many rows seem twice as good',
  run: ({ report }) => [
    ...report.measures.flatMap(({ name, expression }) =>
      addedUp({ kind: 'measure', id: name }, expression, (averaged) => ({
        edit: 'change-measure',
        measure: name,
        part: { expression: averaged },
      })),
    ),
    ...report.benchmarks.flatMap((benchmark) =>
      benchmark.kind === 'table' || benchmark.kind === 'expression'
        ? addedUp({ kind: 'benchmark', id: benchmark.name }, benchmark.expression, (averaged) => ({
            edit: 'change-benchmark',
            benchmark: { ...benchmark, expression: averaged },
          }))
        : [],
    ),
  ],
};

/** What is told of an expression that adds rates up, with the edit that averages them. */
function addedUp(about: About, expression: string, averaging: (averaged: string) => SeveralEdit): Said[] {
  const found = sumsOfRates(expression);
  if (found.length === 0) return [];
  const averaged = found.reduce(
    (text, { sum: { at } }) => `${text.slice(0, at[0])}avg${text.slice(at[0] + 'sum'.length)}`,
    expression,
  );
  return [
    {
      severity: 'warning',
      about,
      text: `“${about.id}” adds up “${found[0]!.column}”, which looks like a rate`,
      repair: { name: 'Take its average', edit: averaging(averaged) },
    },
  ];
}
