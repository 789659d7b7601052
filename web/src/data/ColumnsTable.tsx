import type { ColumnProfile, FieldsProfile } from '@bold-ruler/core/table';

const count = new Intl.NumberFormat('en');
const amount = new Intl.NumberFormat('en', { maximumFractionDigits: 4 });

const KINDS = { text: 'text', number: 'number', date: 'date', yesno: 'yes or no' } as const;

/** One line a column: how it was read, and what is in it. */
export function ColumnsTable({ profile }: { profile: FieldsProfile }) {
  return (
    <section aria-labelledby="columns" className="mt-5">
      <h2 id="columns" className="mb-2 font-semibold">
        {profile.columns.length} columns
      </h2>
      <table className="w-full border-t border-hairline bg-paper text-[13px]">
        <thead>
          <tr className="text-left text-xs text-quiet">
            <th className="px-3 py-1.5 font-medium">column</th>
            <th className="px-3 font-medium">kind</th>
            <th className="px-3 text-right font-medium">different</th>
            <th className="px-3 text-right font-medium">blank</th>
            <th className="px-3 text-right font-medium">unread</th>
            <th className="px-3 font-medium">from</th>
            <th className="px-3 font-medium">to</th>
            <th className="px-3 text-right font-medium">sum</th>
          </tr>
        </thead>
        <tbody>
          {profile.columns.map((column) => (
            <Row key={column.name} column={column} isDate={column.name === profile.date} />
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Row({ column, isDate }: { column: ColumnProfile; isDate: boolean }) {
  const show = (value: number | string | null) =>
    value === null ? '–' : typeof value === 'number' ? amount.format(value) : value;
  return (
    <tr className="border-t border-hairline">
      <th scope="row" className="max-w-[190px] truncate px-3 py-1.5 text-left font-medium" title={column.name}>
        {column.name}
        {isDate && (
          <span className="ml-2 rounded-sm bg-boxwood-light px-1.5 py-0.5 text-xs font-normal">
            places rows in time
          </span>
        )}
      </th>
      <td className="px-3 whitespace-nowrap" title={column.convention}>
        {KINDS[column.type]}
        {column.type !== 'text' && column.type !== 'yesno' && (
          <span className="ml-2 text-xs text-quiet">{column.convention}</span>
        )}
      </td>
      <td className="px-3 text-right">{count.format(column.members)}</td>
      <td className="px-3 text-right">
        {column.blank === 0 ? <span className="text-quiet">0</span> : count.format(column.blank)}
      </td>
      <td className={`px-3 text-right ${column.unread > 0 ? 'font-semibold text-behind' : 'text-quiet'}`}>
        {count.format(column.unread)}
      </td>
      <td className="max-w-[118px] truncate px-3">{show(column.lowest)}</td>
      <td className="max-w-[118px] truncate px-3">{show(column.highest)}</td>
      <td className="px-3 text-right">{column.sum === undefined ? '' : amount.format(column.sum)}</td>
    </tr>
  );
}
