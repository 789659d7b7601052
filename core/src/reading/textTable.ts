import type { VectorProgram } from '../vector';

/** Texts that are kept at most: in a column of which most differ they would only cost. */
const MOST_TEXTS = 1 << 17;
const FEW_PLACES = 1 << 10;
/** Texts are kept in pieces of memory of at least so many bytes. */
const POOL = 1 << 14;

/** What texts stand for, found by their bytes in the memory of a program: of a text that was met before no string is made. */
export class TextTable {
  places: number;
  mask = FEW_PLACES - 1;
  private count = 0;
  private pool = 0;
  private room = 0;

  constructor(private readonly program: VectorProgram) {
    this.places = this.fresh(FEW_PLACES);
  }

  /** No more texts are kept. */
  get isFull(): boolean {
    return this.count >= MOST_TEXTS;
  }

  /** Says what a text that is not among these stands for; it lies in the program's memory from one address to another. */
  add(from: number, to: number, value: number): void {
    if (this.isFull) return;
    const { program } = this;
    const length = to - from;
    if (length > this.room) {
      this.room = Math.max(POOL, length);
      this.pool = program.take(this.room);
    }
    program.bytes.copyWithin(this.pool, from, to);
    program.loops.addText(this.pool, length, value, this.places, this.mask);
    this.pool += length;
    this.room -= length;
    if (++this.count * 2 > this.mask) this.grow();
  }

  private grow(): void {
    const [places, mask] = [this.places, this.mask];
    this.mask = 4 * (mask + 1) - 1;
    this.places = this.fresh(this.mask + 1);
    this.program.loops.moveTexts(places, mask, this.places, this.mask);
  }

  private fresh(places: number): number {
    const at = this.program.take(16 * places);
    this.program.bytes.fill(0, at, at + 16 * places);
    return at;
  }
}
