import { listedSpan, writtenDay } from '../../calendar';
import { counted, listed, someOf } from '../../problem';
import type { TableFacts } from '../../query';
import { likelyMeasure, type Report } from '../../report';
import { linesNamed, type Joined, type LinesFound, type Told } from '../../table';
import type { LevelCheck, Said } from '../level';

/** A check of each table, as its file was read. */
const ofTables = (
  code: string,
  why: string,
  look: (facts: TableFacts, report: Report) => readonly Omit<Said, 'about'>[],
): LevelCheck => ({
  code,
  why,
  run: ({ report, source }) =>
    report.tables.flatMap(({ id }) => {
      const facts = source.facts(id);
      return facts ? look(facts, report).map((said) => ({ ...said, about: { kind: 'table' as const, id } })) : [];
    }),
});

/** Lines named in a sentence. */
const MOST_LINES = 5;

/** The places of what is told of a file. */
const placesOf = (first: Told['first']): LinesFound => ({
  lines: first.map(({ line }) => line),
  ...(first[0]?.file === undefined ? {} : { files: first.map(({ file }) => file!) }),
});

export const strayQuotes = ofTables(
  'stray-quotes',
  'a quote that encloses no cell may belong to one that was torn apart',
  ({ told = [] }) =>
    told
      .filter(({ what }) => what === 'stray quote')
      .map(({ count, first }) => ({
        severity: 'note',
        text: `in ${linesNamed(placesOf(first), count, MOST_LINES)} a quote encloses no cell and is read as a letter, first before “${first[0]!.raw.replace(/^"/, '').slice(0, 40)}”`,
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
      return [{ severity: 'warning', text: `in ${lines} ${said}, first in “${first[0]!.raw.slice(0, 40)}”` }];
    }),
);

export const rowsTwice = ofTables(
  'double-rows',
  'a row that was sent twice is counted twice',
  ({ id, duplicates, key }, { measures }) => {
    if (!duplicates || !measures.some(({ table }) => table === id)) return [];
    const { count } = duplicates;
    return [
      {
        severity: 'note',
        text: `${counted(count, 'row')} (${linesNamed(duplicates, count, MOST_LINES)}) ${count === 1 ? 'is' : 'are'} equal to one above in ${key ? listed(key, 'and') : 'all columns'}`,
      },
    ];
  },
);

const lookupBy = ({ to, columns }: Joined) => `${listed(columns, 'and')} in “${to}”`;

export const keysNotFound = ofTables(
  'keys-not-found',
  'a row whose key is not found has nothing in the columns that are looked up, and is missing wherever they are asked for',
  ({ joined = [] }) =>
    joined.flatMap((one) => {
      const missing = one.twice.length > 0 || one.undated ? null : one.notFound();
      if (!missing) return [];
      const { rows, keys, first, sums } = missing;
      const of = likelyMeasure(Object.keys(sums));
      const amount =
        of === undefined ? '' : `, with ${sums[of]!.toLocaleString('en', { maximumFractionDigits: 2 })} in ${of}`;
      return [
        {
          severity: 'warning' as const,
          text: `${counted(rows, 'row')}${amount} ${rows === 1 ? 'does' : 'do'} not find ${lookupBy(one)}: ${someOf(
            first.map(({ key }) => key),
            keys,
          )}`,
        },
      ];
    }),
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
