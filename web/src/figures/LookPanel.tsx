'use client';

import { useState } from 'react';
import type { Form } from '@bold-ruler/core/brief';
import type { Bands, FigureEntry, Look } from '@bold-ruler/core/report';
import { BUILT_IN_BENCHMARKS } from '@bold-ruler/core/report';
import { useReport } from '@/store/reportStore';
import { Field, INPUT } from '@/ui/Field';
import { setLook } from './commands';

interface Props {
  readonly figure: FigureEntry;
  /** The title as it reads now. */
  readonly title: string;
  readonly hasBenchmark: boolean;
  /** The brief's fields. */
  readonly fields: readonly string[];
  /** The period still runs. */
  readonly runs: boolean;
  /** The form it is drawn in; null while there is none. */
  readonly form: Form | null;
}

/** How a figure looks: its direction, its title, its bands. */
export function LookPanel({ figure, title, hasBenchmark, fields, runs, form }: Props) {
  const { look } = figure;
  const orientation = look.orientation ?? 'horizontal';
  return (
    <div className="space-y-3">
      {(form === null || ROW_FORMS.has(form)) && (
        <div role="radiogroup" aria-label="Bars run" className="flex">
          {(['horizontal', 'vertical'] as const).map((way) => (
            <button
              key={way}
              type="button"
              role="radio"
              aria-checked={orientation === way}
              onClick={() =>
                setLook(figure.id, 'turn the figure', 'orientation', way === 'horizontal' ? undefined : way)
              }
              className={`h-8 grow border px-2 text-[13px] first:rounded-l-sm last:rounded-r-sm last:border-l-0 ${orientation === way ? 'border-ink bg-ink text-paper' : 'border-hairline bg-paper hover:border-ink'}`}
            >
              {way === 'horizontal' ? 'across' : 'upright'}
            </button>
          ))}
        </div>
      )}
      <Field label="Title, with values in braces">
        <textarea
          key={look.title ?? ''}
          rows={3}
          className={`${INPUT} h-auto py-1 leading-snug`}
          defaultValue={look.title ?? ''}
          placeholder={title}
          onBlur={(event) => {
            const text = event.target.value.trim();
            if (text !== (look.title ?? ''))
              setLook(figure.id, 'change the title', 'title', text === '' ? undefined : text);
          }}
        />
      </Field>
      <p className="text-xs text-quiet">
        For example {'“{measure} {gap} {ahead of|behind} {benchmark}”'}. Left empty, it writes itself.
      </p>
      {ROW_FORMS.has(form) && (
        <RowFields figureId={figure.id} look={look} fields={fields} runs={runs} hasBenchmark={hasBenchmark} />
      )}
      {form === 'headline' && <HeadlineFields figureId={figure.id} look={look} />}
      {form === 'dial' && <StopFields figureId={figure.id} look={look} />}
      {hasBenchmark && (form === 'bullet' || form === 'dial') && <BandsField figureId={figure.id} bands={look.bands} />}
    </div>
  );
}

const ROW_FORMS: ReadonlySet<Form | null> = new Set<Form>(['bullet', 'bars', 'pairs']);

/** What rows lie on, where they land, and which stand apart. */
function RowFields({
  figureId,
  look,
  fields,
  runs,
  hasBenchmark,
}: {
  figureId: string;
  look: Look;
  fields: readonly string[];
  runs: boolean;
  hasBenchmark: boolean;
}) {
  return (
    <>
      {hasBenchmark && (
        <Field label="Rows lie on the ruler">
          <select
            className={INPUT}
            value={look.scale ?? ''}
            onChange={(event) =>
              setLook(figureId, 'change the scale', 'scale', (event.target.value || undefined) as Look['scale'])
            }
          >
            <option value="">as their units allow</option>
            <option value="value">by their values</option>
            <option value="of benchmark">as parts of their benchmarks</option>
          </select>
        </Field>
      )}
      {hasBenchmark && (runs || look.landing) && (
        <Field label="Where they will land">
          <select
            className={INPUT}
            value={look.landing ?? ''}
            onChange={(event) =>
              setLook(figureId, 'show the landing', 'landing', (event.target.value || undefined) as Look['landing'])
            }
          >
            <option value="">not shown</option>
            <option value="as so far">at the pace so far</option>
            <option value="as planned">with the rest as planned</option>
          </select>
        </Field>
      )}
      {fields.length > 1 && (
        <Field label="A panel for each">
          <select
            className={INPUT}
            value={look.panels ?? ''}
            onChange={(event) => setLook(figureId, 'set panels', 'panels', event.target.value || undefined)}
          >
            <option value="">no panels</option>
            {fields.map((field) => (
              <option key={field}>{field}</option>
            ))}
          </select>
        </Field>
      )}
    </>
  );
}

type Edges = Bands['edges'];

/** What can be typed for edges, by what they are of. */
const OWN = {
  benchmark: {
    label: 'Edges in % of the benchmark, the worst first',
    hint: 'One to four numbers, such as 80, 100',
    first: [0.8, 1],
    write: (edge: number | string) => String(Math.round(Number(edge) * 1000) / 10),
    read: (word: string) => Number(word) / 100,
  },
  fixed: {
    label: 'Edges, the worst first',
    hint: 'One to four numbers, such as 1000, 2500',
    first: [1],
    write: String,
    read: (word: string) => Number(word),
  },
  members: {
    label: 'Edges: percentiles, lowest, mean, median, highest',
    hint: 'One to four of them, such as 25, median, 75',
    first: [25, 75],
    write: String,
    read: (word: string) =>
      ['lowest', 'mean', 'median', 'highest'].includes(word)
        ? word
        : Number(word) >= 0 && Number(word) <= 100
          ? Number(word)
          : NaN,
  },
  expression: {
    label: 'Edges as expressions, one a line, the worst first',
    hint: 'One to four lines, such as 0.9 * sum(cost)',
    first: ['sum(1)'],
    write: String,
    read: (word: string) => word,
  },
} as const;

/** What parts the edges that are typed. */
const PARTED: Record<Bands['of'], RegExp> = {
  benchmark: /[,;\s]+/,
  fixed: /[,;\s]+/,
  members: /[,;\s]+/,
  expression: /\n/,
};

/** Bands that one chooses begin with edges that can be drawn. */
function firstBands(of: Bands['of']): Bands {
  return { of, edges: OWN[of].first } as unknown as Bands;
}

function BandsField({ figureId, bands }: { figureId: string; bands: Bands | null | undefined }) {
  const [wrong, setWrong] = useState(false);
  const shown = bands === null ? 'none' : bands === undefined ? 'fitting' : bands.of;
  const own = bands ? OWN[bands.of] : null;
  const edges =
    own && bands
      ? (bands.edges as readonly (number | string)[]).map(own.write).join(bands.of === 'expression' ? '\n' : ', ')
      : '';
  const set = (next: Bands | null | undefined) => setLook(figureId, 'change the bands', 'bands', next);
  return (
    <>
      <Field label="Bands">
        <select
          className={INPUT}
          value={shown}
          onChange={(event) => {
            const next = event.target.value;
            setWrong(false);
            set(next === 'none' ? null : next === 'fitting' ? undefined : firstBands(next as Bands['of']));
          }}
        >
          <option value="fitting">that fit the aim</option>
          <option value="benchmark">parts of the benchmark</option>
          <option value="fixed">fixed numbers</option>
          <option value="members">where the members lie</option>
          <option value="expression">expressions</option>
          <option value="none">none</option>
        </select>
      </Field>
      {own && bands && (
        <Field label={own.label} {...(wrong ? { hint: own.hint } : {})}>
          <textarea
            key={edges}
            rows={bands.of === 'expression' ? 3 : 1}
            className={`${INPUT} h-auto py-1`}
            defaultValue={edges}
            aria-invalid={wrong || undefined}
            onBlur={(event) => {
              const words = event.target.value
                .split(PARTED[bands.of])
                .map((word) => (bands.of === 'members' ? word.trim().toLowerCase() : word.trim()))
                .filter((word) => word !== '');
              const read: (number | string)[] = words.map(own.read);
              const right = read.length >= 1 && read.length <= 4 && !read.some(Number.isNaN);
              setWrong(!right);
              if (right && event.target.value !== edges) set({ ...bands, edges: read as unknown as Edges } as Bands);
            }}
          />
        </Field>
      )}
    </>
  );
}

function useBenchmarkNames(): string[] {
  const benchmarks = useReport((state) => state.report!.benchmarks);
  const own = benchmarks.map(({ name }) => name);
  return [...own, ...BUILT_IN_BENCHMARKS.map(({ name }) => name).filter((name) => !own.includes(name))];
}

/** How a headline stands, what else it is held against, and how changes are written. */
function HeadlineFields({ figureId, look }: { figureId: string; look: Look }) {
  const names = useBenchmarkNames();
  const references = look.references ?? [];
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <Field label="Layout">
          <select
            className={INPUT}
            value={look.layout ?? 'text'}
            onChange={(event) =>
              setLook(figureId, 'change the layout', 'layout', event.target.value as NonNullable<Look['layout']>)
            }
          >
            <option value="text">text</option>
            <option value="over">over a bar</option>
            <option value="beside">beside a bar</option>
          </select>
        </Field>
        <Field label="Changes as">
          <select
            className={INPUT}
            value={look.change ?? ''}
            onChange={(event) =>
              setLook(figureId, 'write changes', 'change', (event.target.value || undefined) as Look['change'])
            }
          >
            <option value="">% and amount</option>
            <option value="percent">%</option>
            <option value="absolute">amount</option>
          </select>
        </Field>
      </div>
      <label className="flex items-center gap-2 text-[13px]">
        <input
          type="checkbox"
          checked={look.spark ?? false}
          onChange={(event) => setLook(figureId, 'a line of steps', 'spark', event.target.checked ? true : undefined)}
        />
        with a line of its steps
      </label>
      <fieldset>
        <legend className="mb-1 text-xs text-quiet">Also held against, up to four</legend>
        {names.map((name) => (
          <label key={name} className="flex items-center gap-2 py-0.5 text-[13px]">
            <input
              type="checkbox"
              checked={references.includes(name)}
              disabled={!references.includes(name) && references.length >= 4}
              onChange={(event) => {
                const next = event.target.checked ? [...references, name] : references.filter((one) => one !== name);
                setLook(figureId, 'hold against more', 'references', next.length > 0 ? next : undefined);
              }}
            />
            {name}
          </label>
        ))}
      </fieldset>
    </>
  );
}

/** Where dials stop: a number, or a benchmark that follows the members. */
function StopFields({ figureId, look }: { figureId: string; look: Look }) {
  const names = useBenchmarkNames();
  const stops = look.stops ?? {};
  return (
    <div className="grid grid-cols-2 gap-2">
      {(['low', 'high'] as const).map((end) => (
        <Field key={end} label={end === 'low' ? 'Stops at' : 'and at'}>
          <input
            key={String(stops[end])}
            list={`stops-${end}`}
            className={INPUT}
            placeholder="what fits"
            defaultValue={stops[end] ?? ''}
            onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
            onBlur={(event) => {
              const text = event.target.value.trim();
              const { [end]: _, ...rest } = stops;
              const stop = text === '' ? undefined : Number.isFinite(Number(text)) ? Number(text) : text;
              if (stop === stops[end]) return;
              const next = stop === undefined ? rest : { ...rest, [end]: stop };
              setLook(figureId, 'move a stop', 'stops', Object.keys(next).length > 0 ? next : undefined);
            }}
          />
          <datalist id={`stops-${end}`}>
            {names.map((name) => (
              <option key={name} value={name} />
            ))}
          </datalist>
        </Field>
      ))}
    </div>
  );
}
