import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { tries } from '../proof/tries.fixture';
import { proposeMerges, proposeNames } from './likeness';

const KNOWN = [
  'Nils Ohara',
  'Ines Vale',
  'Jürgen Groß',
  'Søren Lund',
  'Mia de Vries',
  'Nora Ohlsen',
  'John O’Brien',
  'Kvik 12',
  'Kvik 13',
];
const meant = (name: string, known: readonly string[] = KNOWN) => proposeNames([name], known)[0] ?? null;

describe('names that may be one', () => {
  test.each([
    ['nils  ohara', 'Nils Ohara', 'spelling'],
    ['Ohara, Nils', 'Nils Ohara', 'spelling'],
    ['Vale, Ines', 'Ines Vale', 'spelling'],
    ['INÉS VALE', 'Ines Vale', 'spelling'],
    ['Juergen Gross', 'Jürgen Groß', 'spelling'],
    ['Jurgen Gross', 'Jürgen Groß', 'spelling'],
    ['Soren Lund', 'Søren Lund', 'spelling'],
    ['Soeren Lund', 'Søren Lund', 'spelling'],
    ['N. Ohara', 'Nils Ohara', 'initials'],
    ['Ohara N.', 'Nils Ohara', 'initials'],
    ['M. de Vries', 'Mia de Vries', 'initials'],
    ['John OBrien', 'John O’Brien', 'spelling'],
    ['J. OBrien', 'John O’Brien', 'initials'],
    ["O'brien, John", 'John O’Brien', 'spelling'],
    ['Nils Ohra', 'Nils Ohara', 'letters'],
    ['Inez Vale', 'Ines Vale', 'letters'],
    ['Vale', 'Ines Vale', 'part'],
    ['Ohara', 'Nils Ohara', 'part'],
  ])('%s may be %s, by its %s', (name, other, why) => {
    expect(meant(name)).toEqual({ name, meant: other, why });
  });

  test.each([['N.'], ['Lund 7'], ['Kvik 14'], ['Somebody Else'], ['Kvik'], ['']])('“%s” is nobody known', (name) =>
    expect(meant(name)).toBeNull(),
  );

  test('where several are as likely none is proposed', () => {
    expect(meant('N. Ohara', ['Nils Ohara', 'Nora Ohara'])).toBeNull();
    expect(meant('Anna Berk', ['Anna Berg', 'Anna Bert'])).toBeNull();
    expect(meant('Ohara', ['Nils Ohara', 'Nora Ohara'])).toBeNull();
    expect(meant('ohara, nils', ['Nils Ohara', 'nils ohara'])).toMatchObject({ meant: 'Nils Ohara' });
  });

  test('of one list the spelling with less weight is read as the one with most', () => {
    expect(
      proposeMerges(['fenwick', 'Fenwick', 'FENWICK ', 'Tarn', 'Fenwik', 'Fenwick 2'], [3, 90, 1, 5, 2, 8]),
    ).toEqual([
      { name: 'fenwick', meant: 'Fenwick', why: 'spelling' },
      { name: 'Fenwik', meant: 'Fenwick', why: 'letters' },
      { name: 'FENWICK ', meant: 'Fenwick', why: 'spelling' },
    ]);
  });

  const name = fc
    .array(fc.constantFrom('Nils', 'Ines', 'Nora', 'Ohara', 'Groß', 'Gross', 'N', 'O', 'Vale', 'Ohra', '7'), {
      minLength: 1,
      maxLength: 3,
    })
    .map((words) => words.join(' '));

  test('law: order, case, accents and signs change nothing; a proposal is a known name, and never the name itself', () =>
    fc.assert(
      fc.property(fc.uniqueArray(name, { maxLength: 6 }), name, (known, written) => {
        const found = meant(written, known);
        if (found) expect(known).toContain(found.meant);
        expect(found?.meant).not.toBe(written);
        const other = `${written.split(' ').reverse().join(',  ').toUpperCase()}.`;
        if (known.includes(written)) {
          const spelled = meant(other, known);
          if (spelled) expect(['spelling']).toContain(spelled.why);
        } else if (found && found.why !== 'letters') expect(meant(other, known)).toMatchObject({ meant: found.meant });
      }),
      { numRuns: tries(300) },
    ));

  test('law: merging leads nowhere in a ring, and what is merged away is nowhere merged into', () =>
    fc.assert(
      fc.property(
        fc.uniqueArray(name, { maxLength: 8 }),
        fc.array(fc.nat(5), { minLength: 8, maxLength: 8 }),
        (names, weights) => {
          const merges = proposeMerges(names, weights);
          const gone = new Set(merges.map((one) => one.name));
          expect(gone.size).toBe(merges.length);
          for (const one of merges) expect(gone.has(one.meant)).toBe(false);
        },
      ),
      { numRuns: tries(300) },
    ));
});
