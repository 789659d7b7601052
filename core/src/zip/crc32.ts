/** Tables for eight bytes at a time, by the polynomial of ISO 3309. */
const TABLES = (() => {
  const tables = Array.from({ length: 8 }, () => new Uint32Array(256));
  for (let n = 0; n < 256; n++) {
    let c = n;
    for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
    tables[0]![n] = c >>> 0;
  }
  for (let n = 0; n < 256; n++)
    for (let t = 1; t < 8; t++) {
      const c = tables[t - 1]![n]!;
      tables[t]![n] = (tables[0]![c & 255]! ^ (c >>> 8)) >>> 0;
    }
  return tables;
})();

/** The CRC-32 of bytes, as zip and Parquet have it. @param before that of the bytes in front of them */
export function crc32(bytes: Uint8Array, before = 0): number {
  const [a, b, c, d, e, f, g, h] = TABLES as [
    Uint32Array,
    Uint32Array,
    Uint32Array,
    Uint32Array,
    Uint32Array,
    Uint32Array,
    Uint32Array,
    Uint32Array,
  ];
  let crc = ~before;
  let i = 0;
  for (; i + 8 <= bytes.length; i += 8) {
    crc ^= bytes[i]! | (bytes[i + 1]! << 8) | (bytes[i + 2]! << 16) | (bytes[i + 3]! << 24);
    crc =
      h[crc & 255]! ^
      g[(crc >>> 8) & 255]! ^
      f[(crc >>> 16) & 255]! ^
      e[crc >>> 24]! ^
      d[bytes[i + 4]!]! ^
      c[bytes[i + 5]!]! ^
      b[bytes[i + 6]!]! ^
      a[bytes[i + 7]!]!;
  }
  for (; i < bytes.length; i++) crc = a[(crc ^ bytes[i]!) & 255]! ^ (crc >>> 8);
  return ~crc >>> 0;
}
