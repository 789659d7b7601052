import { civilOf, dayOf, isoDay, monthLength, weekday } from '@bold-ruler/core/calendar';
import { draw, randomFrom, runningSums } from './random';
import {
  ACCOUNTS,
  AS_OF,
  CHANNEL_DAYS,
  FIRST_MONTH,
  MONTHS_OF_ORDERS,
  PERFECT_REP,
  PRODUCT_LINES,
  RETURN,
  SEASON,
  TERRITORIES,
} from './scenario';

export const ORDERS_HEADER = [
  'ordered',
  'territory',
  'product line',
  'channel',
  'rep',
  'account',
  'quantity',
  'net',
  'cost',
  'days to deliver',
  'delivery score',
];

/** Year and month (1–12) of the n-th month. */
export function monthAt(index: number): { year: number; month: number } {
  const months = FIRST_MONTH.year * 12 + FIRST_MONTH.month - 1 + index;
  return { year: Math.floor(months / 12), month: (months % 12) + 1 };
}

const isLatestYear = (index: number) => index >= 36;

/** Share of a territory's sales in the n-th month. */
export function territoryShare(territory: (typeof TERRITORIES)[number], index: number): number {
  return territory.from + ((territory.to - territory.from) * index) / (MONTHS_OF_ORDERS - 1);
}

/** Sales grow by six per cent a year. */
export function growth(index: number): number {
  return 1.06 ** (index / 12);
}

/** Mean net amount of an order line: pieces are even between one and the most, and a discount takes a tenth. */
export function meanNet(line: (typeof PRODUCT_LINES)[number]): number {
  return line.price * ((1 + line.mostPieces) / 2) * 0.9;
}

/** Chance weight of an order line to be of a product line: shares are shares of value. */
function lineWeights(index: number): number[] {
  return PRODUCT_LINES.map((line) => (line.share / meanNet(line)) * (isLatestYear(index) ? line.latestFactor : 1));
}

/** The number of order lines in a month before season and stories, for a wanted number of rows in all. */
export function rowsPerMonth(rows: number): number {
  let weight = 0;
  for (let index = 0; index < MONTHS_OF_ORDERS; index++) weight += monthWeight(index);
  return rows / weight;
}

function monthWeight(index: number): number {
  const { year, month } = monthAt(index);
  const part = index === MONTHS_OF_ORDERS - 1 ? AS_OF.day / monthLength(year, month) : 1;
  const plain = runningSums(PRODUCT_LINES.map((line) => line.share / meanNet(line))).at(-1)!;
  const now = runningSums(lineWeights(index)).at(-1)!;
  return SEASON[month - 1]! * growth(index) * part * (now / plain);
}

/** Order lines as rows of text, month by month, in order of their date. The same seed gives the same rows. */
export function* orderLines(rows = 60_000, seed = 20_260_318): Generator<string[]> {
  const random = randomFrom(seed);
  const perMonth = rowsPerMonth(rows);
  for (let index = 0; index < MONTHS_OF_ORDERS; index++) {
    const { year, month } = monthAt(index);
    const last = index === MONTHS_OF_ORDERS - 1 ? AS_OF.day : monthLength(year, month);
    const lines = runningSums(lineWeights(index));
    const accounts = runningSums(
      ACCOUNTS.map(({ territory, weight }) => {
        const inTerritory = ACCOUNTS.reduce(
          (sum, other) => sum + (other.territory === territory ? other.weight : 0),
          0,
        );
        return (territoryShare(TERRITORIES[territory]!, index) * weight) / inTerritory;
      }),
    );
    const count = Math.round(perMonth * monthWeight(index));
    const days = Array.from({ length: count }, () => workingDay(random, year, month, last)).sort((a, b) => a - b);
    let returned = !(year === RETURN.year && month === RETURN.month);
    for (const day of days) {
      if (!returned && civilOf(day).day >= RETURN.day) {
        returned = true;
        yield bigReturn();
      }
      yield orderLine(random, day, lines, accounts);
    }
  }
}

/** A day of the month, seldom on a weekend. */
function workingDay(random: () => number, year: number, month: number, last: number): number {
  const day = dayOf(year, month, 1 + Math.floor(random() * last));
  return weekday(day) < 5 || random() < 0.25 ? day : dayOf(year, month, 1 + Math.floor(random() * last));
}

function orderLine(random: () => number, day: number, lines: readonly number[], accounts: readonly number[]): string[] {
  const line = PRODUCT_LINES[draw(random, lines)]!;
  const account = ACCOUNTS[draw(random, accounts)]!;
  const channel = account.channel;
  const isReturn = random() < 0.022;
  const pieces = 1 + Math.floor(random() * line.mostPieces);
  // Prices differ by a fifth to either side, in cents; discounts are 0–20 %.
  const cents = Math.round(line.price * 100 * (0.8 + 0.4 * random())) * pieces;
  const net = Math.round(cents * (1 - 0.2 * random()));
  const cost = Math.round(net * (0.52 + 0.16 * random()));
  const sign = isReturn ? -1 : 1;
  const late = Math.floor(-Math.log(1 - random()) * 2.2);
  const perfect = account.rep === PERFECT_REP;
  const score = perfect ? 10 : Math.max(1, Math.min(10, 9 - Math.floor(late / 2) + Math.floor(random() * 3) - 1));
  return [
    isoDay(day),
    TERRITORIES[account.territory]!.name,
    line.name,
    ['Dealers', 'Schools', 'Web', 'Rentals'][channel]!,
    account.rep,
    account.name,
    String(sign * pieces),
    money(sign * net),
    money(sign * cost),
    isReturn ? '' : String(CHANNEL_DAYS[channel]! - 1 + (perfect ? 0 : late)),
    isReturn || random() < 0.35 ? '' : String(score),
  ];
}

function bigReturn(): string[] {
  const account = ACCOUNTS.find(({ name }) => name === RETURN.account)!;
  const territory = TERRITORIES[account.territory]!.name;
  const day = isoDay(dayOf(RETURN.year, RETURN.month, RETURN.day));
  return [
    day,
    territory,
    RETURN.line,
    'Schools',
    account.rep,
    account.name,
    String(RETURN.pieces),
    money(RETURN.net * 100),
    money(RETURN.cost * 100),
    '',
    '',
  ];
}

/** Cents as euros with two decimals. */
function money(cents: number): string {
  return (cents / 100).toFixed(2);
}

/** How the report's last month goes on, and the one after it: rows that arrive later, with a few of the last days told otherwise. */
export function* followingLines(rows = 60_000): Generator<string[]> {
  const last = [...orderLines(rows)].filter(([day]) => day! >= '2026-03-01');
  for (const [i, [day, ...line]] of last.entries()) {
    const restated = day! >= '2026-03-16' && i % 9 === 0;
    const net = ORDERS_HEADER.indexOf('net') - 1;
    yield [day!, ...(restated ? line.map((cell, c) => (c === net ? (Number(cell) * 1.02).toFixed(2) : cell)) : line)];
  }
  for (const later of [18, 31])
    for (const [day, ...line] of last) {
      const date = dayOf(2026, 3, Number(day!.slice(8))) + later;
      if (civilOf(date).month === (later === 18 ? 3 : 4)) yield [isoDay(date), ...line];
    }
}
