'use client';

import { useState } from 'react';
import { hasOwnMonths, type Alignment } from '@bold-ruler/core/calendar';
import type { Benchmark, Report } from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { useAnswer } from '@/store/useAnswer';
import { Button } from '@/ui/Button';
import { AmountField } from '@/fields/AmountField';
import { Field, INPUT } from '@/ui/Field';
import { ExpressionField } from '@/fields/ExpressionField';
import { ExpressionProblem } from '@/fields/ExpressionProblem';
import { CurrencyFields } from './CurrencyFields';
import { LiveResult } from './LiveResult';
import { NameField } from '@/fields/NameField';
import { UsedIn } from './UsedIn';
import { BENCHMARK_KINDS } from './words';
import { useKept } from '@/fields/useKept';

type Kind = Benchmark['kind'];
const GRAINS = ['day', 'week', 'month', 'quarter', 'year'] as const;

/** A benchmark of a kind, as it begins. */
function begun(name: string, kind: Kind, report: Report): Benchmark {
  const measured = report.measures[0];
  switch (kind) {
    case 'expression':
      return { name, kind, expression: measured?.expression ?? 'count(*)' };
    case 'table': {
      const table = report.tables.find(({ id }) => id !== measured?.table) ?? report.tables[0];
      return { name, kind, table: table?.id ?? '', expression: 'count(*)', spread: 'even', split: 'none' };
    }
    case 'fixed':
      return { name, kind, value: 100, per: ['member'] };
    case 'scaled':
      return { name, kind, of: 'measure', by: 0.1 };
    case 'period':
      return { name, kind, back: { years: 1 } };
    case 'peers':
      return { name, kind, statistic: 'mean' };
    case 'forecast':
      return { name, kind, method: 'same period last year' };
  }
}

interface Props {
  readonly benchmark: Benchmark;
  readonly onName: (name: string | null) => void;
}

/** One benchmark: its kind, what that kind needs, what it gives under a measure, where it is used. */
export function BenchmarkEditor({ benchmark, onName }: Props) {
  const report = useReport((state) => state.report);
  const [measure, setMeasure] = useState(report!.measures[0]?.name ?? null);
  const [field, setField] = useState<string | null>(null);
  const table = report!.measures.find(({ name }) => name === measure)?.table;
  const fields = useAnswer([table], table === undefined ? null : (now) => desk().fieldsOf(now, table)).value ?? [];
  const put = (next: Benchmark, place?: string) => edit({ edit: 'change-benchmark', benchmark: next }, place);
  return (
    <div className="space-y-3">
      <NameField
        kind="benchmark"
        name={benchmark.name}
        taken={report!.benchmarks.map(({ name }) => name)}
        onRenamed={onName}
      />
      <Field label="It is">
        <select
          className={INPUT}
          value={benchmark.kind}
          onChange={(event) => put(begun(benchmark.name, event.target.value as Kind, report!))}
        >
          {Object.entries(BENCHMARK_KINDS).map(([kind, words]) => (
            <option key={kind} value={kind}>
              {words}
            </option>
          ))}
        </select>
      </Field>
      <KindFields
        key={`${benchmark.name} ${benchmark.kind}`}
        benchmark={benchmark}
        measured={table ?? ''}
        fields={fields}
        put={put}
      />
      {measure !== null && (
        <>
          {report!.measures.length > 1 && (
            <Field label="Held against it">
              <select className={INPUT} value={measure} onChange={(event) => setMeasure(event.target.value)}>
                {report!.measures.map(({ name }) => (
                  <option key={name}>{name}</option>
                ))}
              </select>
            </Field>
          )}
          <LiveResult
            report={report!}
            measure={measure}
            against={benchmark.name}
            fields={fields}
            field={field !== null && fields.includes(field) ? field : null}
            onField={setField}
          />
        </>
      )}
      <UsedIn report={report!} kind="benchmark" name={benchmark.name} onGone={() => onName(null)} />
    </div>
  );
}

interface KindProps {
  readonly benchmark: Benchmark;
  readonly measured: string;
  /** Fields whose members a number may belong to. */
  readonly fields: readonly string[];
  readonly put: (next: Benchmark, place?: string) => Promise<unknown>;
}

function KindFields({ benchmark, measured, fields, put }: KindProps) {
  const report = useReport((state) => state.report)!;
  switch (benchmark.kind) {
    case 'expression':
      return (
        <Written
          place={`expression of benchmark ${benchmark.name}`}
          label="Expression over the measure’s rows"
          tableId={benchmark.table ?? measured}
          text={benchmark.expression}
          onKeep={(expression, place) => put({ ...benchmark, expression }, place)}
        />
      );
    case 'table':
      return (
        <>
          <Choice
            label="From table"
            value={benchmark.table}
            options={report.tables.map(({ id }) => [id, id])}
            onChoose={(table) => put({ ...benchmark, table })}
          />
          <Written
            place={`expression of benchmark ${benchmark.name}`}
            label="Expression over its rows"
            tableId={benchmark.table}
            text={benchmark.expression}
            onKeep={(expression, place) => put({ ...benchmark, expression }, place)}
          />
          <div className="grid grid-cols-2 gap-2">
            <Choice
              label="Over time"
              value={benchmark.spread}
              options={[
                ['even', 'evenly by days'],
                ['workdays', 'by working days'],
                ['last year', 'as last year’s days'],
                ['none', 'not spread'],
              ]}
              onChoose={(spread) => put({ ...benchmark, spread: spread as typeof benchmark.spread })}
            />
            <Choice
              label="Over members it lacks"
              value={benchmark.split}
              options={[
                ['none', 'not split'],
                ['even', 'evenly'],
                ['last year', 'as last year'],
              ]}
              onChoose={(split) => put({ ...benchmark, split: split as typeof benchmark.split })}
            />
          </div>
          <CurrencyFields kind="benchmark" of={benchmark} />
        </>
      );
    case 'fixed':
      return (
        <>
          <AmountField
            place={`number of ${benchmark.name}`}
            label="Number"
            value={benchmark.value}
            onKeep={(value) => put({ ...benchmark, value: value! })}
          />
          <div className="grid grid-cols-2 gap-2">
            <Choice
              label="For each"
              value={whoOf(benchmark.per)}
              options={[
                ['', 'all members together'],
                ['member', 'member of the figure'],
                ...fields.map((field) => [field, field] as [string, string]),
              ]}
              onChoose={(who) => put({ ...benchmark, per: [...(who ? [who] : []), ...benchmark.per.filter(isGrain)] })}
            />
            <Choice
              label="and for each"
              value={benchmark.per.find(isGrain) ?? ''}
              options={[['', 'the whole period'], ...GRAINS.map((grain) => [grain, grain] as [string, string])]}
              onChoose={(grain) =>
                put({
                  ...benchmark,
                  per: [...benchmark.per.filter((one) => !isGrain(one)), ...(grain ? [grain] : [])],
                })
              }
            />
          </div>
        </>
      );
    case 'scaled':
      return (
        <div className="grid grid-cols-2 gap-2">
          <Choice
            label="Of"
            value={benchmark.of}
            options={[
              ['measure', 'the measure itself'],
              ...report.benchmarks
                .filter((one) => !restsOn(report, one, benchmark.name))
                .map(({ name }) => [name, name] as [string, string]),
            ]}
            onChoose={(of) => put({ ...benchmark, of })}
          />
          <AmountField
            place={`more or less, in % of ${benchmark.name}`}
            label="More or less, in %"
            value={Math.round(benchmark.by * 1e6) / 1e4}
            onKeep={(percent = 0) => put({ ...benchmark, by: percent / 100 })}
          />
        </div>
      );
    case 'period': {
      const back = benchmark.back ?? { periods: 1 };
      const inYears = 'years' in back;
      if (benchmark.range) {
        return (
          <div className="grid grid-cols-2 gap-2">
            <Choice
              label="Which"
              value="range"
              options={PERIODS}
              onChoose={(unit) => put(periodOf(benchmark.name, unit, 1))}
            />
            <span />
            {(['from', 'to'] as const).map((end) => (
              <Field key={end} label={end === 'from' ? 'From' : 'To'}>
                <input
                  type="date"
                  className={INPUT}
                  value={benchmark.range![end]}
                  onChange={(event) =>
                    event.target.value &&
                    put({ ...benchmark, range: { ...benchmark.range!, [end]: event.target.value } })
                  }
                />
              </Field>
            ))}
          </div>
        );
      }
      return (
        <div className="grid grid-cols-2 gap-2">
          <Choice
            label="Which"
            value={inYears ? 'years' : 'periods'}
            options={PERIODS}
            onChoose={(unit) => put(periodOf(benchmark.name, unit, inYears ? back.years : back.periods))}
          />
          <AmountField
            place={`how many of ${benchmark.name}`}
            label="How many"
            value={inYears ? back.years : back.periods}
            onKeep={(value = 0) => {
              const n = Math.min(100, Math.max(1, Math.round(value)));
              put({ ...benchmark, back: inYears ? { years: n } : { periods: n } });
            }}
          />
          <Choice
            label="Days are matched by"
            value={benchmark.align ?? 'date'}
            options={[
              ['date', hasOwnMonths(report.calendar) ? 'day of the fiscal year' : 'date'],
              ...(inYears ? [['weekday', 'weekday: 52 weeks a year'] as const] : []),
              ['workday', 'workdays gone by'],
            ]}
            onChoose={(align) => put({ ...benchmark, align: align as Alignment })}
          />
          {!inYears && (
            <Choice
              label="A single day looks back to"
              value={benchmark.activeDays ? 'active' : 'any'}
              options={[
                ['any', 'the day before'],
                ['active', 'the last day with rows'],
              ]}
              onChoose={(which) => {
                const { activeDays: _, ...rest } = benchmark;
                put(which === 'active' ? { ...rest, activeDays: true } : rest);
              }}
            />
          )}
        </div>
      );
    }
    case 'peers':
      return (
        <div className="grid grid-cols-2 gap-2">
          <Choice
            label="Their"
            value={benchmark.statistic}
            options={['mean', 'median', 'lowest', 'highest', 'percentile'].map((one) => [one, one])}
            onChoose={(statistic) => put({ ...benchmark, statistic: statistic as typeof benchmark.statistic })}
          />
          {benchmark.statistic === 'percentile' && (
            <AmountField
              place={`percentile of ${benchmark.name}`}
              label="Percentile"
              value={benchmark.percentile ?? 50}
              onKeep={(value = 0) => put({ ...benchmark, percentile: Math.min(100, Math.max(0, value)) })}
            />
          )}
        </div>
      );
    case 'forecast':
      return (
        <div className="grid grid-cols-2 gap-2">
          <Choice
            label="Method"
            value={benchmark.method}
            options={[
              ['same period last year', 'same period last year'],
              ['seasonal naive', 'the last season again'],
              ['linear', 'straight line'],
              ['average of last k', 'mean of the last steps'],
              ['run rate', 'as the period has begun'],
              ['smoothing', 'smoothing with season'],
            ]}
            onChoose={(method) => put({ ...benchmark, method: method as typeof benchmark.method })}
          />
          {benchmark.method === 'same period last year' && (
            <AmountField
              place={`growth in % of ${benchmark.name}`}
              label="Growth in %"
              value={Math.round((benchmark.growth ?? 0) * 1e6) / 1e4}
              onKeep={(percent = 0) => put({ ...benchmark, growth: percent / 100 })}
            />
          )}
          {benchmark.method === 'average of last k' && (
            <AmountField
              place={`steps of ${benchmark.name}`}
              label="Steps"
              value={benchmark.k ?? 3}
              onKeep={(value = 0) => put({ ...benchmark, k: Math.max(1, Math.round(value)) })}
            />
          )}
          {benchmark.method === 'smoothing' && (
            <Choice
              label="Season"
              value={benchmark.season ?? 'additive'}
              options={[
                ['additive', 'adds'],
                ['multiplicative', 'multiplies'],
              ]}
              onChoose={(season) => put({ ...benchmark, season: season as 'additive' | 'multiplicative' })}
            />
          )}
        </div>
      );
  }
}

/** True when a benchmark is another one, or a part of it, in the end. */
function restsOn(report: Report, one: Benchmark, name: string): boolean {
  if (one.name === name) return true;
  const next = one.kind === 'scaled' ? report.benchmarks.find((other) => other.name === one.of) : undefined;
  return next !== undefined && restsOn(report, next, name);
}

const PERIODS = [
  ['years', 'some years back'],
  ['periods', 'some periods back'],
  ['range', 'always the same days'],
] as const;

/** Another period of that kind; the range begins as the calendar year before this one. */
function periodOf(name: string, unit: string, n: number): Benchmark & { kind: 'period' } {
  if (unit === 'years') return { name, kind: 'period', back: { years: n } };
  if (unit === 'periods') return { name, kind: 'period', back: { periods: n } };
  const year = new Date().getFullYear() - 1;
  return { name, kind: 'period', range: { from: `${year}-01-01`, to: `${year}-12-31` } };
}

function Choice({
  label,
  value,
  options,
  onChoose,
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChoose: (value: string) => void;
}) {
  return (
    <Field label={label}>
      <select className={INPUT} value={value} onChange={(event) => onChoose(event.target.value)}>
        {options.map(([id, words]) => (
          <option key={id} value={id}>
            {words}
          </option>
        ))}
      </select>
    </Field>
  );
}

const isGrain = (word: string): boolean => (GRAINS as readonly string[]).includes(word);

/** Whom a number is for: each member of the figure, each of a field, or all together. */
const whoOf = (per: readonly string[]): string => per.find((word) => !isGrain(word)) ?? '';

/** An expression that is kept as it is typed, whenever it can be read. */
function Written({
  place,
  label,
  tableId,
  text,
  onKeep,
}: {
  place: string;
  label: string;
  tableId: string;
  text: string;
  onKeep: (text: string, place: string) => Promise<unknown>;
}) {
  const kept = useKept(place, text, {
    ask: (now, written) => desk().readable(now, tableId, written),
    take: onKeep,
  });
  return (
    <>
      <ExpressionField
        label={label}
        tableId={tableId}
        value={kept.text}
        invalid={kept.problem !== null}
        onChange={kept.setText}
        onKeep={() => void kept.settle()}
        onLeave={() => void kept.settle()}
      />
      {kept.isStuck && (
        <Button
          small
          className="float-right mt-1"
          title="The expression that figures use"
          onClick={() => kept.setText(null)}
        >
          As it was
        </Button>
      )}
      {kept.problem && <ExpressionProblem problem={kept.problem} text={kept.text} onFix={kept.setText} />}
    </>
  );
}
