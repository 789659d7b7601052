/** The first 32 bits of the fractional parts of a root of the first primes (FIPS 180-4). */
function roots(count: number, power: number): Uint32Array {
  const found: number[] = [];
  for (let n = 2; found.length < count; n++) {
    let isPrime = true;
    for (let d = 2; d * d <= n && isPrime; d++) isPrime = n % d !== 0;
    if (isPrime) found.push(fraction(n, power));
  }
  return Uint32Array.from(found);
}

/** Exactly: the root of n × 2^(32 × power), without what is whole. */
function fraction(n: number, power: number): number {
  const of = BigInt(n) << BigInt(32 * power);
  let [low, high] = [0n, 1n << 40n];
  while (low < high) {
    const middle = (low + high + 1n) >> 1n;
    if (middle ** BigInt(power) <= of) low = middle;
    else high = middle - 1n;
  }
  return Number(low & 0xffffffffn);
}

let K: Uint32Array | null = null;

const turned = (x: number, by: number) => (x >>> by) | (x << (32 - by));

/** The SHA-256 of bytes (FIPS 180-4), also where the browser offers none, as on pages over plain http. */
export function sha256(bytes: Uint8Array): Uint8Array {
  K ??= roots(64, 3);
  const hash = roots(8, 2);
  const blocks = Math.ceil((bytes.length + 9) / 64);
  const padded = new Uint8Array(blocks * 64);
  padded.set(bytes);
  padded[bytes.length] = 0x80;
  const view = new DataView(padded.buffer);
  view.setUint32(padded.length - 8, Math.floor(bytes.length / 0x20000000));
  view.setUint32(padded.length - 4, (bytes.length << 3) >>> 0);
  const w = new Uint32Array(64);
  for (let at = 0; at < padded.length; at += 64) {
    for (let i = 0; i < 16; i++) w[i] = view.getUint32(at + i * 4);
    for (let i = 16; i < 64; i++) {
      const [x, y] = [w[i - 15]!, w[i - 2]!];
      w[i] =
        w[i - 16]! +
        (turned(x, 7) ^ turned(x, 18) ^ (x >>> 3)) +
        w[i - 7]! +
        (turned(y, 17) ^ turned(y, 19) ^ (y >>> 10));
    }
    let [a, b, c, d, e, f, g, h] = hash as unknown as [number, number, number, number, number, number, number, number];
    for (let i = 0; i < 64; i++) {
      const one = h + (turned(e, 6) ^ turned(e, 11) ^ turned(e, 25)) + ((e & f) ^ (~e & g)) + K[i]! + w[i]!;
      const two = (turned(a, 2) ^ turned(a, 13) ^ turned(a, 22)) + ((a & b) ^ (a & c) ^ (b & c));
      [h, g, f, e, d, c, b, a] = [g, f, e, (d + one) >>> 0, c, b, a, (one + two) >>> 0];
    }
    [a, b, c, d, e, f, g, h].forEach((value, i) => (hash[i] = hash[i]! + value));
  }
  const digest = new Uint8Array(32);
  hash.forEach((word, i) => new DataView(digest.buffer).setUint32(i * 4, word));
  return digest;
}
