/**
 * Pellwether, a made-up maker of musical instruments: who sells what, where, and the stories its figures are to tell.
 * Amounts are euros.
 */
export const FIRST_MONTH = { year: 2022, month: 9 } as const;
/** Orders run up to this day, inside the seventh month of fiscal 2026 (which began in September 2025). */
export const AS_OF = { year: 2026, month: 3, day: 18 } as const;
export const MONTHS_OF_ORDERS = 43;
export const MONTHS_OF_PLAN = 48;

export interface Territory {
  readonly name: string;
  /** Share of sales in the first and in the last month; in between it moves evenly. */
  readonly from: number;
  readonly to: number;
  readonly reps: readonly [string, string, string];
}

export const TERRITORIES: readonly Territory[] = [
  { name: 'Alder Coast', from: 0.165, to: 0.14, reps: ['Ada Marlow', 'Bram Oster', 'Celia Thorne'] },
  { name: 'Brackwater', from: 0.14, to: 0.13, reps: ['Dario Quist', 'Edda Lorne', 'Felix Harrow'] },
  { name: 'Cinder Vale', from: 0.18, to: 0.135, reps: ['Greta Solm', 'Hugo Pell', 'Ines Rook'] },
  { name: 'Dunmarsh', from: 0.105, to: 0.09, reps: ['Jonas Wick', 'Karla Vint', 'Levi Anders'] },
  { name: 'Eastfold', from: 0.13, to: 0.105, reps: ['Mina Crowe', 'Nils Abery', 'Olga Fenn'] },
  { name: 'Gorse Heath', from: 0.095, to: 0.1, reps: ['Piet Sallow', 'Quinn Isham', 'Rosa Elder'] },
  // From last to first.
  { name: 'Larkmoor', from: 0.045, to: 0.19, reps: ['Sven Tallis', 'Thea Brand', 'Ugo Merrin'] },
  { name: 'Umber Hills', from: 0.14, to: 0.11, reps: ['Vera Locke', 'Wim Astor', 'Yara Dell'] },
];

export interface ProductLine {
  readonly name: string;
  readonly share: number;
  readonly price: number;
  readonly mostPieces: number;
  /** Sales against what was planned for fiscal 2026: one line falls far behind, and another hides it. */
  readonly latestFactor: number;
  readonly weeksOfStock: number;
}

export const PRODUCT_LINES: readonly ProductLine[] = [
  { name: 'Strings', share: 0.27, price: 385, mostPieces: 4, latestFactor: 1.03, weeksOfStock: 6.1 },
  { name: 'Woodwind', share: 0.18, price: 610, mostPieces: 3, latestFactor: 0.98, weeksOfStock: 5.6 },
  { name: 'Brass', share: 0.12, price: 845, mostPieces: 2, latestFactor: 1.01, weeksOfStock: 7.4 },
  { name: 'Percussion', share: 0.15, price: 295, mostPieces: 4, latestFactor: 1.42, weeksOfStock: 3.2 },
  { name: 'Keys', share: 0.1, price: 1180, mostPieces: 2, latestFactor: 0.66, weeksOfStock: 10.8 },
  { name: 'Accessories', share: 0.18, price: 28, mostPieces: 40, latestFactor: 1.05, weeksOfStock: 6.3 },
];

const CHANNEL_SHARES = [0.46, 0.27, 0.18, 0.09] as const;
/** Days from order to delivery, by channel. */
export const CHANNEL_DAYS = [5, 8, 3, 6] as const;

/** Months from January: the school year and the year's end sell most. */
export const SEASON = [0.82, 0.8, 0.92, 0.95, 0.98, 0.9, 0.84, 1.22, 1.42, 1.12, 1.02, 1.28] as const;

/** The rep who serves few orders, each of them perfectly. */
export const PERFECT_REP = 'Yara Dell';

const FIRST = [
  'Amber',
  'Birch',
  'Copper',
  'Dapple',
  'Ember',
  'Fable',
  'Garnet',
  'Hollow',
  'Ivory',
  'Juniper',
  'Kestrel',
  'Linden',
  'Marble',
  'Nettle',
  'Orchard',
];
const SECOND = [
  'Music House',
  'Tone Works',
  'Conservatory',
  'School of Music',
  'Instruments',
  'Band Supply',
  'Sound Hall',
  'Music Rentals',
];

export interface Account {
  readonly name: string;
  readonly territory: number;
  readonly channel: number;
  readonly rep: string;
  readonly weight: number;
}

/** Fifteen accounts a territory, of every channel, with sizes that differ widely. */
export const ACCOUNTS: readonly Account[] = TERRITORIES.flatMap((territory, t) =>
  FIRST.map((first, i) => {
    const channel = i < 6 ? 0 : i < 10 ? 1 : i < 13 ? 2 : 3;
    const second =
      channel === 0
        ? SECOND[[0, 1, 4, 6, 5, 0][i]!]!
        : channel === 1
          ? SECOND[i % 2 === 0 ? 2 : 3]!
          : channel === 2
            ? 'Web Shop'
            : SECOND[7]!;
    const rep = territory.reps[i % 3]!;
    const few = rep === PERFECT_REP ? 0.08 : 1;
    return {
      name: `${first} ${second} ${territory.name.split(' ')[0]}`,
      territory: t,
      channel,
      rep,
      weight: (CHANNEL_SHARES[channel]! * few * (1 + ((i * 7 + t * 3) % 11))) / 3,
    };
  }),
);

/** The account that sent back a whole delivery, and what that did. */
export const RETURN = {
  account: 'Garnet Conservatory Cinder',
  line: 'Woodwind',
  year: 2026,
  month: 2,
  day: 11,
  pieces: -148,
  net: -78_440,
  cost: -51_230,
} as const;
