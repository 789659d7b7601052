import { redrawn } from '../figure';
import type { Placed } from './drawPage';

type Hung = Placed & { readonly drawn: NonNullable<Placed['drawn']> };

/** Figures on one shared ruler that stand above one another in columns of one width have it in one place. */
export function aligned(placed: readonly Placed[]): Placed[] {
  const columns = new Map<string, Hung[]>();
  for (const one of placed) {
    const { drawn, scene, x } = one;
    const ruler = scene.rulers.length === 1 ? scene.rulers[0] : undefined;
    if (!drawn?.request.ruler || ruler?.axis !== 'x') continue;
    const key = JSON.stringify([drawn.request.ruler.entry.id, x, scene.width]);
    columns.set(key, [...(columns.get(key) ?? []), { ...one, drawn }]);
  }
  const moved = new Map<string, Placed>();
  for (const hung of columns.values()) {
    if (hung.length < 2) continue;
    const ranges = hung.map(({ scene }) => scene.rulers[0]!.range);
    const lane = [Math.max(...ranges.map(([from]) => from)), Math.min(...ranges.map(([, to]) => to))] as const;
    if (lane[1] - lane[0] < LEAST) continue;
    for (const one of hung) {
      const { look } = one.drawn.request;
      const drawn = redrawn(one.drawn, { ...look, height: one.scene.height }, { lane });
      moved.set(keyOf(one), { ...one, drawn, scene: drawn.scene });
    }
  }
  return placed.map((one) => moved.get(keyOf(one)) ?? one);
}

/** A ruler shorter than this is no help, even where it stands in line, in pixels. */
const LEAST = 80;

const keyOf = ({ row, block }: Placed) => `${row} ${block}`;
