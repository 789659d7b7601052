import { PROGRAM } from './program';

/** A loop: what its numbers are, addresses in bytes among them, stands with its source in core/vector/. */
type Loop = (...numbers: number[]) => number;

/** The loops of core/vector/. */
export type Loops = Readonly<
  Record<
    // Of scans.
    | 'maskBetween'
    | 'maskDays'
    | 'maskFewCodes'
    | 'maskBytes'
    | 'maskShorts'
    | 'maskWords'
    | 'maskTrue'
    | 'fillPlaces'
    | 'pick'
    | 'takeDoubles'
    | 'takeWords'
    | 'takeShorts'
    | 'takeBytes'
    | 'fillGroups'
    | 'placeBytes'
    | 'placeShorts'
    | 'placeWords'
    | 'placeDays'
    | 'addRows'
    | 'addCounted'
    | 'addCountedAt'
    | 'addGapped'
    | 'addTwo'
    | 'total'
    | 'markBytes'
    | 'markShorts'
    | 'markWords'
    // Of reading.
    | 'isAscii'
    | 'splitRows'
    | 'readNumbers'
    | 'readTexts'
    | 'addText'
    | 'moveTexts',
    Loop
  >
>;

const PAGE = 1 << 16;
/** What loops read and write behind what they are given, at most. */
const BEYOND = 128;

/** The program with a memory of its own, in which places are taken one behind the other. */
export class VectorProgram {
  private next = BEYOND;
  private readonly memory = new WebAssembly.Memory({ initial: 16 });
  readonly loops: Loops;
  private view = new Uint8Array(this.memory.buffer);

  constructor(module: WebAssembly.Module) {
    this.loops = new WebAssembly.Instance(module, { env: { memory: this.memory } }).exports as unknown as Loops;
  }

  /** The bytes of the memory, until more of it is taken. */
  get bytes(): Uint8Array<ArrayBuffer> {
    return this.view;
  }

  /** A place for so many bytes, at an address that sixteen divides. What is there before is not known. */
  take(bytes: number): number {
    const at = this.next;
    this.next = (at + bytes + BEYOND + 15) & ~15;
    const missing = this.next - this.view.length;
    if (missing > 0) {
      this.memory.grow(Math.ceil(missing / PAGE));
      this.view = new Uint8Array(this.memory.buffer);
    }
    return at;
  }

  /** How much is taken; given to `release`, everything that is taken from then on is free again. */
  get mark(): number {
    return this.next;
  }

  release(mark: number): void {
    this.next = mark;
  }
}

let compiled: WebAssembly.Module | null | undefined;

/** The program anew; null where WebAssembly with vectors is not there, or may not run. */
export function vectorProgram(): VectorProgram | null {
  try {
    if (compiled === undefined)
      compiled =
        typeof WebAssembly === 'undefined'
          ? null
          : new WebAssembly.Module(Uint8Array.from(atob(PROGRAM), (letter) => letter.charCodeAt(0)));
    return compiled && new VectorProgram(compiled);
  } catch {
    // A policy forbids it, or it is too old; what it does is then done without.
    compiled = null;
    return null;
  }
}
