import type { ColumnProfile, FieldsProfile } from '@bold-ruler/core/table';
import { count, KINDS } from '@/ui/words';

interface Props {
  readonly profile: FieldsProfile;
  readonly derived: ReadonlySet<string>;
  /** The table a column is looked up in. */
  readonly lookedUp: (name: string) => string | undefined;
  readonly chosen: string | null;
  readonly onChoose: (name: string) => void;
}

/** One line a column: how it was read, and how much of it. Arrow keys walk through them. */
export function ColumnsTable({ profile, derived, lookedUp, chosen, onChoose }: Props) {
  return (
    <table className="w-full border-t border-hairline bg-paper text-[13px]">
      <thead>
        <tr className="text-left text-xs text-quiet">
          <th className="py-1.5 pr-2 pl-3 font-medium">column</th>
          <th className="px-2 font-medium">kind</th>
          <th className="px-2 text-right font-medium">different</th>
          <th className="px-2 text-right font-medium">blank</th>
          <th className="pr-3 pl-2 text-right font-medium">not read</th>
        </tr>
      </thead>
      <tbody
        onKeyDown={(event) => {
          const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
          if (step === 0) return;
          event.preventDefault();
          const buttons = [...event.currentTarget.querySelectorAll('button')];
          const next = buttons[buttons.indexOf(document.activeElement as HTMLButtonElement) + step];
          next?.focus();
          next?.click();
        }}
      >
        {profile.columns.map((column) => (
          <Row
            key={column.name}
            column={column}
            isDate={column.name === profile.date}
            made={derived.has(column.name) ? 'derived' : madeIn(lookedUp(column.name))}
            chosen={column.name === chosen}
            onChoose={() => onChoose(column.name)}
          />
        ))}
      </tbody>
    </table>
  );
}

const madeIn = (table: string | undefined) => (table === undefined ? null : `from ${table}`);

function Row({
  column,
  isDate,
  made,
  chosen,
  onChoose,
}: {
  column: ColumnProfile;
  isDate: boolean;
  /** Where its values come from, where that is not the file. */
  made: string | null;
  chosen: boolean;
  onChoose: () => void;
}) {
  const plain = column.type === 'text' || column.type === 'yesno' || made !== null;
  return (
    <tr
      onClick={onChoose}
      className={`cursor-pointer border-t border-hairline ${chosen ? 'bg-boxwood-light/70' : 'hover:bg-desk/60'}`}
    >
      <th scope="row" className="max-w-[200px] p-0 text-left font-medium">
        <button
          type="button"
          aria-pressed={chosen}
          onClick={onChoose}
          title={column.name}
          className="flex w-full items-baseline gap-2 py-1.5 pr-2 pl-3 text-left"
        >
          <span className="truncate">{column.name}</span>
          {isDate && <span className="shrink-0 text-xs font-normal text-quiet">places rows in time</span>}
          {made && <span className="shrink-0 text-xs font-normal text-quiet">{made}</span>}
        </button>
      </th>
      <td className="max-w-[240px] truncate px-2" title={column.convention}>
        {KINDS[column.type]}
        {!plain && <span className="ml-2 text-xs text-quiet">{column.convention}</span>}
      </td>
      <td className="px-2 text-right">{count.format(column.members)}</td>
      <td className={`px-2 text-right ${column.blank === 0 ? 'text-quiet' : ''}`}>{count.format(column.blank)}</td>
      <td className={`pr-3 pl-2 text-right ${column.unread > 0 ? 'font-semibold text-behind' : 'text-quiet'}`}>
        {count.format(column.unread)}
      </td>
    </tr>
  );
}
