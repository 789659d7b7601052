import { monthAt } from './orders';
import { randomFrom } from './random';
import { MONTHS_OF_ORDERS, PRODUCT_LINES } from './scenario';

export const STOCK_HEADER = ['month', 'product line', 'weeks of stock'];

/** The warehouse writes some names in its own way. */
const WRITTEN: Readonly<Record<string, string>> = { Accessories: 'Accessory', Woodwind: 'Wood wind' };

/** Weeks of stock at the end of each month, one decimal. Near six is good. */
export function* stockRows(): Generator<string[]> {
  const random = randomFrom(7);
  for (let index = 0; index < MONTHS_OF_ORDERS; index++) {
    const { year, month } = monthAt(index);
    for (const line of PRODUCT_LINES) {
      const drift = index / (MONTHS_OF_ORDERS - 1);
      const weeks = 6 + (line.weeksOfStock - 6) * drift + (random() - 0.5) * 1.6;
      yield [`${year}-${String(month).padStart(2, '0')}`, WRITTEN[line.name] ?? line.name, weeks.toFixed(1)];
    }
  }
}
