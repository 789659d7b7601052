import { declaredOrder } from '../../table';
import { ofFigures } from '../level';

const MONTHS = 'jan feb mar apr may jun jul aug sep oct nov dec'.split(' ');
const DAYS = 'mon tue wed thu fri sat sun'.split(' ');

/** Where in the calendar a name stands: a month or a day of the week, with or without a year; null for other names. */
function placeOf(name: string): number | null {
  const [, word = '', year = '0'] = /^\s*([a-z]{3,9})\.?(?:[\s\-/,]+(\d{2,4}))?\s*$/i.exec(name) ?? [];
  for (const [list, full] of [
    [
      MONTHS,
      [
        'january',
        'february',
        'march',
        'april',
        'may',
        'june',
        'july',
        'august',
        'september',
        'october',
        'november',
        'december',
      ],
    ],
    [DAYS, ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday']],
  ] as const) {
    const lower = word.toLowerCase();
    const at = full.findIndex(
      (one, i) => one === lower || (lower !== '' && list[i] === lower) || (lower.length > 2 && one.startsWith(lower)),
    );
    if (at >= 0) return Number(year) * 100 + at;
  }
  return null;
}

/** Members that are months or days of the week, and stand in the order of the alphabet. */
export const textOrder = ofFigures(
  'text-order',
  'April before January is no order of time: what rises and falls cannot be seen',
  ({ cells: { fields, measure, brief } }, _entry, { source }) => {
    const table = source.facts(measure.table);
    if (!table || brief.sort || brief.keep) return [];
    return fields.flatMap((field) => {
      const names = table.columns.get(field) === 'text' ? table.members.get(field) : null;
      if (!names || declaredOrder(table, field)) return [];
      const places = names.map(placeOf);
      if (names.length < 3 || places.includes(null)) return [];
      const order = names
        .map((name, i) => ({ name, at: places[i]! }))
        .sort((a, b) => a.at - b.at)
        .map(({ name }) => name);
      if (order.every((name, i) => name === [...names].sort()[i])) return [];
      return [
        {
          severity: 'warning' as const,
          text: `“${field}” holds parts of the calendar, and they stand in the order of the alphabet`,
          repair: {
            name: 'Put them in the order of the calendar',
            edit: { edit: 'order-members', table: measure.table, column: field, order },
          },
        },
      ];
    });
  },
);
