import type { Mark, SceneRuler } from '@bold-ruler/core/scene';
import { place } from '@bold-ruler/core/ruler';
import { textWidth } from '@bold-ruler/core/scene';
import { SCENE_TEXT } from './SceneMarks';

const INK = 'var(--color-ink)';
const BOXWOOD = 'var(--color-strip)';

/** The boxwood strip under a ruler's ticks, with finer engraving between them. */
export function RulerStrip({ ruler }: { ruler: SceneRuler }) {
  const { x, y, width, height } = ruler.strip;
  const fine = fineTicks(ruler);
  return (
    <g aria-hidden>
      <rect x={x} y={y} width={width} height={height} fill={BOXWOOD} />
      {fine.map((at) =>
        ruler.axis === 'x' ? (
          <line key={at} x1={at} x2={at} y1={y + height - 3} y2={y + height} stroke={INK} strokeOpacity={0.6} />
        ) : (
          <line key={at} x1={x + width - 3} x2={x + width} y1={at} y2={at} stroke={INK} strokeOpacity={0.6} />
        ),
      )}
    </g>
  );
}

/** Pixels of ten parts between each two ticks, or five where ten would be too fine. */
function fineTicks({ ticks, domain, range }: SceneRuler): number[] {
  const pixels: number[] = [];
  for (let i = 1; i < ticks.length; i++) {
    const [a, b] = [place({ domain, range }, ticks[i - 1]!), place({ domain, range }, ticks[i]!)];
    const parts = Math.abs(b - a) >= 50 ? 10 : Math.abs(b - a) >= 22 ? 5 : 0;
    for (let k = 1; k < parts; k++) pixels.push(a + ((b - a) * k) / parts);
  }
  return pixels;
}

/** A bold tick on the ruler with the exact value, and a hairline to the mark. */
export function PointerTick({
  ruler,
  value,
  text,
  cell,
}: {
  ruler: SceneRuler;
  value: number;
  text: string;
  cell: Mark | undefined;
}) {
  if (cell?.shape !== 'rect') return null;
  const at = place(ruler, value);
  const { x, y, width, height } = ruler.strip;
  const wide = textWidth(text, 13, 600) + 12;
  if (ruler.axis === 'x') {
    const left = Math.min(Math.max(at - wide / 2, x), x + width - wide);
    return (
      <g aria-hidden pointerEvents="none" style={SCENE_TEXT}>
        <line x1={at} x2={at} y1={y + height} y2={cell.y + cell.height / 2} stroke={INK} strokeWidth={1} />
        <rect x={left} y={y} width={wide} height={height - 5} fill={INK} />
        <line x1={at} x2={at} y1={y} y2={y + height} stroke={INK} strokeWidth={3} />
        <text x={left + wide / 2} y={y + 15} textAnchor="middle" fontSize={13} fontWeight={600} fill={BOXWOOD}>
          {text}
        </text>
      </g>
    );
  }
  return (
    <g aria-hidden pointerEvents="none" style={SCENE_TEXT}>
      <line x1={x + width} x2={cell.x + cell.width / 2} y1={at} y2={at} stroke={INK} strokeWidth={1} />
      <rect x={x} y={at - 10} width={Math.max(wide, width)} height={20} fill={INK} />
      <text
        x={x + Math.max(wide, width) / 2}
        y={at + 4.5}
        textAnchor="middle"
        fontSize={13}
        fontWeight={600}
        fill={BOXWOOD}
      >
        {text}
      </text>
    </g>
  );
}
