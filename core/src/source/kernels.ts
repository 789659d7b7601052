import type { Codes } from '../table';

// The inner loops of a query. Each runs over one block of rows: `rows[i]` is a row of the table, `groups[i]` the group it
// falls into, `n` how many there are. They are small and see few array types, so that they compile to tight loops.

/** Rows a block holds: small enough for its vectors to stay in the first-level cache. */
export const BLOCK = 4096;

/** A block of a scan: `n` rows and the group each falls into. */
export interface Block {
  /** The rows are consecutive, from `from` on, and `rows` is not filled. */
  dense: boolean;
  from: number;
  n: number;
  /** The rows that were picked; call `pick` before reading them in a dense block. */
  readonly rows: Int32Array;
  readonly groups: Int32Array;
}

export function newBlock(): Block {
  return { dense: true, from: 0, n: 0, rows: new Int32Array(BLOCK), groups: new Int32Array(BLOCK) };
}

/** Makes sure that `rows` names the block's rows. */
export function pick(block: Block): Block {
  if (block.dense) {
    fillRows(block.rows, block.from, block.n);
    block.dense = false;
  }
  return block;
}

function fillRows(rows: Int32Array, from: number, n: number): void {
  for (let i = 0; i < n; i++) rows[i] = from + i;
}

/** Keeps the rows whose day lies in the span; returns how many. */
export function keepDays(days: Int32Array, from: number, to: number, rows: Int32Array, n: number): number {
  let kept = 0;
  for (let i = 0; i < n; i++) {
    const row = rows[i]!;
    const day = days[row]!;
    rows[kept] = row;
    kept += day >= from && day <= to ? 1 : 0;
  }
  return kept;
}

/** The same over `n` consecutive rows. */
export function pickDays(
  days: Int32Array,
  low: number,
  high: number,
  from: number,
  n: number,
  rows: Int32Array,
): number {
  let kept = 0;
  for (let row = from; row < from + n; row++) {
    const day = days[row]!;
    rows[kept] = row;
    kept += day >= low && day <= high ? 1 : 0;
  }
  return kept;
}

/** Keeps the rows whose code is marked; returns how many. */
export function keepMarked(codes: Codes, marks: Uint8Array, rows: Int32Array, n: number): number {
  let kept = 0;
  for (let i = 0; i < n; i++) {
    const row = rows[i]!;
    rows[kept] = row;
    kept += marks[codes[row]!]!;
  }
  return kept;
}

/** The same over `n` consecutive rows. */
export function pickMarked(codes: Codes, marks: Uint8Array, from: number, n: number, rows: Int32Array): number {
  let kept = 0;
  for (let row = from; row < from + n; row++) {
    rows[kept] = row;
    kept += marks[codes[row]!]!;
  }
  return kept;
}

/** Keeps the rows whose number lies in [low, high); blanks never do. */
export function keepBetween(values: Float64Array, low: number, high: number, rows: Int32Array, n: number): number {
  let kept = 0;
  for (let i = 0; i < n; i++) {
    const row = rows[i]!;
    const value = values[row]!;
    rows[kept] = row;
    kept += value >= low && value < high ? 1 : 0;
  }
  return kept;
}

/** The same over `n` consecutive rows. */
export function pickBetween(
  values: Float64Array,
  low: number,
  high: number,
  from: number,
  n: number,
  rows: Int32Array,
): number {
  let kept = 0;
  for (let row = from; row < from + n; row++) {
    const value = values[row]!;
    rows[kept] = row;
    kept += value >= low && value < high ? 1 : 0;
  }
  return kept;
}

/** The rows of a block for which a condition holds, with their groups. */
export function keepTrue(mask: Uint8Array, { dense, from, rows, groups, n }: Block, left: Block): void {
  let kept = 0;
  if (dense) {
    for (let i = 0; i < n; i++) {
      if (mask[from + i] === 0) continue;
      left.rows[kept] = from + i;
      left.groups[kept++] = groups[i]!;
    }
  } else {
    for (let i = 0; i < n; i++) {
      const row = rows[i]!;
      if (mask[row] === 0) continue;
      left.rows[kept] = row;
      left.groups[kept++] = groups[i]!;
    }
  }
  left.dense = false;
  left.n = kept;
}

/** Consecutive codes, times the stride, as groups; or added to the groups that are there. */
export function placeNarrow(codes: Uint8Array, stride: number, add: boolean, { from, groups, n }: Block): void {
  if (add) for (let i = 0; i < n; i++) groups[i] = groups[i]! + codes[from + i]! * stride;
  else if (stride === 1) for (let i = 0; i < n; i++) groups[i] = codes[from + i]!;
  else for (let i = 0; i < n; i++) groups[i] = codes[from + i]! * stride;
}

/** The codes of two narrow fields in one go. */
export function placeTwoNarrow(
  first: Uint8Array,
  stride: number,
  second: Uint8Array,
  secondStride: number,
  { from, groups, n }: Block,
): void {
  for (let i = 0; i < n; i++) groups[i] = first[from + i]! * stride + second[from + i]! * secondStride;
}

/** The same for wider codes. */
export function placeWide(
  codes: Uint16Array | Uint32Array,
  stride: number,
  add: boolean,
  { from, groups, n }: Block,
): void {
  if (add) for (let i = 0; i < n; i++) groups[i] = groups[i]! + codes[from + i]! * stride;
  else for (let i = 0; i < n; i++) groups[i] = codes[from + i]! * stride;
}

/** The same for rows that were picked. */
export function placePicked(codes: Codes, stride: number, add: boolean, { rows, groups, n }: Block): void {
  if (add) for (let i = 0; i < n; i++) groups[i] = groups[i]! + codes[rows[i]!]! * stride;
  else for (let i = 0; i < n; i++) groups[i] = codes[rows[i]!]! * stride;
}

/** The same for days, through a table from day to step. */
export function placeDays(days: Int32Array, first: number, steps: Int32Array, add: boolean, block: Block): void {
  const { from, rows, groups, n } = block;
  if (block.dense) {
    if (add) for (let i = 0; i < n; i++) groups[i] = groups[i]! + steps[days[from + i]! - first]!;
    else for (let i = 0; i < n; i++) groups[i] = steps[days[from + i]! - first]!;
  } else if (add) for (let i = 0; i < n; i++) groups[i] = groups[i]! + steps[days[rows[i]!]! - first]!;
  else for (let i = 0; i < n; i++) groups[i] = steps[days[rows[i]!]! - first]!;
}

/** The same for consecutive rows in date order: whole runs of rows fall into one step. */
export function placeRuns(days: Int32Array, first: number, steps: Int32Array, add: boolean, block: Block): void {
  const { from, groups, n } = block;
  for (let i = 0; i < n;) {
    const step = steps[days[from + i]! - first]!;
    let end = n;
    if (steps[days[from + n - 1]! - first] !== step) {
      // Where the run ends, by halves.
      let low = i + 1;
      while (low < end) {
        const middle = (low + end) >>> 1;
        if (steps[days[from + middle]! - first] === step) low = middle + 1;
        else end = middle;
      }
    }
    if (!add) groups.fill(step, i, end);
    else if (step !== 0) for (let j = i; j < end; j++) groups[j] = groups[j]! + step;
    i = end;
  }
}

/** Up to this many groups, four sums are kept for each, so that one addition need not wait for the one before it. */
const LANED_GROUPS = 2048;

/** How many places a sum or count needs for a number of groups. */
export function lanes(groups: number): number {
  return groups <= LANED_GROUPS ? 4 * groups : groups;
}

/** The sum of a group's lanes. */
export function laned(sums: Float64Array, group: number, groups: number): number {
  if (groups > LANED_GROUPS) return sums[group]!;
  return sums[group]! + sums[groups + group]! + sums[2 * groups + group]! + sums[3 * groups + group]!;
}

export function countRows({ groups, n }: Block, size: number, counts: Float64Array): void {
  let i = 0;
  if (size <= LANED_GROUPS) {
    const [b, c, d] = [size, 2 * size, 3 * size];
    for (; i + 3 < n; i += 4) {
      counts[groups[i]!]!++;
      counts[b + groups[i + 1]!]!++;
      counts[c + groups[i + 2]!]!++;
      counts[d + groups[i + 3]!]!++;
    }
  }
  for (; i < n; i++) counts[groups[i]!]!++;
}

/** Sums of consecutive rows of a column that has no blanks and whose partial sums are exact. */
export function addFilled(values: Float64Array, { from, groups, n }: Block, size: number, sums: Float64Array): void {
  let i = 0;
  if (size <= LANED_GROUPS) {
    const [b, c, d] = [size, 2 * size, 3 * size];
    for (; i + 3 < n; i += 4) {
      const at = from + i;
      sums[groups[i]!]! += values[at]!;
      sums[b + groups[i + 1]!]! += values[at + 1]!;
      sums[c + groups[i + 2]!]! += values[at + 2]!;
      sums[d + groups[i + 3]!]! += values[at + 3]!;
    }
  }
  for (; i < n; i++) sums[groups[i]!]! += values[from + i]!;
}

/** The same for rows that were picked. */
export function addFilledPicked(
  values: Float64Array,
  { rows, groups, n }: Block,
  size: number,
  sums: Float64Array,
): void {
  let i = 0;
  if (size <= LANED_GROUPS) {
    const [b, c, d] = [size, 2 * size, 3 * size];
    for (; i + 3 < n; i += 4) {
      sums[groups[i]!]! += values[rows[i]!]!;
      sums[b + groups[i + 1]!]! += values[rows[i + 1]!]!;
      sums[c + groups[i + 2]!]! += values[rows[i + 2]!]!;
      sums[d + groups[i + 3]!]! += values[rows[i + 3]!]!;
    }
  }
  for (; i < n; i++) sums[groups[i]!]! += values[rows[i]!]!;
}

/** The sum of consecutive rows, for a query with a single group. */
export function addAll(values: Float64Array, from: number, to: number): number {
  let a = 0;
  let b = 0;
  let c = 0;
  let d = 0;
  let i = from;
  for (; i + 3 < to; i += 4) {
    a += values[i]!;
    b += values[i + 1]!;
    c += values[i + 2]!;
    d += values[i + 3]!;
  }
  for (; i < to; i++) a += values[i]!;
  return a + b + (c + d);
}

/** Sums of the filled values of a column whose partial sums are exact, and how many are blank. */
export function addExact(
  values: Float64Array,
  { rows, groups, n }: Block,
  sums: Float64Array,
  missing: Float64Array,
): void {
  for (let i = 0; i < n; i++) {
    const value = values[rows[i]!]!;
    if (value === value) sums[groups[i]!]! += value;
    else missing[groups[i]!]!++;
  }
}

/** The same for consecutive rows, four sums a group. */
export function addExactRun(
  values: Float64Array,
  { from, groups, n }: Block,
  size: number,
  sums: Float64Array,
  missing: Float64Array,
): void {
  const wide = size <= LANED_GROUPS ? size : 0;
  for (let i = 0; i < n; i++) {
    const value = values[from + i]!;
    const group = groups[i]! + (i & 3) * wide;
    if (value === value) sums[group]! += value;
    else missing[group]!++;
  }
}

/** Marks the code of each row as seen in its group, and counts those seen for the first time; code 0 is blank. */
export function markSeen(
  codes: Codes,
  members: number,
  { rows, groups, n }: Block,
  seen: Uint8Array,
  counts: Float64Array,
): void {
  for (let i = 0; i < n; i++) {
    const code = codes[rows[i]!]!;
    if (code === 0) continue;
    const group = groups[i]!;
    const at = group * members + code;
    if (seen[at] === 0) {
      seen[at] = 1;
      counts[group]!++;
    }
  }
}

/** The same for ordinary doubles, with Neumaier's compensation. */
export function addCompensated(
  values: Float64Array,
  { rows, groups, n }: Block,
  sums: Float64Array,
  lost: Float64Array,
  counts: Float64Array,
): void {
  for (let i = 0; i < n; i++) {
    const value = values[rows[i]!]!;
    if (value !== value) continue;
    const group = groups[i]!;
    const sum = sums[group]!;
    const next = sum + value;
    lost[group]! += Math.abs(sum) >= Math.abs(value) ? sum - next + value : value - next + sum;
    sums[group] = next;
    counts[group]!++;
  }
}

/** Lowest (sign 1) or highest (sign −1) filled value; `best` begins at ∞ · sign. */
export function keepExtreme(values: Float64Array, sign: 1 | -1, { rows, groups, n }: Block, best: Float64Array): void {
  for (let i = 0; i < n; i++) {
    const value = values[rows[i]!]!;
    if (sign * (best[groups[i]!]! - value) > 0) best[groups[i]!] = value;
  }
}

/** Welford's running mean and sum of squared distances. */
export function addMoments(
  values: Float64Array,
  { rows, groups, n }: Block,
  means: Float64Array,
  squares: Float64Array,
  counts: Float64Array,
): void {
  for (let i = 0; i < n; i++) {
    const value = values[rows[i]!]!;
    if (value !== value) continue;
    const group = groups[i]!;
    const count = counts[group]! + 1;
    counts[group] = count;
    const away = value - means[group]!;
    means[group]! += away / count;
    squares[group]! += away * (value - means[group]!);
  }
}
