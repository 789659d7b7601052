'use client';

import { desk } from '@/store/desk';
import { ExpressionField } from '@/fields/ExpressionField';
import { ExpressionProblem } from '@/fields/ExpressionProblem';
import { ColumnName } from './ColumnName';
import { edit } from '@/store/edit';
import { useKept } from '@/fields/useKept';
import { useReport } from '@/store/reportStore';
import { useDraft } from '@/store/useDraft';
import { Button } from '@/ui/Button';
import { Field, INPUT } from '@/ui/Field';
import { KINDS, plural } from '@/ui/words';

interface Props {
  readonly tableId: string;
  /** The derived column that is changed; null for a new one. */
  readonly name: string | null;
  readonly taken: readonly string[];
  readonly onDone: (name: string | null) => void;
}

/** A column computed from others, row by row, with its first values while it is written. */
export function DerivedEditor({ tableId, name: old, taken, onDone }: Props) {
  const report = useReport((state) => state.report);
  const known = report!.tables.find(({ id }) => id === tableId)?.derived?.find(({ name }) => name === old);
  const place = `derived column ${old ?? ''} of ${tableId}`;
  const [name, setName] = useDraft(`name of ${place}`, old ?? '');
  const {
    text: expression,
    setText: setExpression,
    answer: look,
    problem,
    isStuck,
    settle,
  } = useKept(place, known?.expression ?? '', {
    of: [tableId, old],
    ask: (now, text) => desk().preview(now, tableId, old ?? ' ', text.trim()),
    // A column that is there changes as it is typed.
    take:
      old === null
        ? null
        : (text) =>
            edit({ edit: 'derive-column', table: tableId, old, column: { name: old, expression: text } }, place),
  });
  const asked = expression.trim();
  const leave = (next: string | null) => {
    setName(null);
    setExpression(null);
    onDone(next);
  };
  const clash = name.trim() !== old && taken.some((other) => other.toLowerCase() === name.trim().toLowerCase());
  const ready = name.trim() !== '' && !clash && look !== null;

  function save(): void {
    void edit({ edit: 'derive-column', table: tableId, old, column: { name: name.trim(), expression: asked } });
    leave(name.trim());
  }

  return (
    <section aria-label="Derived column" className="border-t border-hairline bg-paper px-4 pt-3 pb-4">
      <h2 className="mb-3 font-semibold">{old === null ? 'A column from others' : old}</h2>
      <div className="space-y-3">
        {old !== null ? (
          <ColumnName key={old} tableId={tableId} name={old} onRenamed={onDone} />
        ) : (
          <Field label="Name" {...(clash ? { hint: 'A column of this name is there already.' } : {})}>
            <input className={INPUT} value={name} onChange={(event) => setName(event.target.value)} />
          </Field>
        )}
        <ExpressionField
          label="For each row"
          tableId={tableId}
          value={expression}
          invalid={problem !== null}
          placeholder="net - cost"
          onChange={setExpression}
          onKeep={() => void settle()}
          onLeave={() => void settle()}
        />
      </div>
      {problem && <ExpressionProblem problem={problem} text={asked} onFix={setExpression} />}
      {look && (
        <>
          <p role="status" className="mt-3 mb-1 text-xs text-quiet">
            {KINDS[look.kind]}; {plural(look.blank, 'row')} of {look.rows.toLocaleString('en')} without a value. The
            first ones:
          </p>
          <table className="w-full font-figure text-[13px]">
            <thead>
              <tr className="text-right text-xs text-quiet">
                {look.headings.map((heading, i) => (
                  <th key={i} className="max-w-24 truncate px-1 font-medium">
                    {i === look.headings.length - 1 ? name || 'result' : heading}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {look.lines.map((line, r) => (
                <tr key={r} className="border-t border-hairline text-right">
                  {line.map((cell, c) => (
                    <td
                      key={c}
                      className={`max-w-24 truncate px-1 py-0.5 ${c === line.length - 1 ? 'font-semibold' : ''}`}
                    >
                      {cell === '' ? '–' : cell}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
      <div className="mt-4 flex gap-2">
        {old === null ? (
          <>
            <Button small look="main" disabled={!ready} onClick={save}>
              Add the column
            </Button>
            <Button small onClick={() => leave(old)}>
              Cancel
            </Button>
          </>
        ) : (
          isStuck && (
            <Button small onClick={() => setExpression(null)}>
              As it was
            </Button>
          )
        )}
        {old !== null && (
          <Button
            small
            look="bare"
            className="ml-auto"
            onClick={() => {
              void edit({ edit: 'remove-column', table: tableId, column: old }).then((isDone) => isDone && leave(null));
            }}
          >
            Remove
          </Button>
        )}
      </div>
      <p className="mt-3 text-xs text-quiet">
        Written as in SQL: + − * /, case line when … then … end, coalesce, round, extract(year from …). Names with
        spaces stand in double quotes, text in single ones.
      </p>
    </section>
  );
}
