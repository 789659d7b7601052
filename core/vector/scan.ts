/**
 * The inner loops of a scan in WebAssembly, written in AssemblyScript: `npm run generate` compiles them into
 * `core/src/vector/program.ts`. A scan looks at a block of rows at a time, which is copied into this memory; every
 * parameter that names a column, a list or a table is an address in bytes.
 *
 * A mask is a byte a row, 0 or 255. A list of rows (`rows`) holds places within the block as 16 bits each. Groups are 32
 * bits each: the address of a group's first record, less the address of the table of records. A record is two doubles.
 */

/** Keeps in the mask the rows whose double lies in [low, high); blanks, which are NaN, never do. */
export function maskBetween(values: usize, low: f64, high: f64, n: i32, mask: usize): void {
  const least = f64x2.splat(low);
  const most = f64x2.splat(high);
  for (let i: i32 = 0; i < n; i += 8) {
    const at = values + ((<usize>i) << 3);
    const a = within(v128.load(at), least, most);
    const b = within(v128.load(at, 16), least, most);
    const c = within(v128.load(at, 32), least, most);
    const d = within(v128.load(at, 48), least, most);
    // All bits of a lane are alike, so that a part of it stands for it.
    const ab = v128.shuffle<i32>(a, b, 0, 2, 4, 6);
    const cd = v128.shuffle<i32>(c, d, 0, 2, 4, 6);
    const eight = inBytes(ab, cd);
    store<i64>(mask + i, load<i64>(mask + i) & i64x2.extract_lane(eight, 0));
  }
}

function within(values: v128, least: v128, most: v128): v128 {
  return v128.and(f64x2.ge(values, least), f64x2.lt(values, most));
}

/** Eight marks of four bytes each as bytes. */
function inBytes(low: v128, high: v128): v128 {
  const shorts = i16x8.narrow_i32x4_s(low, high);
  return i8x16.narrow_i16x8_s(shorts, shorts);
}

/** Keeps in the mask the rows whose day lies in the span, both ends included. */
export function maskDays(days: usize, from: i32, to: i32, n: i32, mask: usize): void {
  const first = i32x4.splat(from);
  const last = i32x4.splat(to);
  for (let i: i32 = 0; i < n; i += 8) {
    const at = days + ((<usize>i) << 2);
    const a = v128.load(at);
    const b = v128.load(at, 16);
    const low = v128.and(i32x4.ge_s(a, first), i32x4.le_s(a, last));
    const high = v128.and(i32x4.ge_s(b, first), i32x4.le_s(b, last));
    const eight = inBytes(low, high);
    store<i64>(mask + i, load<i64>(mask + i) & i64x2.extract_lane(eight, 0));
  }
}

/** Keeps in the mask the rows whose code is marked: of no more than 16 codes. `marks` holds 0 or 255 for each. */
export function maskFewCodes(codes: usize, marks: usize, n: i32, mask: usize): void {
  const marked = v128.load(marks);
  for (let i: i32 = 0; i < n; i += 16) {
    const at = mask + i;
    v128.store(at, v128.and(v128.load(at), v128.swizzle(marked, v128.load(codes + i))));
  }
}

/** The same for codes of a byte each. */
export function maskBytes(codes: usize, marks: usize, n: i32, mask: usize): void {
  for (let i: i32 = 0; i < n; i++) {
    const at = mask + i;
    store<u8>(at, load<u8>(at) & load<u8>(marks + load<u8>(codes + i)));
  }
}

/** The same for codes of two bytes each. */
export function maskShorts(codes: usize, marks: usize, n: i32, mask: usize): void {
  for (let i: i32 = 0; i < n; i++) {
    const at = mask + i;
    store<u8>(at, load<u8>(at) & load<u8>(marks + load<u16>(codes + ((<usize>i) << 1))));
  }
}

/** The same for codes of four bytes each. */
export function maskWords(codes: usize, marks: usize, n: i32, mask: usize): void {
  for (let i: i32 = 0; i < n; i++) {
    const at = mask + i;
    store<u8>(at, load<u8>(at) & load<u8>(marks + <usize>load<u32>(codes + ((<usize>i) << 2))));
  }
}

/** Keeps in the mask the rows whose byte is not 0. */
export function maskTrue(bytes: usize, n: i32, mask: usize): void {
  const zero = i8x16.splat(0);
  for (let i: i32 = 0; i < n; i += 16) {
    const at = mask + i;
    v128.store(at, v128.and(v128.load(at), i8x16.ne(v128.load(bytes + i), zero)));
  }
}

/** Fills a table of 256 times eight bytes: for each byte the places of its bits that are set. `pick` reads from it. */
export function fillPlaces(places: usize): void {
  for (let byte: i32 = 0; byte < 256; byte++) {
    let at = places + ((<usize>byte) << 3);
    for (let bit: i32 = 0; bit < 8; bit++) {
      if (((byte >> bit) & 1) === 0) continue;
      store<u8>(at, <u8>bit);
      at++;
    }
  }
}

/** Lists the rows of a mask; returns how many. What stands in the mask behind `n` must be 0. */
export function pick(mask: usize, n: i32, rows: usize, places: usize): i32 {
  let to = rows;
  for (let i: i32 = 0; i < n; i += 16) {
    const bits = i8x16.bitmask(v128.load(mask + i));
    if (bits === 0) continue;
    const low = <usize>(bits & 255);
    const high = <usize>(bits >> 8);
    v128.store(to, i16x8.add(i16x8.splat(<i16>i), v128.load8x8_u(places + (low << 3))));
    to += (<usize>popcnt<i32>(bits & 255)) << 1;
    v128.store(to, i16x8.add(i16x8.splat(<i16>(i + 8)), v128.load8x8_u(places + (high << 3))));
    to += (<usize>popcnt<i32>(bits >> 8)) << 1;
  }
  return <i32>((to - rows) >> 1);
}

/** Takes the listed rows out of a list of bytes. */
export function takeBytes(from: usize, rows: usize, n: i32, to: usize): void {
  for (let i: i32 = 0; i < n; i++) store<u8>(to + i, load<u8>(from + <usize>load<u16>(rows + ((<usize>i) << 1))));
}

/** The same of two bytes each. */
export function takeShorts(from: usize, rows: usize, n: i32, to: usize): void {
  for (let i: i32 = 0; i < n; i++)
    store<u16>(to + ((<usize>i) << 1), load<u16>(from + ((<usize>load<u16>(rows + ((<usize>i) << 1))) << 1)));
}

/** The same of four bytes each. */
export function takeWords(from: usize, rows: usize, n: i32, to: usize): void {
  for (let i: i32 = 0; i < n; i++)
    store<u32>(to + ((<usize>i) << 2), load<u32>(from + ((<usize>load<u16>(rows + ((<usize>i) << 1))) << 2)));
}

/** The same of doubles. */
export function takeDoubles(from: usize, rows: usize, n: i32, to: usize): void {
  for (let i: i32 = 0; i < n; i++)
    store<u64>(to + ((<usize>i) << 3), load<u64>(from + ((<usize>load<u16>(rows + ((<usize>i) << 1))) << 3)));
}

/** The same number for all rows from one on. */
export function fillGroups(groups: usize, from: i32, to: i32, value: i32): void {
  const all = i32x4.splat(value);
  let i = from;
  for (; i + 3 < to; i += 4) v128.store(groups + ((<usize>i) << 2), all);
  for (; i < to; i++) store<i32>(groups + ((<usize>i) << 2), value);
}

/** Codes of a byte each, times the stride, are added to the groups. Reads and writes up to 15 rows behind the last. */
export function placeBytes(codes: usize, stride: i32, n: i32, groups: usize): void {
  const by = i32x4.splat(stride);
  for (let i: i32 = 0; i < n; i += 16) {
    const all = v128.load(codes + i);
    const low = i16x8.extend_low_i8x16_u(all);
    const high = i16x8.extend_high_i8x16_u(all);
    const at = groups + ((<usize>i) << 2);
    v128.store(at, i32x4.add(v128.load(at), i32x4.mul(i32x4.extend_low_i16x8_u(low), by)));
    v128.store(at, i32x4.add(v128.load(at, 16), i32x4.mul(i32x4.extend_high_i16x8_u(low), by)), 16);
    v128.store(at, i32x4.add(v128.load(at, 32), i32x4.mul(i32x4.extend_low_i16x8_u(high), by)), 32);
    v128.store(at, i32x4.add(v128.load(at, 48), i32x4.mul(i32x4.extend_high_i16x8_u(high), by)), 48);
  }
}

/** The same for codes of two bytes each. */
export function placeShorts(codes: usize, stride: i32, n: i32, groups: usize): void {
  const by = i32x4.splat(stride);
  for (let i: i32 = 0; i < n; i += 8) {
    const all = v128.load(codes + ((<usize>i) << 1));
    const at = groups + ((<usize>i) << 2);
    v128.store(at, i32x4.add(v128.load(at), i32x4.mul(i32x4.extend_low_i16x8_u(all), by)));
    v128.store(at, i32x4.add(v128.load(at, 16), i32x4.mul(i32x4.extend_high_i16x8_u(all), by)), 16);
  }
}

/** The same for codes of four bytes each. */
export function placeWords(codes: usize, stride: i32, n: i32, groups: usize): void {
  const by = i32x4.splat(stride);
  for (let i: i32 = 0; i < n; i += 4) {
    const at = groups + ((<usize>i) << 2);
    v128.store(at, i32x4.add(v128.load(at), i32x4.mul(v128.load(codes + ((<usize>i) << 2)), by)));
  }
}

/** What a table says of each day is added to the groups; it begins with the day `first`. Days outside fall on its last place. */
export function placeDays(days: usize, first: i32, table: usize, length: i32, n: i32, groups: usize): void {
  const last = <u32>(length - 1);
  for (let i: i32 = 0; i < n; i++) {
    const at = groups + ((<usize>i) << 2);
    const day = min<u32>(<u32>(load<i32>(days + ((<usize>i) << 2)) - first), last);
    store<i32>(at, load<i32>(at) + load<i32>(table + ((<usize>day) << 2)));
  }
}

/** Adds [0, 1] to the record of each row. */
export function addRows(groups: usize, n: i32, records: usize, lane: usize): void {
  const one = f64x2.replace_lane(f64x2.splat(0), 1, 1);
  const second = records + lane;
  let i: i32 = 0;
  for (; i + 1 < n; i += 2) {
    const at = groups + ((<usize>i) << 2);
    add(records + <usize>load<u32>(at), one);
    add(second + <usize>load<u32>(at, 4), one);
  }
  if (i < n) add(records + <usize>load<u32>(groups + ((<usize>i) << 2)), one);
}

function add(record: usize, what: v128): void {
  v128.store(record, f64x2.add(v128.load(record), what));
}

/** Adds [value, 1]. Rows take turns in four tables of records, `lane` bytes apart, so that none waits for the one before it. */
export function addCounted(values: usize, groups: usize, n: i32, records: usize, lane: usize): void {
  const one = f64x2.splat(1);
  const second = records + lane;
  const third = second + lane;
  const fourth = third + lane;
  let i: i32 = 0;
  for (; i + 3 < n; i += 4) {
    const at = groups + ((<usize>i) << 2);
    const place = values + ((<usize>i) << 3);
    add(records + <usize>load<u32>(at), v128.load64_lane(place, one, 0));
    add(second + <usize>load<u32>(at, 4), v128.load64_lane(place, one, 0, 8));
    add(third + <usize>load<u32>(at, 8), v128.load64_lane(place, one, 0, 16));
    add(fourth + <usize>load<u32>(at, 12), v128.load64_lane(place, one, 0, 24));
  }
  for (; i < n; i++)
    add(records + <usize>load<u32>(groups + ((<usize>i) << 2)), v128.load64_lane(values + ((<usize>i) << 3), one, 0));
}

/** The same for listed rows: values and groups are those of the whole block. */
export function addCountedAt(values: usize, rows: usize, groups: usize, n: i32, records: usize, lane: usize): void {
  const one = f64x2.splat(1);
  const second = records + lane;
  const third = second + lane;
  const fourth = third + lane;
  let i: i32 = 0;
  for (; i + 3 < n; i += 4) {
    const at = rows + ((<usize>i) << 1);
    const a = <usize>load<u16>(at);
    const b = <usize>load<u16>(at, 2);
    const c = <usize>load<u16>(at, 4);
    const d = <usize>load<u16>(at, 6);
    add(records + <usize>load<u32>(groups + (a << 2)), v128.load64_lane(values + (a << 3), one, 0));
    add(second + <usize>load<u32>(groups + (b << 2)), v128.load64_lane(values + (b << 3), one, 0));
    add(third + <usize>load<u32>(groups + (c << 2)), v128.load64_lane(values + (c << 3), one, 0));
    add(fourth + <usize>load<u32>(groups + (d << 2)), v128.load64_lane(values + (d << 3), one, 0));
  }
  for (; i < n; i++) {
    const row = <usize>load<u16>(rows + ((<usize>i) << 1));
    add(records + <usize>load<u32>(groups + (row << 2)), v128.load64_lane(values + (row << 3), one, 0));
  }
}

/**
 * Adds [value, `filled` + 1] where there is a value, and [0, 1] for a blank: both counts in one double, as far as there are
 * fewer rows than `filled`.
 */
export function addGapped(values: usize, groups: usize, n: i32, records: usize, lane: usize, filled: f64): void {
  const one = f64x2.replace_lane(f64x2.splat(0), 1, 1);
  const two = f64x2.replace_lane(f64x2.splat(0), 1, filled);
  const second = records + lane;
  const third = second + lane;
  const fourth = third + lane;
  let i: i32 = 0;
  for (; i + 3 < n; i += 4) {
    const at = groups + ((<usize>i) << 2);
    const place = values + ((<usize>i) << 3);
    add(records + <usize>load<u32>(at), f64x2.add(one, gapped(place, two)));
    add(second + <usize>load<u32>(at, 4), f64x2.add(one, gapped(place + 8, two)));
    add(third + <usize>load<u32>(at, 8), f64x2.add(one, gapped(place + 16, two)));
    add(fourth + <usize>load<u32>(at, 12), f64x2.add(one, gapped(place + 24, two)));
  }
  for (; i < n; i++)
    add(
      records + <usize>load<u32>(groups + ((<usize>i) << 2)),
      f64x2.add(one, gapped(values + ((<usize>i) << 3), two)),
    );
}

/** The value at an address beside a number; zeros where it is NaN. */
function gapped(value: usize, beside: v128): v128 {
  const twice = v128.load64_splat(value);
  return v128.and(v128.load64_lane(value, beside, 0), f64x2.eq(twice, twice));
}

/** Adds [value, other]. */
export function addTwo(values: usize, others: usize, groups: usize, n: i32, records: usize, lane: usize): void {
  const second = records + lane;
  const third = second + lane;
  const fourth = third + lane;
  let i: i32 = 0;
  for (; i + 3 < n; i += 4) {
    const at = groups + ((<usize>i) << 2);
    const a = v128.load(values + ((<usize>i) << 3));
    const b = v128.load(values + ((<usize>i) << 3), 16);
    const c = v128.load(others + ((<usize>i) << 3));
    const d = v128.load(others + ((<usize>i) << 3), 16);
    add(records + <usize>load<u32>(at), v128.shuffle<i64>(a, c, 0, 2));
    add(second + <usize>load<u32>(at, 4), v128.shuffle<i64>(a, c, 1, 3));
    add(third + <usize>load<u32>(at, 8), v128.shuffle<i64>(b, d, 0, 2));
    add(fourth + <usize>load<u32>(at, 12), v128.shuffle<i64>(b, d, 1, 3));
  }
  for (; i < n; i++) {
    const both = v128.load64_lane(others + ((<usize>i) << 3), v128.load64_splat(values + ((<usize>i) << 3)), 1);
    add(records + <usize>load<u32>(groups + ((<usize>i) << 2)), both);
  }
}

/** The sum of consecutive doubles without blanks, any partial sum of which is exact. */
export function total(values: usize, n: i32): f64 {
  let a = f64x2.splat(0);
  let b = f64x2.splat(0);
  let i: i32 = 0;
  for (; i + 3 < n; i += 4) {
    const at = values + ((<usize>i) << 3);
    a = f64x2.add(a, v128.load(at));
    b = f64x2.add(b, v128.load(at, 16));
  }
  a = f64x2.add(a, b);
  let sum = f64x2.extract_lane(a, 0) + f64x2.extract_lane(a, 1);
  for (; i < n; i++) sum += load<f64>(values + ((<usize>i) << 3));
  return sum;
}

/** Marks each code of a byte as seen in its row's group, which has `members` marks. */
export function markBytes(codes: usize, members: i32, groups: usize, n: i32, seen: usize): void {
  for (let i: i32 = 0; i < n; i++) {
    const group = <usize>load<u32>(groups + ((<usize>i) << 2)) >> 4;
    store<u8>(seen + group * members + <usize>load<u8>(codes + i), 1);
  }
}

/** The same for codes of two bytes each. */
export function markShorts(codes: usize, members: i32, groups: usize, n: i32, seen: usize): void {
  for (let i: i32 = 0; i < n; i++) {
    const group = <usize>load<u32>(groups + ((<usize>i) << 2)) >> 4;
    store<u8>(seen + group * members + <usize>load<u16>(codes + ((<usize>i) << 1)), 1);
  }
}

/** The same for codes of four bytes each. */
export function markWords(codes: usize, members: i32, groups: usize, n: i32, seen: usize): void {
  for (let i: i32 = 0; i < n; i++) {
    const group = <usize>load<u32>(groups + ((<usize>i) << 2)) >> 4;
    store<u8>(seen + group * members + <usize>load<u32>(codes + ((<usize>i) << 2)), 1);
  }
}
