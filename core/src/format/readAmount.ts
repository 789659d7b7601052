import { readNumber } from '../reading/readNumber';

/**
 * An amount as a person types it: `10M`, `10,000,000`, `€5M`, `1.234,5`, `-3`, `12 %`. Where a text can be read in two ways, the
 * point is the decimal mark. Null where it is no number.
 */
export function readAmount(text: string): number | null {
  const typed = text.trim();
  const plain = Number(typed.replace('−', '-'));
  if (typed !== '' && Number.isFinite(plain)) return plain;
  for (const style of ['point', 'comma'] as const) {
    const value = readNumber(typed, style);
    if (Number.isFinite(value)) return value;
  }
  return null;
}
