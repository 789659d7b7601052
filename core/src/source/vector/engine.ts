import { once } from '../../table';
import { vectorProgram, type Loops, type VectorProgram } from '../../vector';
import {
  columnsAdded,
  columnsOfPlan,
  FILLED,
  type PlanColumn,
  type Gathering,
  type VectorPlan,
  type VectorState,
} from './plan';

// Runs the loops of core/vector/scan.ts over blocks of rows that are copied into the memory of the program.

/** Rows of a block: its columns stay in the second-level cache. */
const BLOCK = 8192;
/** Up to this many groups, rows take turns in four tables of records. */
const FOUR_TABLES = 512;

/** Rows that follow one another: from one up to, but without, another. */
export type RunOfRows = readonly [from: number, to: number];

export interface VectorEngine {
  /** What some runs of rows give, taken one after the other. */
  run(plan: VectorPlan, runs: Iterable<RunOfRows>): VectorState;
}

/** The engine of this thread; null where the program may not run. */
export const vectorEngine: () => VectorEngine | null = once(() => {
  const program = vectorProgram();
  if (!program) return null;
  const places = program.take(256 * 8);
  program.loops.fillPlaces(places);
  return {
    run(plan, runs) {
      const { mark } = program;
      try {
        const run = new Run(program, places, plan);
        for (const [from, to] of runs) run.over(from, to);
        return run.state();
      } finally {
        program.release(mark);
      }
    },
  };
});

/** A column whose blocks are copied to one place. */
interface Slot {
  readonly cells: PlanColumn;
  readonly at: number;
  readonly view: PlanColumn;
  /** The block that is there. */
  block: number;
}

/** Of the kinds of cells: the loops for each width in bytes. */
const MASKS = { 1: 'maskBytes', 2: 'maskShorts', 4: 'maskWords' } as const;
const PLACING = { 1: 'placeBytes', 2: 'placeShorts', 4: 'placeWords' } as const;
const MARKING = { 1: 'markBytes', 2: 'markShorts', 4: 'markWords' } as const;
const TAKING = { 1: 'takeBytes', 2: 'takeShorts', 4: 'takeWords', 8: 'takeDoubles' } as const;

/** Records and marks of a part, where they lie. */
interface Held {
  readonly part: Gathering;
  readonly records: readonly number[];
  readonly marks: readonly number[];
}

class Run {
  private readonly slots = new Map<PlanColumn, Slot>();
  private readonly lane: number;
  private readonly mask: number;
  private readonly partMask: number;
  private readonly rows: number;
  private readonly groups: number;
  private readonly taken: number;
  private readonly values: number;
  private readonly others: number;
  private readonly stepTable: number;
  private readonly marks: readonly number[];
  private readonly held: readonly Held[];
  private readonly bytes: Uint8Array;
  private start = 0;
  private n = 0;

  private readonly loops: Loops;

  constructor(
    program: VectorProgram,
    private readonly places: number,
    private readonly plan: VectorPlan,
  ) {
    this.loops = program.loops;
    const take = (bytes: number) => program.take(bytes);
    const { groups, filters, days, parts } = plan;
    this.mask = take(BLOCK);
    this.partMask = take(BLOCK);
    this.rows = take(2 * BLOCK);
    this.groups = take(4 * BLOCK);
    this.taken = take(4 * BLOCK);
    this.values = take(8 * BLOCK);
    this.others = take(8 * BLOCK);
    this.stepTable = days ? take(4 * days.steps.length) : 0;
    this.marks = filters.map((filter) => (filter.kind === 'codes' ? take(Math.max(16, filter.marks.length)) : 0));
    // Zeros begin where records do.
    const zeros = program.mark;
    this.lane = groups <= FOUR_TABLES ? groups * 16 : 0;
    this.held = parts.map((part) => ({
      part,
      records: part.added.map(() => take(this.lane === 0 ? groups * 16 : 4 * this.lane)),
      marks: part.seen.map(({ members }) => take(groups * members)),
    }));
    const records = program.mark;
    const slots = [...columnsOfPlan(plan)].map((cells) => [cells, take(BLOCK * cells.BYTES_PER_ELEMENT)] as const);
    this.bytes = program.bytes;
    const { buffer } = this.bytes;
    this.bytes.fill(0, zeros, records);
    for (const [cells, at] of slots) {
      const View = cells.constructor as new (buffer: ArrayBufferLike, at: number, length: number) => PlanColumn;
      this.slots.set(cells, { cells, at, view: new View(buffer, at, BLOCK), block: -1 });
    }
    filters.forEach((filter, f) => {
      if (filter.kind !== 'codes') return;
      this.bytes.fill(0, this.marks[f]!, this.marks[f]! + 16);
      filter.marks.forEach((mark, code) => (this.bytes[this.marks[f]! + code] = mark === 0 ? 0 : 255));
    });
    if (days) {
      const table = new Int32Array(buffer, this.stepTable, days.steps.length);
      days.steps.forEach((step, day) => (table[day] = step * 16));
    }
  }

  /** Where the present block of a column is. */
  private load(cells: PlanColumn): number {
    const slot = this.slots.get(cells)!;
    if (slot.block !== this.start) {
      slot.view.set(cells.subarray(this.start, this.start + this.n));
      slot.block = this.start;
    }
    return slot.at;
  }

  over(from: number, to: number): void {
    const { plan, loops } = this;
    for (this.start = from; this.start < to; this.start += BLOCK) {
      this.n = Math.min(BLOCK, to - this.start);
      const filtered = plan.filters.length > 0;
      let count = this.n;
      if (filtered) {
        this.filter();
        count = loops.pick(this.mask, this.n, this.rows, this.places);
        if (count === 0) continue;
      }
      // Of a single group, or of runs of rows, sums need no groups.
      const inRuns = plan.fields.length === 0 && plan.days === null;
      let placed = false;
      for (const held of this.held) {
        let mine = count;
        const { only } = held.part;
        if (only) {
          if (filtered) this.bytes.copyWithin(this.partMask, this.mask, this.mask + this.n);
          else this.bytes.fill(255, this.partMask, this.partMask + this.n);
          this.bytes.fill(0, this.partMask + this.n, this.partMask + this.n + 16);
          loops.maskTrue(this.load(only), this.n, this.partMask);
          mine = loops.pick(this.partMask, this.n, this.rows, this.places);
          if (mine === 0) continue;
        }
        const whole = mine === this.n;
        const summed = inRuns && (whole || plan.runs === null) && held.part.seen.length === 0;
        if (summed && held.part.added.every(({ kind }) => kind !== 'gapped')) {
          this.addInRuns(held, mine, whole);
          continue;
        }
        if (!placed) this.place();
        placed = true;
        this.add(held, mine, whole);
      }
    }
  }

  private filter(): void {
    const { loops, mask, n, bytes } = this;
    bytes.fill(255, mask, mask + n);
    bytes.fill(0, mask + n, mask + n + 16);
    this.plan.filters.forEach((filter, f) => {
      switch (filter.kind) {
        case 'days':
          return loops.maskDays(this.load(filter.days), filter.from, filter.to, n, mask);
        case 'between':
          return loops.maskBetween(this.load(filter.values), filter.low, filter.high, n, mask);
        case 'codes': {
          const { codes, marks } = filter;
          const width = codes.BYTES_PER_ELEMENT as 1 | 2 | 4;
          const loop = width === 1 && marks.length <= 16 ? 'maskFewCodes' : MASKS[width];
          return loops[loop](this.load(codes), this.marks[f]!, n, mask);
        }
      }
    });
  }

  /** Tells each run of rows that fall into one step: the step, and the first and last row, counted from the block's. */
  private eachRun(each: (step: number, from: number, to: number) => void): void {
    const { runs } = this.plan;
    const { start, n } = this;
    if (!runs) return each(0, 0, n);
    // The last step that begins at or before the block.
    let low = 0;
    let high = runs.length - 1;
    while (low + 1 < high) {
      const middle = (low + high) >>> 1;
      if (runs[middle]! <= start) low = middle;
      else high = middle;
    }
    for (let step = low; step + 1 < runs.length && runs[step]! < start + n; step++) {
      const from = Math.max(0, runs[step]! - start);
      const to = Math.min(n, runs[step + 1]! - start);
      if (from < to) each(step, from, to);
    }
  }

  /** The group of every row of the block, whether it counts or not. */
  private place(): void {
    const { loops, groups, n } = this;
    const { fields, days } = this.plan;
    this.eachRun((step, from, to) => loops.fillGroups(groups, from, to, step * 16));
    for (const { codes, stride } of fields)
      loops[PLACING[codes.BYTES_PER_ELEMENT as 1 | 2 | 4]](this.load(codes), stride * 16, n, groups);
    if (days) loops.placeDays(this.load(days.of), days.first, this.stepTable, days.steps.length, n, groups);
  }

  /** A column's block, or those of its rows that were picked, copied to a place. */
  private picked(cells: PlanColumn, n: number, whole: boolean, to: number): number {
    const at = this.load(cells);
    if (whole) return at;
    this.loops[TAKING[cells.BYTES_PER_ELEMENT as 1 | 2 | 4 | 8]](at, this.rows, n, to);
    return to;
  }

  private add({ part, records, marks }: Held, n: number, whole: boolean): void {
    const { loops, lane, rows } = this;
    if (!whole && part.added.length === 1 && part.seen.length === 0 && part.added[0]!.kind === 'counted') {
      const values = this.load(part.added[0]!.values);
      loops.addCountedAt(values, rows, this.groups, n, records[0]!, lane);
      return;
    }
    if (!whole) loops.takeWords(this.groups, rows, n, this.taken);
    const groups = whole ? this.groups : this.taken;
    part.added.forEach((added, i) => {
      const into = records[i]!;
      switch (added.kind) {
        case 'rows':
          return loops.addRows(groups, n, into, lane);
        case 'counted':
          return loops.addCounted(this.picked(added.values, n, whole, this.values), groups, n, into, lane);
        case 'gapped':
          return loops.addGapped(this.picked(added.values, n, whole, this.values), groups, n, into, lane, FILLED);
        case 'two': {
          const values = this.picked(added.values, n, whole, this.values);
          return loops.addTwo(values, this.picked(added.others, n, whole, this.others), groups, n, into, lane);
        }
      }
    });
    part.seen.forEach(({ codes, members }, i) =>
      loops[MARKING[codes.BYTES_PER_ELEMENT as 1 | 2 | 4]](
        this.picked(codes, n, whole, this.values),
        members,
        groups,
        n,
        marks[i]!,
      ),
    );
  }

  /** Sums of rows that follow one another. */
  private addInRuns({ part, records }: Held, n: number, whole: boolean): void {
    const { loops, bytes } = this;
    part.added.forEach((added, i) => {
      const [values, others] = columnsAdded(added).map((cells, c) =>
        this.picked(cells, n, whole, c === 0 ? this.values : this.others),
      );
      const table = new Float64Array(bytes.buffer, records[i]!, 2 * this.plan.groups);
      const take = (step: number, from: number, to: number) => {
        if (values !== undefined) table[2 * step]! += loops.total(values + 8 * from, to - from);
        table[2 * step + 1]! += others === undefined ? to - from : loops.total(others + 8 * from, to - from);
      };
      if (whole) this.eachRun(take);
      else take(0, 0, n);
    });
  }

  state(): VectorState {
    const { groups } = this.plan;
    const { buffer } = this.bytes;
    return {
      parts: this.held.map(({ part, records, marks }) => ({
        records: records.map((at) => {
          const sums = new Float64Array(buffer, at, 2 * groups).slice();
          for (let lane = 1; lane < 4 && this.lane > 0; lane++) {
            const more = new Float64Array(buffer, at + lane * this.lane, 2 * groups);
            for (let i = 0; i < sums.length; i++) sums[i]! += more[i]!;
          }
          return sums;
        }),
        seen: marks.map((at, s) => new Uint8Array(buffer, at, groups * part.seen[s]!.members).slice()),
      })),
    };
  }
}
