/*
 * Bytes as text: two letters for thirteen bits, the first bits lowest. The 91 letters are those from # to ~ without <, so that nothing
 * in them ends the script of a page that carries them. Up to six bits that are left have one letter.
 */
const FIRST = 35;
const LEFT_OUT = 60;
const LETTERS = 91;
const [PAIR, SINGLE] = [13, 6];

const letter = (digit: number) => FIRST + digit + (FIRST + digit >= LEFT_OUT ? 1 : 0);

export function toBase91(bytes: Uint8Array): string {
  const codes = new Uint8Array(2 * Math.ceil((8 * bytes.length) / PAIR));
  let at = 0;
  let [bits, held] = [0, 0];
  for (let i = 0; i < bytes.length; i++) {
    bits |= bytes[i]! << held;
    held += 8;
    if (held < PAIR) continue;
    const pair = bits & 0x1fff;
    codes[at++] = letter(pair % LETTERS);
    codes[at++] = letter((pair / LETTERS) | 0);
    bits >>>= PAIR;
    held -= PAIR;
  }
  if (held > 0) codes[at++] = letter(bits % LETTERS);
  if (held > SINGLE) codes[at++] = letter((bits / LETTERS) | 0);
  return new TextDecoder('latin1').decode(codes.subarray(0, at));
}
