import type { Benchmark, Measure } from '@bold-ruler/core/report';

export const AIMS = { raise: 'more is better', cut: 'less is better', hold: 'near is better' } as const;

export const BENCHMARK_KINDS = {
  expression: 'an expression over the same rows',
  table: 'targets from a table',
  fixed: 'a fixed number',
  scaled: 'another benchmark, more or less',
  period: 'the same measure in another period',
  peers: 'the members shown',
  forecast: 'a forecast',
} as const;

/** A measure in a few words. */
export const measureWords = ({ expression }: Measure) => expression;

const percent = (share: number) =>
  `${share > 0 ? '+' : share < 0 ? '−' : ''}${Math.abs(Math.round(share * 1000) / 10)}%`;

/** A benchmark in a few words. */
export function benchmarkWords(benchmark: Benchmark): string {
  switch (benchmark.kind) {
    case 'expression':
      return benchmark.expression;
    case 'table': {
      const spread = benchmark.spread === 'even' ? '' : `, spread by ${benchmark.spread}`;
      const split = benchmark.split === 'none' ? '' : `, split ${benchmark.split}`;
      return `${benchmark.expression} of ${benchmark.table}${spread}${split}`;
    }
    case 'fixed': {
      const per = benchmark.per.length === 0 ? 'for all together' : `for each ${benchmark.per.join(' and ')}`;
      return `${benchmark.value.toLocaleString('en')} ${per}`;
    }
    case 'scaled':
      return `${benchmark.of === 'measure' ? 'the measure itself' : benchmark.of} ${percent(benchmark.by)}`;
    case 'period': {
      if (benchmark.range) return `${benchmark.range.from} to ${benchmark.range.to}`;
      const back = benchmark.back ?? { periods: 1 };
      const n = 'years' in back ? back.years : back.periods;
      const unit = 'years' in back ? 'year' : benchmark.activeDays ? 'active day' : 'period';
      const align =
        (benchmark.align ?? 'date') === 'date' ? '' : benchmark.align === 'weekday' ? ', by weekday' : ', by workdays';
      return `${n === 1 ? `one ${unit}` : `${n} ${unit}s`} back, like for like${align}`;
    }
    case 'peers': {
      const which =
        benchmark.statistic === 'percentile' ? `${benchmark.percentile ?? 50}th percentile` : benchmark.statistic;
      return `the ${which} of the members shown`;
    }
    case 'forecast': {
      const growth = benchmark.growth ? `, ${percent(benchmark.growth)}` : '';
      const season = benchmark.method === 'smoothing' ? `, ${benchmark.season ?? 'additive'} season` : '';
      return `${benchmark.method.replace('last k', `last ${benchmark.k ?? 3}`)}${growth}${season}`;
    }
  }
}
