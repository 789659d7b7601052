import { civilOf, NO_DAY, type Grain } from '../calendar';

/**
 * The length of time one row of a date column stands for. Dates that all fall on the first of a month are months
 * (quarters or years when they also keep that distance); anything else is days. Weeks are never guessed: a shop that is
 * open on Saturdays only would look weekly.
 */
export function grainOf(days: Int32Array): Grain {
  const months = new Set<number>();
  let last = NO_DAY;
  for (let i = 0; i < days.length; i++) {
    const day = days[i]!;
    if (day === last || day === NO_DAY) continue;
    last = day;
    const civil = civilOf(day);
    if (civil.day !== 1) return 'day';
    months.add(civil.year * 12 + civil.month - 1);
  }
  if (months.size < 2) return 'day';
  const sorted = [...months].sort((a, b) => a - b);
  const gaps = sorted.slice(1).map((month, i) => month - sorted[i]!);
  if (gaps.every((gap) => gap % 12 === 0)) return 'year';
  return months.size > 2 && gaps.every((gap) => gap % 3 === 0) ? 'quarter' : 'month';
}

/** True when days never fall, and none is blank. */
export function inDateOrder(days: Int32Array): boolean {
  if (days.length > 0 && days[0] === NO_DAY) return false;
  for (let i = 1; i < days.length; i++) if (days[i]! < days[i - 1]!) return false;
  return true;
}
