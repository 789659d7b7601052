/*
 * Bytes as text, five letters for four bytes (as Ascii85 does it: a tail of n bytes has n + 1 letters). The letters are those
 * from # to x without <, so that nothing in them ends the script of a page that carries them.
 */
const FIRST = 35;
const LEFT_OUT = 60;
const LAST = 84;

const letter = (digit: number) => FIRST + digit + (FIRST + digit >= LEFT_OUT ? 1 : 0);

export function toBase85(bytes: Uint8Array): string {
  const words = Math.ceil(bytes.length / 4);
  const codes = new Uint8Array(words * 5);
  for (let word = 0; word < words; word++) {
    const i = word * 4;
    let value =
      ((bytes[i]! << 24) | ((bytes[i + 1] ?? 0) << 16) | ((bytes[i + 2] ?? 0) << 8) | (bytes[i + 3] ?? 0)) >>> 0;
    for (let k = 4; k >= 0; k--) {
      // What is left of 32 bits after one division has 26.
      const rest = (value / 85) | 0;
      codes[word * 5 + k] = letter(value - rest * 85);
      value = rest;
    }
  }
  return new TextDecoder('latin1').decode(codes.subarray(0, Math.ceil((bytes.length * 5) / 4)));
}

export function fromBase85(text: string): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(Math.floor((text.length * 4) / 5));
  let at = 0;
  for (let i = 0; i < text.length; i += 5) {
    let value = 0;
    for (let k = 0; k < 5; k++) {
      const code = text.charCodeAt(i + k);
      value = value * 85 + (i + k < text.length ? code - FIRST - (code > LEFT_OUT ? 1 : 0) : LAST);
    }
    for (let k = 3; k >= 0 && at < bytes.length; k--) bytes[at++] = Math.floor(value / 256 ** k) % 256;
  }
  return bytes;
}
