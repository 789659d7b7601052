import { codedField } from './coded';
import type { Column, Table } from './column';

/** More members than these make no level that anybody goes into. */
const MOST_MEMBERS = 5000;

/** Whether each member of one field has a single member of another beside it wherever it stands. */
function determines(fine: Column, wide: Column): boolean {
  const [a, b] = [codedField(fine), codedField(wide)];
  const beside = new Int32Array(a.members.length).fill(-1);
  for (let row = 0; row < a.codes.length; row++) {
    const [from, to] = [a.codes[row]!, b.codes[row]!];
    if (from === 0 || to === 0) continue;
    if (beside[from] === -1) beside[from] = to;
    else if (beside[from] !== to) return false;
  }
  return true;
}

/**
 * Fields of a table in order, each finer than the one before: every member of it has one member of the wider field beside it, and there
 * are at least half as many again. Each field stands in one of them as far down as it can.
 */
export function levelsIn(table: Table): string[][] {
  const sizes = (column: Column) => codedField(column).members.length - 1;
  const fields = table.columns
    .filter(({ kind }) => kind === 'text')
    .filter((column) => sizes(column) > 1 && sizes(column) <= MOST_MEMBERS && sizes(column) < table.rows / 2)
    .sort((a, b) => sizes(a) - sizes(b));
  const chains: Column[][] = [];
  for (const field of fields) {
    // A code and what it means are one level.
    const isSame = (other: Column) => sizes(other) === sizes(field) && determines(field, other);
    if (chains.flat().some(isSame)) continue;
    const isFiner = (than: Column) => sizes(field) >= 1.5 * sizes(than) && determines(field, than);
    // Below the finest it is finer than, at the end of a chain, or of a part of one.
    const ways = chains.flatMap((chain) => {
      let end = chain.length;
      while (end > 0 && !isFiner(chain[end - 1]!)) end--;
      return end === 0 ? [] : [{ chain, end }];
    });
    const best = ways.sort((a, b) => b.end - a.end)[0];
    if (!best) chains.push([field]);
    else if (best.end === best.chain.length) best.chain.push(field);
    else chains.push([...best.chain.slice(0, best.end), field]);
  }
  return chains.filter(({ length }) => length > 1).map((chain) => chain.map(({ name }) => name));
}
