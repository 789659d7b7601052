'use client';

import type { Form } from '@bold-ruler/core/brief';
import type { FigureEntry } from '@bold-ruler/core/report';
import { Field, INPUT } from '@/ui/Field';
import type { ColumnShown } from '@bold-ruler/core/desk';
import { setLook } from './commands';
import { BandsField } from './look/BandsField';
import { ColumnFields } from './look/ColumnFields';
import { HeadlineFields } from './look/HeadlineFields';
import { RowFields } from './look/RowFields';
import { StopFields } from './look/StopFields';
import { TimeFields } from './look/TimeFields';
import { WaterfallFields } from './look/WaterfallFields';
import { WrittenText } from '@/fields/WrittenText';

const ROW_FORMS: ReadonlySet<Form | null> = new Set<Form>(['bullet', 'bars', 'pairs']);
/** Forms that can be turned. */
const TURNED: ReadonlySet<Form | null> = new Set<Form>(['bullet', 'bars', 'pairs', 'waterfall']);
const PANELLED: ReadonlySet<Form | null> = new Set<Form>(['bullet', 'bars', 'pairs', 'trend', 'pace']);

interface Props {
  readonly figure: FigureEntry;
  /** The title as it reads now. */
  readonly title: string;
  readonly hasBenchmark: boolean;
  /** The brief's fields. */
  readonly fields: readonly string[];
  /** The period still runs. */
  readonly runs: boolean;
  /** Columns of a table; none for other forms. */
  readonly columns: readonly ColumnShown[];
  /** The form it is drawn in; null while there is none. */
  readonly form: Form | null;
}

/** How a figure looks: its direction, its title, its bands. */
export function LookPanel({ figure, title, hasBenchmark, fields, runs, columns, form }: Props) {
  const { look } = figure;
  const orientation = look.orientation ?? 'horizontal';
  return (
    <div className="space-y-3">
      {(form === null || TURNED.has(form)) && (
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
        <WrittenText
          rows={3}
          className={`${INPUT} h-auto py-1 leading-snug`}
          value={look.title ?? ''}
          placeholder={title}
          onWrite={(text, session) => setLook(figure.id, 'change the title', 'title', text || undefined, session)}
        />
      </Field>
      <p className="text-xs text-quiet">
        For example {'“{measure} {gap} {ahead of|behind} {benchmark}”'}. Left empty, it writes itself.
      </p>
      {ROW_FORMS.has(form) && <RowFields figureId={figure.id} look={look} runs={runs} hasBenchmark={hasBenchmark} />}
      {(form === 'trend' || form === 'pace' || form === 'bump') && (
        <TimeFields figureId={figure.id} look={look} form={form} hasBenchmark={hasBenchmark} />
      )}
      {PANELLED.has(form) && fields.length > (ROW_FORMS.has(form) ? 1 : 0) && (
        <Field label="A panel for each">
          <select
            className={INPUT}
            value={look.panels ?? ''}
            onChange={(event) => setLook(figure.id, 'set panels', 'panels', event.target.value || undefined)}
          >
            <option value="">no panels</option>
            {fields.map((field) => (
              <option key={field}>{field}</option>
            ))}
          </select>
        </Field>
      )}
      {form === 'waterfall' && <WaterfallFields figureId={figure.id} look={look} hasBenchmark={hasBenchmark} />}
      {columns.length > 0 && <ColumnFields figureId={figure.id} look={look} columns={columns} />}
      {form === 'headline' && <HeadlineFields figureId={figure.id} look={look} />}
      {form === 'dial' && <StopFields figureId={figure.id} look={look} />}
      {hasBenchmark && (form === 'bullet' || form === 'dial' || form === 'trend') && (
        <BandsField figureId={figure.id} bands={look.bands} />
      )}
    </div>
  );
}
