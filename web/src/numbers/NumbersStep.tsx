'use client';

import { Plus } from 'lucide-react';
import { useState } from 'react';
import { BUILT_IN_BENCHMARKS, type Measure, type Named } from '@bold-ruler/core/report';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { Button } from '@/ui/Button';
import { BenchmarkEditor } from './BenchmarkEditor';
import { Card } from './Card';
import { MeasureEditor } from './MeasureEditor';
import { AIMS, benchmarkWords, measureWords } from './words';
import { freeName } from '@/store/freeName';

interface Chosen {
  readonly kind: Named;
  readonly name: string;
}

/** The second step: what is measured and what it is held against, one line each, with an editor beside. */
export function NumbersStep() {
  const report = useReport((state) => state.report);
  const { measures, benchmarks, tables } = report!;
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const first: Chosen | null = measures[0] ? { kind: 'measure', name: measures[0].name } : null;
  const isThere = ({ kind, name }: Chosen) =>
    (kind === 'measure' ? measures : benchmarks).some((one) => one.name === name);
  const shown = chosen && isThere(chosen) ? chosen : first;
  const measure = shown?.kind === 'measure' ? measures.find(({ name }) => name === shown.name) : undefined;
  const benchmark = shown?.kind === 'benchmark' ? benchmarks.find(({ name }) => name === shown.name) : undefined;
  const held = measures[0]?.name ?? null;
  const taken = new Set(benchmarks.map(({ name }) => name.toLowerCase()));
  const builtIn = BUILT_IN_BENCHMARKS.filter(({ name }) => !taken.has(name));

  function addMeasure(): void {
    const table = measures[0]?.table ?? tables[0]?.id;
    if (table === undefined) return;
    const name = freeName(
      'new measure',
      measures.map((one) => one.name),
    );
    const added: Measure = {
      name,
      table,
      expression: 'count(*)',
      aim: 'raise',
      tolerance: 0,
      format: { style: 'number', scale: 'auto' },
    };
    void edit({ edit: 'add-measure', measure: added });
    setChosen({ kind: 'measure', name });
  }

  function addBenchmark(): void {
    const name = freeName(
      'new benchmark',
      benchmarks.map((one) => one.name),
    );
    void edit({ edit: 'add-benchmark', benchmark: { name, kind: 'period', back: { years: 1 } } });
    setChosen({ kind: 'benchmark', name });
  }

  const walk = (event: React.KeyboardEvent<HTMLElement>) => {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    const cards = [...event.currentTarget.querySelectorAll<HTMLButtonElement>('[data-card]')];
    const at = cards.indexOf(document.activeElement as HTMLButtonElement);
    if (step === 0 || at < 0) return;
    event.preventDefault();
    const next = cards[at + step];
    next?.focus();
    next?.click();
  };

  return (
    <main className="grid min-h-0 grow grid-cols-[minmax(0,1fr)_376px] max-[899px]:relative max-[899px]:block max-[899px]:overflow-y-auto">
      <div className="min-h-0 overflow-y-auto px-6 py-4" onKeyDown={walk}>
        <section aria-labelledby="measures">
          <div className="mb-2 flex items-center gap-3">
            <h1 id="measures" className="text-xl font-semibold">
              Measures
            </h1>
            <p className="grow text-[13px] text-quiet">over all rows</p>
            <Button small onClick={addMeasure} disabled={tables.length === 0}>
              <Plus aria-hidden size={14} /> New measure
            </Button>
          </div>
          {measures.length === 0 ? (
            <p className="text-quiet">
              Nothing is measured yet. A measure adds up, counts or divides columns of your rows.
            </p>
          ) : (
            <ul className="border-t border-hairline">
              {measures.map((one) => (
                <Card
                  key={one.name}
                  report={report!}
                  name={one.name}
                  words={measureWords(one)}
                  aside={AIMS[one.aim]}
                  asked={{ measure: one.name, against: null, field: null }}
                  chosen={measure?.name === one.name}
                  onChoose={() => setChosen({ kind: 'measure', name: one.name })}
                />
              ))}
            </ul>
          )}
        </section>
        <section aria-labelledby="benchmarks" className="mt-7 pb-6">
          <div className="mb-2 flex items-center gap-3">
            <h2 id="benchmarks" className="text-xl font-semibold">
              Benchmarks
            </h2>
            <p className="grow text-[13px] text-quiet">{held === null ? '' : `for ${held}, this year to date`}</p>
            <Button small onClick={addBenchmark}>
              <Plus aria-hidden size={14} /> New benchmark
            </Button>
          </div>
          <ul className="border-t border-hairline">
            {benchmarks.map((one) => (
              <Card
                key={one.name}
                report={report!}
                name={one.name}
                words={benchmarkWords(one)}
                asked={held === null || one.kind === 'fixed' ? null : { measure: held, against: one.name, field: null }}
                chosen={benchmark?.name === one.name}
                onChoose={() => setChosen({ kind: 'benchmark', name: one.name })}
              />
            ))}
          </ul>
          <p className="mt-2 text-[13px] text-quiet">
            There without being defined: {builtIn.map(({ name }) => name).join(', ')}.
          </p>
        </section>
      </div>
      <aside aria-label="Editor" className="min-h-0 overflow-y-auto border-l border-hairline bg-paper p-4">
        {measure && (
          <MeasureEditor
            key={`measure ${measure.name}`}
            measure={measure}
            onName={(name) => setChosen(name === null ? null : { kind: 'measure', name })}
          />
        )}
        {benchmark && (
          <BenchmarkEditor
            key={`benchmark ${benchmark.name}`}
            benchmark={benchmark}
            onName={(name) => setChosen(name === null ? null : { kind: 'benchmark', name })}
          />
        )}
        {!measure && !benchmark && <p className="text-quiet">Add a measure to begin.</p>}
      </aside>
    </main>
  );
}
