import { listedSpan, writtenDay } from '../../calendar';
import { counted, listed, someOf } from '../../problem';
import type { TableFacts } from '../../query';
import { likelyMeasure, type Report } from '../../report';
import { linesNamed, type FieldsProfile, type Joined, type LinesFound, type Told } from '../../table';
import { amountOf, type Amount, type LevelCheck, type Said } from '../level';

/** A check of each table, as its file was read. */
const ofTables = (
  code: string,
  why: string,
  look: (facts: TableFacts, report: Report, amount: AmountOf) => Promise<OfTable[]> | readonly OfTable[],
): LevelCheck => ({
  code,
  why,
  run: async ({ report, source }) => {
    const said = report.tables.map(async ({ id }): Promise<Said[]> => {
      const facts = source.facts(id);
      const all = facts ? await look(facts, report, (sums) => amountIn(sums, () => source.profile(id))) : [];
      return all.map((one) => ({ ...one, about: { kind: 'table', id } }));
    });
    return (await Promise.all(said)).flat();
  },
});

type OfTable = Omit<Said, 'about'>;

/** What hangs on rows of a table that hold these sums. */
type AmountOf = (sums: Readonly<Record<string, number>>) => Promise<Amount | null>;

/** The sum that matters most of what some rows hold, as a part of the table's; null where they hold no number. */
async function amountIn(
  sums: Readonly<Record<string, number>>,
  profile: () => Pick<FieldsProfile, 'columns'> | Promise<Pick<FieldsProfile, 'columns'>>,
): Promise<Amount | null> {
  const of = likelyMeasure(Object.keys(sums));
  if (of === undefined) return null;
  const whole = (await profile()).columns.find(({ name }) => name === of)?.sum ?? NaN;
  return amountOf(of, sums[of]!, whole);
}

const withAmount = (amount: Amount | null) =>
  amount === null ? '' : `, with ${amount.sum.toLocaleString('en', { maximumFractionDigits: 2 })} in ${amount.of}`;

/** Lines named in a sentence. */
const MOST_LINES = 5;

/** The places of what is told of a file. */
const placesOf = (first: Told['first']): LinesFound => ({
  lines: first.map(({ line }) => line),
  ...(first[0]?.file === undefined ? {} : { files: first.map(({ file }) => file!) }),
});

/** What is told of the rows of a file elsewhere is told in the same way. */
export const inFile = { amount: amountIn, written: withAmount };

export const strayQuotes = ofTables(
  'stray-quotes',
  'a quote that encloses no cell may belong to one that was torn apart',
  ({ told = [] }) =>
    told
      .filter(({ what }) => what === 'stray quote')
      .map(({ count, first }) => ({
        severity: 'note',
        text: `in ${linesNamed(placesOf(first), count, MOST_LINES)} a quote encloses no cell and is read as a letter, first before “${first[0]!.raw.replace(/^"/, '').slice(0, 40)}”`,
        lines: placesOf(first),
        view: 'rows',
      })),
);

const DAMAGED: Readonly<Partial<Record<Told['what'], string>>> = {
  'bad bytes': 'a byte is not valid UTF-8 and is read as “�”',
  'no result': 'a formula has no stored result and is blank',
  'no text': 'the workbook lacks a text, and the cell is blank',
};

export const damagedCells = ofTables(
  'damaged-cells',
  'what was lost on its way is in no sum, and a damaged name is another one',
  ({ told = [] }) =>
    told.flatMap(({ what, first }) => {
      const said = DAMAGED[what];
      if (said === undefined) return [];
      const lines = linesNamed(placesOf(first), first.length, MOST_LINES);
      const text = `in ${lines} ${said}, first in “${first[0]!.raw.slice(0, 40)}”`;
      return [{ severity: 'warning', text, lines: placesOf(first), view: 'rows' }];
    }),
);

export const rowsTwice = ofTables(
  'double-rows',
  'a row that was sent twice is counted twice',
  async ({ id, duplicates, key }, { measures }, amountOf) => {
    if (!duplicates || !measures.some(({ table }) => table === id)) return [];
    const { count, lines, files } = duplicates;
    const amount = await amountOf(duplicates.sums);
    return [
      {
        severity: 'note',
        text: `${counted(count, 'row')} (${linesNamed(duplicates, count, MOST_LINES)}) ${count === 1 ? 'is' : 'are'} equal to one above in ${key ? listed(key, 'and') : 'all columns'}${withAmount(amount)}`,
        fact: 'double-rows',
        amount,
        lines: { lines, ...(files ? { files } : {}) },
        view: 'rows',
      },
    ];
  },
);

const lookupBy = ({ to, columns }: Joined) => `${listed(columns, 'and')} in “${to}”`;

export const keysNotFound = ofTables(
  'keys-not-found',
  'a row whose key is not found has nothing in the columns that are looked up, and is missing wherever they are asked for',
  async ({ joined = [] }, _, amountOf) => {
    const said = joined.map(async (one): Promise<OfTable[]> => {
      const missing = one.twice.length > 0 || one.undated ? null : one.notFound();
      if (!missing) return [];
      const { rows, keys, first, sums } = missing;
      const amount = await amountOf(sums);
      const named = someOf(
        first.map(({ key }) => key),
        keys,
      );
      const text = `${counted(rows, 'row')}${withAmount(amount)} ${rows === 1 ? 'does' : 'do'} not find ${lookupBy(one)}: ${named}`;
      return [{ severity: 'warning', text, amount, view: 'lookups' }];
    });
    return (await Promise.all(said)).flat();
  },
);

export const keysTwice = ofTables(
  'keys-twice',
  'of two rows with the same key nobody can say which one is meant, and rows must not be multiplied',
  ({ joined = [] }) =>
    joined.flatMap((one) =>
      one.twice.length === 0
        ? []
        : [
            {
              severity: 'error' as const,
              text: `“${one.to}” has more than one row for ${someOf(one.twice.map(({ key }) => key))}, so nothing can be looked up by ${listed(one.columns, 'and')}`,
              view: 'lookups' as const,
            },
          ],
    ),
);

export const daysFarOff = ofTables(
  'far-days',
  'a day that was mistyped moves its row into years that nobody looks at',
  ({ far }) => {
    if (!far) return [];
    const days = far.from === far.to ? writtenDay(far.from) : `${writtenDay(far.from)} to ${writtenDay(far.to)}`;
    return [
      {
        severity: 'warning',
        text: `${counted(far.count, 'row')} on ${days} (${linesNamed(far, far.count, MOST_LINES)}) ${far.count === 1 ? 'lies' : 'lie'} far from all others, from ${writtenDay(far.others.from)} to ${writtenDay(far.others.to)}, and ${far.count === 1 ? 'does' : 'do'} not set the as-of date`,
        lines: { lines: far.lines, ...(far.files ? { files: far.files } : {}) },
        view: 'rows',
      },
    ];
  },
);

export const daysUnlisted = ofTables(
  'days-unlisted',
  'beyond the months that are listed, fiscal months are taken to be as long as those of the nearest year',
  ({ span }, { calendar: { months } }) => {
    if (!months || !span) return [];
    const listed = listedSpan(months);
    if (span.from >= listed.from && span.to <= listed.to) return [];
    return [
      {
        severity: 'note',
        text: `rows from ${writtenDay(span.from)} to ${writtenDay(span.to)} reach beyond the fiscal months that are listed, from ${writtenDay(listed.from)} to ${writtenDay(listed.to)}`,
      },
    ];
  },
);
