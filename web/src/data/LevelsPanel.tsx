'use client';

import { X } from 'lucide-react';
import { desk } from '@/store/desk';
import { edit } from '@/store/edit';
import { useReport } from '@/store/reportStore';
import { useAnswer } from '@/store/useAnswer';
import { Button } from '@/ui/Button';
import { INPUT } from '@/ui/Field';

const NONE: readonly (readonly string[])[] = [];
const set = (hierarchies: readonly (readonly string[])[]) => void edit({ edit: 'set-hierarchies', hierarchies });

/** Fields in order, along which figures are gone into: as the rows have them, or put together by hand. */
export function LevelsPanel() {
  const report = useReport((state) => state.report)!;
  const version = useReport((state) => state.tablesVersion);
  const { tables, hierarchies = NONE } = report;
  const measured = report.measures[0]?.table ?? tables[0]?.id;
  const isThere = tables.some(({ id }) => id === measured);
  const { value: found } = useAnswer(
    [measured, tables, hierarchies, version],
    isThere ? (now) => desk().levels(now, measured!) : null,
  );
  const { value: fields } = useAnswer(
    [measured, tables, version],
    isThere ? (now) => desk().fieldsOf(now, measured!) : null,
  );
  const change = (at: number, levels: readonly string[]) =>
    set(hierarchies.flatMap((one, i) => (i !== at ? [one] : levels.length > 1 ? [levels] : [])));
  /** What is said already of some of these levels is said by them. */
  const take = (levels: readonly string[]) =>
    set([...hierarchies.filter((one) => !one.every((field) => levels.includes(field))), levels]);
  if (!isThere || !fields || (fields.length < 2 && hierarchies.length === 0)) return null;
  return (
    <section aria-labelledby="levels" className="space-y-2 text-[13px]">
      <h2 id="levels" className="text-xs font-semibold text-quiet">
        Levels
      </h2>
      {hierarchies.map((levels, at) => (
        <div key={levels.join(' ')} className="border-l-4 border-boxwood bg-paper px-2 py-1.5">
          <p className="flex items-start gap-1">
            <span className="grow">{levels.join(' › ')}</span>
            <button
              type="button"
              aria-label={`Take ${levels.at(-1)} away`}
              title={levels.length > 2 ? `Take ${levels.at(-1)} away` : 'Take these levels away'}
              onClick={() => change(at, levels.slice(0, -1))}
            >
              <X aria-hidden size={14} />
            </button>
          </p>
          <Add
            label={`A level below ${levels.at(-1)}`}
            fields={fields.filter((field) => !levels.includes(field))}
            onAdd={(field) => change(at, [...levels, field])}
          />
        </div>
      ))}
      {found?.map((levels) => (
        <p key={levels.join(' ')} className="border-l-4 border-hairline pl-2">
          {levels.join(' › ')}
          <Button small className="mt-1 w-full" onClick={() => take(levels)}>
            Take as levels
          </Button>
        </p>
      ))}
      <ByHand fields={fields} onAdd={(levels) => set([...hierarchies, levels])} />
    </section>
  );
}

/** Two fields that nobody has put in order yet. */
function ByHand({ fields, onAdd }: { fields: readonly string[]; onAdd: (levels: readonly string[]) => void }) {
  const pairs = fields.flatMap((wide) => fields.filter((fine) => fine !== wide).map((fine) => [wide, fine] as const));
  return (
    <select
      className={INPUT}
      aria-label="Other levels"
      value=""
      onChange={({ target: { value } }) => value !== '' && onAdd(pairs[Number(value)]!)}
    >
      <option value="">Other levels …</option>
      {pairs.map(([wide, fine], i) => (
        <option key={i} value={i}>
          {wide} › {fine}
        </option>
      ))}
    </select>
  );
}

function Add({ label, fields, onAdd }: { label: string; fields: readonly string[]; onAdd: (field: string) => void }) {
  if (fields.length === 0) return null;
  return (
    <select
      className={`${INPUT} mt-1`}
      aria-label={label}
      value=""
      onChange={({ target: { value } }) => value !== '' && onAdd(value)}
    >
      <option value="">and below …</option>
      {fields.map((field) => (
        <option key={field} value={field}>
          {field}
        </option>
      ))}
    </select>
  );
}
