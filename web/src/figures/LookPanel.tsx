'use client';

import type { Form } from '@bold-ruler/core/brief';
import type { FigureEntry, FigureFormat, Look } from '@bold-ruler/core/report';
import { Field, INPUT } from '@/ui/Field';
import type { ColumnShown } from '@bold-ruler/core/desk';
import { declarationOf, type LookOption } from '@bold-ruler/core/form';
import { nameFigure, setLook } from './commands';
import { NotesFields } from './NoteFields';
import { DirectionField } from './look/DirectionField';
import { needsOf, offeredTo } from './look/needs';
import { OptionField, type FieldFacts } from './look/OptionField';
import { WrittenText } from '@/fields/WrittenText';

interface Props {
  readonly figure: FigureEntry;
  /** The title as it reads now. */
  readonly title: string;
  readonly hasBenchmark: boolean;
  /** The brief's fields. */
  readonly fields: readonly string[];
  /** Its rows are steps of time. */
  readonly isOverTime: boolean;
  /** The period still runs. */
  readonly runs: boolean;
  /** Amounts are converted by the rates of their own periods, and held against another one. */
  readonly exchanges: boolean;
  /** Columns of a table; none for other forms. */
  readonly columns: readonly ColumnShown[];
  /** The form it is drawn in; null while there is none. */
  readonly form: Form | null;
}

/** How a figure looks: its direction, its title, its bands. */
export function LookPanel(props: Props) {
  const { figure, title, form } = props;
  const { look } = figure;
  return (
    <div className="space-y-3">
      {(form === null || knows(form, 'orientation')) && <DirectionField figureId={figure.id} look={look} />}
      <Field label="Name, where figures are listed">
        <WrittenText
          className={INPUT}
          value={figure.name ?? ''}
          maxLength={200}
          placeholder={title}
          onWrite={(text, session) => nameFigure(figure.id, text, session)}
        />
      </Field>
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
      <FormatFields figureId={figure.id} format={look.format ?? {}} />
      <NotesFields figure={figure} isOverTime={props.isOverTime} />
      {form !== null && <FormFields {...props} form={form} />}
    </div>
  );
}

const SCALES: readonly (readonly [NonNullable<FigureFormat['scale']>, string])[] = [
  ['none', 'exact'],
  ['K', 'thousands, K'],
  ['M', 'millions, M'],
  ['B', 'billions, B'],
];

/** How the figure's numbers are written, where that is not as their measure says. */
function FormatFields({ figureId, format }: { figureId: string; format: FigureFormat }) {
  const put = (part: { readonly [key in keyof FigureFormat]: FigureFormat[key] | undefined }) => {
    const next = Object.fromEntries(Object.entries({ ...format, ...part }).filter(([, value]) => value !== undefined));
    const isNone = Object.keys(next).length === 0;
    setLook(figureId, 'write the numbers otherwise', 'format', isNone ? undefined : next);
  };
  const { scale, decimals, plus } = format;
  return (
    <fieldset>
      <legend className="mb-1 text-xs text-quiet">Its numbers: scale and decimals</legend>
      <div className="grid grid-cols-2 gap-2">
        <select
          aria-label="Scale of its numbers"
          className={INPUT}
          value={scale ?? ''}
          onChange={({ target: { value } }) => put({ scale: (value || undefined) as FigureFormat['scale'] })}
        >
          <option value="">as usual</option>
          {SCALES.map(([id, words]) => (
            <option key={id} value={id}>
              {words}
            </option>
          ))}
        </select>
        <select
          aria-label="Decimals of its numbers"
          className={INPUT}
          value={decimals ?? ''}
          onChange={({ target: { value } }) => put({ decimals: value === '' ? undefined : Number(value) })}
        >
          <option value="">as usual</option>
          {[0, 1, 2, 3, 4].map((n) => (
            <option key={n} value={n}>
              {n === 1 ? '1 decimal' : `${n} decimals`}
            </option>
          ))}
        </select>
      </div>
      <label className="mt-1.5 flex items-center gap-2 text-[13px]">
        <input
          type="checkbox"
          className="accent-ink"
          checked={plus === true}
          onChange={({ target: { checked } }) => put({ plus: checked ? true : undefined })}
        />
        with + where above zero
      </label>
    </fieldset>
  );
}

const knows = (form: Form, part: keyof Look): boolean => declarationOf(form).look.some(({ key }) => key === part);

/** What the form knows of the look, in its order; parts that go in pairs stand beside one another. */
function FormFields({ figure, hasBenchmark, fields, runs, exchanges, columns, form }: Props & { readonly form: Form }) {
  const { look } = figure;
  const needs = { look, hasBenchmark, fields, runs, exchanges };
  const facts: FieldFacts = { figureId: figure.id, look, form, fields, columns, is: needsOf(needs) };
  const offered = offeredTo(form, needs);
  const lines: LookOption[][] = [];
  for (const option of offered) {
    const last = lines.at(-1);
    if (isHalf(option) && last?.length === 1 && isHalf(last[0]!)) last.push(option);
    else lines.push([option]);
  }
  return lines.map((line) => {
    const parts = line.map((option) => <OptionField key={option.key} option={option} facts={facts} />);
    return line.length === 1 ? (
      parts
    ) : (
      <div key={line[0]!.key} className="grid grid-cols-2 gap-2">
        {parts}
      </div>
    );
  });
}

const isHalf = ({ offer }: LookOption): boolean => offer.kind === 'choice' && offer.half === true;
