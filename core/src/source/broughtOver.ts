import { NO_DAY } from '../calendar';
import { power } from '../number';
import { codesFor, once, type Column, type NumberColumn } from '../table';
import type { Followed } from './following';

/**
 * A column of the other table for the rows of this one. Its values are brought over when something reads them.
 * @param refuse throws where nothing can be looked up
 */
export function broughtOver(
  name: string,
  of: Column,
  { found, byCode }: Followed,
  rows: number,
  convention: string,
  refuse: () => void,
): Column {
  /** One value for each row: from the code of its key where that is enough. */
  function values<T extends { [row: number]: number; readonly length: number }>(
    into: T,
    at: ArrayLike<number>,
    missing: number,
  ): T {
    refuse();
    if (byCode) {
      const perCode = Array.from(byCode.rows, (row) => (row < 0 ? missing : at[row]!));
      for (let row = 0; row < into.length; row++) into[row] = perCode[byCode.codes[row]!]!;
    } else {
      const from = found();
      for (let row = 0; row < into.length; row++) into[row] = from[row]! < 0 ? missing : at[from[row]!]!;
    }
    return into;
  }
  const blanks = (all: ArrayLike<number>, isBlank: (value: number) => boolean) => {
    let count = 0;
    for (let row = 0; row < all.length; row++) if (isBlank(all[row]!)) count++;
    return count;
  };
  const base = { name, convention };
  switch (of.kind) {
    case 'text':
    case 'yesno': {
      const codes = once(() =>
        values(of.kind === 'yesno' ? new Uint8Array(rows) : codesFor(of.members.length, rows), of.codes, 0),
      );
      const blank = once(() => blanks(codes(), (code) => code === 0));
      return {
        ...base,
        kind: of.kind,
        members: of.members,
        get codes() {
          return codes();
        },
        get blank() {
          return blank();
        },
      } as Column;
    }
    case 'date': {
      const days = once(() => values(new Int32Array(rows), of.days, NO_DAY));
      const written = of.written && once(() => values(new Int32Array(rows), of.written!, NO_DAY));
      const blank = once(() => blanks(days(), (day) => day === NO_DAY));
      return {
        ...base,
        kind: 'date',
        grain: of.grain,
        read: of.read,
        ...(written
          ? {
              get written() {
                return written();
              },
            }
          : {}),
        get days() {
          return days();
        },
        get blank() {
          return blank();
        },
      };
    }
    case 'number': {
      const { decimals, isTooLarge } = exactness(of, rows);
      const scale = decimals === of.decimals ? 1 : power(of.decimals ?? 0);
      const numbers = once(() => {
        const all = values(new Float64Array(rows), of.values, NaN);
        if (scale !== 1) for (let row = 0; row < rows; row++) all[row] = all[row]! / scale;
        return all;
      });
      const blank = once(() => blanks(numbers(), Number.isNaN));
      return {
        ...base,
        kind: 'number',
        decimals,
        ...(of.unit === undefined ? {} : { unit: of.unit }),
        ...(of.units ? { units: of.units } : {}),
        ...(isTooLarge ? { tooLarge: true as const } : {}),
        get values() {
          return numbers();
        },
        get blank() {
          return blank();
        },
      };
    }
  }
}

/** A number that stands in so many rows may be too large to be added up to the last digit. */
function exactness({ values, decimals, tooLarge }: NumberColumn, rows: number) {
  if (decimals === null) return { decimals, isTooLarge: tooLarge === true };
  const most = values.reduce((most, value) => (Math.abs(value) > most ? Math.abs(value) : most), 0);
  const isTooLarge = most * rows > Number.MAX_SAFE_INTEGER;
  return { decimals: isTooLarge ? null : decimals, isTooLarge };
}
