type TypedArray = Uint8Array | Uint16Array | Uint32Array | Int32Array | Float64Array;

export const CHUNK = 1 << 16;

/** A typed array that grows by chunks while a file is read, so that no value is copied before the end. */
export class Chunked<A extends TypedArray> {
  private parts: A[] = [];
  /** The chunk being filled, and how far. The reader writes into both directly and calls `next` when it is full. */
  current: A;
  filled = 0;

  constructor(private readonly make: (length: number) => A) {
    this.current = make(CHUNK);
  }

  get length(): number {
    return this.parts.length * CHUNK + this.filled;
  }

  next(): A {
    this.parts.push(this.current);
    this.current = this.make(CHUNK);
    this.filled = 0;
    return this.current;
  }

  /** Puts another array in the place of the one being filled, with what is in it. */
  replaceCurrent(other: A): A {
    for (let i = 0; i < this.filled; i++) other[i] = this.current[i]!;
    return (this.current = other);
  }

  /** Some values more. */
  append(values: A): void {
    for (let at = 0; at < values.length;) {
      const some = Math.min(values.length - at, CHUNK - this.filled);
      this.current.set(values.subarray(at, at + some), this.filled);
      this.filled += some;
      at += some;
      if (this.filled === CHUNK) this.next();
    }
  }

  /** The same value n times more. */
  fill(value: number, times: number): void {
    for (let left = times; left > 0;) {
      const some = Math.min(left, CHUNK - this.filled);
      this.current.fill(value, this.filled, this.filled + some);
      this.filled += some;
      left -= some;
      if (this.filled === CHUNK) this.next();
    }
  }

  /** Visits all chunks in order with their start and their length. */
  visit(each: (part: A, start: number, length: number) => void): void {
    this.parts.forEach((part, i) => each(part, i * CHUNK, CHUNK));
    each(this.current, this.parts.length * CHUNK, this.filled);
  }

  /** Visits all chunks and gives each up, so that what they are copied into is never held twice. */
  drain(each: (part: A, start: number, length: number) => void): void {
    const rest = [...this.parts, this.current];
    const { length } = this;
    this.parts = [];
    for (let i = 0; rest.length > 0; i++) each(rest.shift()!, i * CHUNK, Math.min(CHUNK, length - i * CHUNK));
    this.current = this.make(0);
    this.filled = 0;
  }
}
