'use client';

import { useEffect, useState } from 'react';
import { writeNumber, writingFor } from '@bold-ruler/core/format';
import type { EditData } from '@bold-ruler/core/edit';
import type { Measure, NumberFormat, Report } from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { useAnswer } from '@/store/useAnswer';
import { Button } from '@/ui/Button';
import { AmountField } from '@/fields/AmountField';
import { Field, INPUT } from '@/ui/Field';
import { ExpressionField } from '@/fields/ExpressionField';
import { CurrencyFields } from './CurrencyFields';
import { LiveResult } from './LiveResult';
import { NameField } from '@/fields/NameField';
import { UsedIn } from './UsedIn';
import { AIMS } from './words';
import { WrittenText } from '@/fields/WrittenText';
import { useKept } from '@/fields/useKept';

interface Props {
  readonly measure: Measure;
  readonly onName: (name: string | null) => void;
}

/** One measure: name, expression, what is better, how it is written, what it gives, where it is used. */
export function MeasureEditor({ measure, onName }: Props) {
  const report = useReport((state) => state.report);
  const [field, setField] = useState<string | null>(null);
  const tables = report!.tables;
  const fields = useAnswer([measure.table, tables], (now) => desk().fieldsOf(now, measure.table)).value ?? [];

  const change = (part: EditData['change-measure']['part'], place?: string) =>
    edit({ edit: 'change-measure', measure: measure.name, part }, place);
  const kept = useKept(`expression of ${measure.name}`, measure.expression, {
    ask: (now, text) => desk().readable(now, measure.table, text),
    take: (expression, place) => change({ expression }, place),
  });
  const draft = kept.text;
  const changed = kept.isDraft;
  const [asIf, setAsIf] = useState<Report>(report!);
  useEffect(() => {
    // What is typed fast is computed once.
    const timer = setTimeout(
      () =>
        setAsIf({
          ...report!,
          measures: report!.measures.map((one) => (one.name === measure.name ? { ...one, expression: draft } : one)),
        }),
      changed ? 150 : 0,
    );
    return () => clearTimeout(timer);
  }, [report, measure.name, draft, changed]);

  return (
    <div className="space-y-3">
      <NameField
        kind="measure"
        name={measure.name}
        taken={report!.measures.map(({ name }) => name)}
        onRenamed={onName}
      />
      {tables.length > 1 && (
        <Field label="Read from">
          <select
            className={INPUT}
            value={measure.table}
            onChange={(event) => void change({ table: event.target.value })}
          >
            {tables.map(({ id }) => (
              <option key={id}>{id}</option>
            ))}
          </select>
        </Field>
      )}
      <div className="relative">
        <ExpressionField
          label="Expression"
          tableId={measure.table}
          value={draft}
          invalid={kept.problem !== null}
          onChange={kept.setText}
          onKeep={() => void kept.settle()}
          onLeave={() => void kept.settle()}
        />
        {kept.isStuck && (
          <div className="absolute -top-2.5 right-0">
            <Button small title="The expression that figures use" onClick={() => kept.setText(null)}>
              As it was
            </Button>
          </div>
        )}
      </div>
      <LiveResult
        report={asIf}
        measure={measure.name}
        against={null}
        fields={fields}
        field={field !== null && fields.includes(field) ? field : null}
        onField={setField}
        onExpression={kept.setText}
      />
      <div className="grid grid-cols-2 gap-2 border-t border-hairline pt-3">
        <Field label="Aim">
          <select
            className={INPUT}
            value={measure.aim}
            onChange={(event) => void change({ aim: event.target.value as Measure['aim'] })}
          >
            {Object.entries(AIMS).map(([aim, words]) => (
              <option key={aim} value={aim}>
                {words}
              </option>
            ))}
          </select>
        </Field>
        <AmountField
          place={`tolerance of ${measure.name}`}
          label="Level within, % of the benchmark"
          value={Math.round(measure.tolerance * 10_000) / 100}
          refuse={(percent) => (percent < 0 ? 'It reaches either way: write it without a minus' : null)}
          onKeep={(percent = 0) => void change({ tolerance: percent / 100 })}
        />
      </div>
      <CurrencyFields kind="measure" of={measure} />
      <FormatFields format={measure.format} onChange={(format, session) => void change({ format }, session)} />
      <UsedIn report={report!} kind="measure" name={measure.name} onGone={() => onName(null)} />
    </div>
  );
}

const SAMPLES = [1234567.891, 4250.5, -98.765, 0, NaN];

interface FormatProps {
  readonly format: NumberFormat;
  readonly onChange: (format: NumberFormat, session?: string) => void;
}

function FormatFields({ format, onChange }: FormatProps) {
  const set = (part: { [K in keyof NumberFormat]?: NumberFormat[K] | undefined }, session?: string) => {
    const next = { ...format, ...part };
    // What is not said is left out of the file.
    onChange(
      Object.fromEntries(Object.entries(next).filter(([, value]) => value !== undefined)) as unknown as NumberFormat,
      session,
    );
  };
  const isShare = format.style === 'percent' || format.style === 'points';
  return (
    <fieldset className="border-t border-hairline pt-3">
      <legend className="sr-only">Format</legend>
      <div className="grid grid-cols-2 gap-2">
        <Field label="Written as">
          <select
            className={INPUT}
            value={format.style}
            onChange={(event) => {
              const style = event.target.value as NumberFormat['style'];
              set({ style, currency: style === 'currency' ? (format.currency ?? 'EUR') : undefined });
            }}
          >
            <option value="number">number</option>
            <option value="currency">money</option>
            <option value="percent">percent</option>
            <option value="points">percentage points</option>
          </select>
        </Field>
        {format.style === 'currency' ? (
          <Field label="Currency">
            <WrittenText
              className={INPUT}
              maxLength={3}
              value={format.currency ?? ''}
              allows={(code) => /^[A-Za-z]{3}$/.test(code)}
              onWrite={(code, session) => set({ currency: code.toUpperCase() }, session)}
            />
          </Field>
        ) : (
          <Field label="Unit">
            <WrittenText
              className={INPUT}
              maxLength={40}
              value={format.unit ?? ''}
              disabled={isShare}
              onWrite={(unit, session) => set({ unit: unit || undefined }, session)}
            />
          </Field>
        )}
        <Field label="Shortened to">
          <select
            className={INPUT}
            disabled={isShare}
            value={format.scale ?? 'auto'}
            onChange={(event) => set({ scale: event.target.value as NonNullable<NumberFormat['scale']> })}
          >
            <option value="auto">what fits</option>
            <option value="none">nothing</option>
            <option value="K">thousands, K</option>
            <option value="M">millions, M</option>
            <option value="B">billions, B</option>
          </select>
        </Field>
        <Field label="Decimals">
          <select
            className={INPUT}
            value={format.decimals ?? ''}
            onChange={(event) => set({ decimals: event.target.value === '' ? undefined : Number(event.target.value) })}
          >
            <option value="">what fits</option>
            {[0, 1, 2, 3, 4].map((n) => (
              <option key={n}>{n}</option>
            ))}
          </select>
        </Field>
        <Field label="Less than zero">
          <select
            className={INPUT}
            value={format.negative ?? 'minus'}
            onChange={(event) => set({ negative: event.target.value === 'parentheses' ? 'parentheses' : undefined })}
          >
            <option value="minus">−5</option>
            <option value="parentheses">(5)</option>
          </select>
        </Field>
        <Field label="Digits">
          <select
            className={INPUT}
            value={format.separators ?? 'point'}
            onChange={(event) =>
              set({
                separators:
                  event.target.value === 'point'
                    ? undefined
                    : (event.target.value as NonNullable<NumberFormat['separators']>),
              })
            }
          >
            <option value="point">1,234.5</option>
            <option value="comma">1.234,5</option>
            <option value="space">1 234,5</option>
          </select>
        </Field>
      </div>
      <p className="mt-2 flex flex-wrap gap-x-4 gap-y-1 font-figure text-[13px]" aria-label="Samples">
        {(isShare ? SAMPLES.map((value) => value / 1e6) : SAMPLES).map((value, i) => (
          <span key={i}>{writeNumber(value, writingFor(format, Math.abs(value) || 1, 2))}</span>
        ))}
      </p>
    </fieldset>
  );
}
