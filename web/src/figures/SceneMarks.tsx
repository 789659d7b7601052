import { createElement, memo, type CSSProperties } from 'react';
import { usePaper } from '@/ui/paper';
import { elementOf, PATTERN_GROUND, PATTERN_TILES, patternsOf, type Scene } from '@bold-ruler/core/scene';

/** What texts of a figure are set with; the SVG writer says the same. */
export const SCENE_TEXT: CSSProperties = {
  fontFamily: "'Archivo Narrow','Arial Narrow',sans-serif",
  fontKerning: 'none',
  fontVariantLigatures: 'none',
  fontVariantNumeric: 'tabular-nums',
};

const REACT_NAMES: Readonly<Record<string, string>> = {
  'stroke-width': 'strokeWidth',
  'stroke-dasharray': 'strokeDasharray',
  'text-anchor': 'textAnchor',
  'font-size': 'fontSize',
  'font-weight': 'fontWeight',
  'pointer-events': 'pointerEvents',
};

/** The marks of a scene as SVG elements, without those that answer to the pointer. */
export const SceneMarks = memo(function SceneMarks({ scene }: { scene: Scene }) {
  const paperInk = usePaper(({ ink }) => ink);
  return (
    <g style={SCENE_TEXT}>
      {patternsOf(scene).map(({ id, kind, ink }) => {
        const { size, box, turn } = PATTERN_TILES[kind];
        return (
          <pattern
            key={id}
            id={id}
            width={size}
            height={size}
            patternUnits="userSpaceOnUse"
            patternTransform={`rotate(${turn})`}
          >
            <rect width={size} height={size} fill={paperInk(ink)} fillOpacity={PATTERN_GROUND} />
            <rect {...box} fill={paperInk(ink)} />
          </pattern>
        );
      })}
      {scene.marks.map((mark, i) => {
        if (mark.role === 'cell') return null;
        const { tag, attributes, text } = elementOf(mark);
        const properties = Object.fromEntries(
          attributes.map(([name, value]) => [
            REACT_NAMES[name] ?? name,
            value.startsWith('#') ? paperInk(value) : value,
          ]),
        );
        return createElement(tag, { key: i, ...properties }, text ?? undefined);
      })}
    </g>
  );
});
