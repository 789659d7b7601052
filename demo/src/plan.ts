import { growth, meanNet, monthAt, rowsPerMonth, territoryShare } from './orders';
import { MONTHS_OF_PLAN, PRODUCT_LINES, SEASON, TERRITORIES } from './scenario';

export const PLAN_HEADER = ['month', 'territory', 'product line', 'target'];

/** A target for each month, territory and product line, in whole hundreds. It knows last year's territories, not this year's. */
export function* planRows(orderRows = 60_000): Generator<string[]> {
  const perMonth = rowsPerMonth(orderRows);
  const lines = PRODUCT_LINES.reduce((sum, line) => sum + line.share / meanNet(line), 0);
  for (let index = 0; index < MONTHS_OF_PLAN; index++) {
    const { year, month } = monthAt(index);
    const base = (perMonth * SEASON[month - 1]! * growth(index)) / lines;
    for (const territory of TERRITORIES) {
      for (const line of PRODUCT_LINES) {
        const target = base * territoryShare(territory, Math.max(0, index - 9)) * line.share;
        yield [
          `${year}-${String(month).padStart(2, '0')}`,
          territory.name,
          line.name,
          String(Math.round(target / 100) * 100),
        ];
      }
    }
  }
}
