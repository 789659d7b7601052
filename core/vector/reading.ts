/**
 * The inner loops of reading delimited text, see `core/src/reading/cells.ts`. A piece of a file lies in this memory; cells are told by
 * where they begin and end in it (`starts`, `ends`: 32 bits each, row by row), and every other parameter that names a list or a
 * table is an address in bytes. Loops may read up to 16 bytes behind what they are given.
 */

const QUOTE: u8 = 34;
const SPACE: u8 = 32;
const LAST_ASCII: u8 = 126;

/** Whether all bytes are ASCII. */
export function isAscii(text: usize, length: i32): bool {
  let all = i8x16.splat(0);
  let i: i32 = 0;
  for (; i + 15 < length; i += 16) all = v128.or(all, v128.load(text + i));
  let last: u8 = 0;
  for (; i < length; i++) last |= load<u8>(text + i);
  return i8x16.bitmask(all) === 0 && last < 128;
}

/**
 * Finds the cells of whole rows of `width` cells each.
 * @param second the second byte of a line end; −1 where it has one
 * @param room for so many cells
 * @param found where the number of rows is put
 * @returns where the last of these rows ends; −1 where it takes more to tell cells: quotes within them, line ends between quotes,
 * rows of another width or with nothing in them
 */
export function splitRows(
  text: usize,
  end: i32,
  delimiter: u8,
  first: u8,
  second: i32,
  width: i32,
  starts: usize,
  ends: usize,
  room: i32,
  found: usize,
): i32 {
  const delimiters = i8x16.splat(<i8>delimiter);
  const firsts = i8x16.splat(<i8>first);
  const quotes = i8x16.splat(<i8>QUOTE);
  let count: i32 = 0;
  let inRow: i32 = 0;
  let rows: i32 = 0;
  let rowEnd: i32 = 0;
  let start: i32 = 0;
  store<i32>(found, 0);
  for (let i: i32 = 0; i < end;) {
    const bytes = v128.load(text + i);
    const special = v128.or(v128.or(i8x16.eq(bytes, delimiters), i8x16.eq(bytes, firsts)), i8x16.eq(bytes, quotes));
    let bits = i8x16.bitmask(special);
    if (i + 16 > end) bits &= (1 << (end - i)) - 1;
    let next = i + 16;
    while (bits !== 0) {
      let at = i + ctz(bits);
      bits &= bits - 1;
      let byte = load<u8>(text + at);
      let from = start;
      let stop = at;
      const isQuoted = byte === QUOTE;
      if (isQuoted) {
        if (at !== start) return -1;
        from = at + 1;
        stop = from;
        for (; stop < end; stop++) {
          const within = load<u8>(text + stop);
          if (within === QUOTE) break;
          if (within === 10 || within === 13) return -1;
        }
        at = stop + 1;
        if (at >= end) return rowEnd;
        byte = load<u8>(text + at);
        if (byte !== delimiter && byte !== first) return -1;
        // The bytes behind are looked at anew.
        bits = 0;
        next = at + 1;
      }
      const isRowEnd = byte !== delimiter;
      if (isRowEnd && second >= 0) {
        if (at + 1 >= end) return rowEnd;
        if (<i32>load<u8>(text + at + 1) !== second) {
          if (isQuoted) return -1;
          continue;
        }
      }
      if (inRow === width) return -1;
      store<i32>(starts + ((<usize>count) << 2), from);
      store<i32>(ends + ((<usize>count) << 2), stop);
      count++;
      inRow++;
      start = at + 1;
      if (!isRowEnd) continue;
      if (inRow !== width || !hasLetters(text, starts, ends, count - width, count)) return -1;
      if (second >= 0) start++;
      rowEnd = start;
      inRow = 0;
      rows++;
      store<i32>(found, rows);
      if (count + width > room) return rowEnd;
    }
    i = next;
  }
  return rowEnd;
}

/** One of some cells has a letter, digit or mark of ASCII: the row is surely not blank. */
function hasLetters(text: usize, starts: usize, ends: usize, from: i32, to: i32): bool {
  for (let cell = from; cell < to; cell++) {
    const end = load<i32>(ends + ((<usize>cell) << 2));
    for (let i = load<i32>(starts + ((<usize>cell) << 2)); i < end; i++) {
      const byte = load<u8>(text + i);
      if (byte > SPACE && byte <= LAST_ASCII) return true;
    }
  }
  return false;
}

/** Marks in the list of decimals: a cell with nothing in it, and one that is not written plainly. */
const EMPTY: u8 = 254;
const ODD: u8 = 255;

/**
 * Reads a column of numbers written as `-?digits[.digits]`: the doubles, and how many decimals each is written with.
 * @param sums where a double is that the magnitudes are added to; behind it the most decimals and the number of empty cells are put,
 * 32 bits each
 * @returns how many cells are written otherwise; these and empty ones are NaN
 */
export function readNumbers(
  text: usize,
  starts: usize,
  ends: usize,
  column: i32,
  width: i32,
  rows: i32,
  numbers: usize,
  decimals: usize,
  sums: usize,
): i32 {
  let magnitude = load<f64>(sums);
  let most: i32 = 0;
  let empty: i32 = 0;
  let odd: i32 = 0;
  const step = (<usize>width) << 2;
  let cell = (<usize>column) << 2;
  for (let r: i32 = 0; r < rows; r++) {
    const end = load<i32>(ends + cell);
    let at = load<i32>(starts + cell);
    cell += step;
    let value = <f64>NaN;
    let written: i32 = 0;
    if (at === end) {
      empty++;
      store<u8>(decimals + r, EMPTY);
    } else {
      const negative = load<u8>(text + at) === 45;
      if (negative) at++;
      const first = at;
      let mantissa: u64 = 0;
      let point: i32 = -1;
      for (; at < end; at++) {
        const digit = <u32>load<u8>(text + at) - 48;
        if (digit <= 9) mantissa = mantissa * 10 + digit;
        else if (digit === <u32>-2 && point < 0) point = at;
        else break;
      }
      const digits = end - first - (point < 0 ? 0 : 1);
      const isCode = digits > 1 && load<u8>(text + first) === 48 && point !== first + 1;
      if (at < end || digits === 0 || digits > 15 || point === end - 1 || isCode) {
        odd++;
        store<u8>(decimals + r, ODD);
      } else {
        written = point < 0 ? 0 : end - point - 1;
        value = <f64>mantissa / tenth(written);
        magnitude += value;
        if (negative) value = -value;
        if (written > most) most = written;
        store<u8>(decimals + r, <u8>written);
      }
    }
    store<f64>(numbers + ((<usize>r) << 3), value);
  }
  store<f64>(sums, magnitude);
  store<i32>(sums, most, 8);
  store<i32>(sums, empty, 12);
  return odd;
}

function tenth(decimals: i32): f64 {
  let power: f64 = 1;
  for (let i: i32 = 0; i < decimals; i++) power *= 10;
  return power;
}

// A table of texts: places of sixteen bytes each, two powers many, at least half of them free. A place holds a text's hash, its
// length, its address (0: the place is free) and what it stands for, 32 bits each.

function hashOf(text: usize, length: i32): u32 {
  let hash: u64 = <u64>length * 0x9e3779b97f4a7c15;
  let i: i32 = 0;
  for (; i + 8 <= length; i += 8) hash = mixed(hash ^ load<u64>(text + i));
  if (i < length) hash = mixed(hash ^ tail(text + i, length - i));
  return <u32>(hash >> 32);
}

function mixed(value: u64): u64 {
  const product = value * 0x9e3779b97f4a7c15;
  return product ^ (product >> 29);
}

/** The last bytes of a text, fewer than eight, as a number. */
function tail(text: usize, length: i32): u64 {
  return load<u64>(text) & (((<u64>1) << ((<u64>length) << 3)) - 1);
}

function areAlike(a: usize, b: usize, length: i32): bool {
  let i: i32 = 0;
  for (; i + 8 <= length; i += 8) if (load<u64>(a + i) !== load<u64>(b + i)) return false;
  return i === length || tail(a + i, length - i) === tail(b + i, length - i);
}

/**
 * What the texts of a column stand for, from one row on.
 * @param values 32 bits for each row
 * @returns the first row whose text is not in the table; the number of rows where all are
 */
export function readTexts(
  text: usize,
  starts: usize,
  ends: usize,
  column: i32,
  width: i32,
  from: i32,
  rows: i32,
  places: usize,
  mask: u32,
  values: usize,
): i32 {
  const step = (<usize>width) << 2;
  let cell = (<usize>(from * width + column)) << 2;
  for (let r = from; r < rows; r++) {
    const start = text + load<i32>(starts + cell);
    const length = <i32>(text + load<i32>(ends + cell) - start);
    cell += step;
    const hash = hashOf(start, length);
    let place = hash & mask;
    for (;;) {
      const at = places + ((<usize>place) << 4);
      const known = <usize>load<u32>(at, 8);
      if (known === 0) return r;
      if (load<u32>(at) === hash && load<i32>(at, 4) === length && areAlike(start, known, length)) {
        store<u32>(values + ((<usize>r) << 2), load<u32>(at, 12));
        break;
      }
      place = (place + 1) & mask;
    }
  }
  return rows;
}

/** Puts a text that is not in a table into it. */
export function addText(text: usize, length: i32, value: u32, places: usize, mask: u32): void {
  const hash = hashOf(text, length);
  const at = freePlace(hash, places, mask);
  store<u32>(at, hash);
  store<i32>(at, length, 4);
  store<u32>(at, <u32>text, 8);
  store<u32>(at, value, 12);
}

function freePlace(hash: u32, places: usize, mask: u32): usize {
  let place = hash & mask;
  while (load<u32>(places + ((<usize>place) << 4), 8) !== 0) place = (place + 1) & mask;
  return places + ((<usize>place) << 4);
}

/** Takes all texts of a table into another one, which is free. */
export function moveTexts(from: usize, fromMask: u32, places: usize, mask: u32): void {
  for (let place: u32 = 0; place <= fromMask; place++) {
    const at = from + ((<usize>place) << 4);
    if (load<u32>(at, 8) !== 0) v128.store(freePlace(load<u32>(at), places, mask), v128.load(at));
  }
}
