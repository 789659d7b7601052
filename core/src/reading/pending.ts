import type { Decoded } from './decode';

interface Piece {
  readonly length: number;
  text(): string;
}

/** Text that is not taken apart yet, with its bytes where each character is one. */
export class Pending {
  length = 0;
  /** In pieces; null where there are other characters. */
  ascii: readonly Uint8Array[] | null = [];
  private pieces: readonly Piece[] = [];

  /** The text as one, which takes time: mostly its bytes are enough. */
  get text(): string {
    const text = this.pieces.map((piece) => piece.text()).join('');
    this.pieces = [{ length: text.length, text: () => text }];
    return text;
  }

  /** Takes some characters of a text, from one up to, but without, another. */
  add(decoded: Decoded, from: number, to: number): void {
    const length = Math.min(to, decoded.length) - from;
    this.length += length;
    this.pieces = [...this.pieces, { length, text: () => decoded.text.slice(from, from + length) }];
    this.ascii = this.ascii && decoded.ascii ? [...this.ascii, decoded.ascii.subarray(from, from + length)] : null;
  }

  /** Leaves out the first characters. */
  drop(length: number): void {
    this.length -= length;
    this.pieces = behind(this.pieces, length, (piece, from) => ({
      length: piece.length - from,
      text: () => piece.text().slice(from),
    }));
    if (this.length === 0) this.ascii = [];
    else if (this.ascii) this.ascii = behind(this.ascii, length, (bytes, from) => bytes.subarray(from));
  }
}

/** What is left of pieces behind so much of them. */
function behind<T extends { readonly length: number }>(
  pieces: readonly T[],
  length: number,
  cut: (piece: T, from: number) => T,
): T[] {
  const left: T[] = [];
  let before = length;
  for (const piece of pieces) {
    if (before < piece.length) left.push(before === 0 ? piece : cut(piece, before));
    before = Math.max(0, before - piece.length);
  }
  return left;
}
