import { luminance, withLuminance } from './colour';
import { AHEAD, BEHIND, INK, LEVEL } from './palette';

const PAPER = '#FAFAF7';
/** Paper on a desk in the dark. */
export const DARK_PAPER = '#222C35';

/** Inks of our own in the dark, chosen so that they are told apart as well as by day. */
const OWN: readonly (readonly [string, string])[] = [
  [PAPER, DARK_PAPER],
  [INK, '#EDF0EA'],
  [AHEAD, '#52BFA3'],
  [BEHIND, '#F0694E'],
  [LEVEL, '#8794A1'],
  // Of lines that cross one another.
  ['#447799', '#71C0DF'],
  ['#CC1166', '#FF6FA0'],
  ['#667700', '#85B150'],
  ['#7711CC', '#AA8AFD'],
  ['#551111', '#F6DB2A'],
];

const known = new Map(OWN);

/**
 * A colour as it is on dark paper. Those that are not our own keep their hue and stand out from the paper as much as they did from light
 * paper (contrast of WCAG 2.2), so that what could be read and told apart still can; what stood out most is a little softer.
 */
export function inDark(hex: string): string {
  let dark = known.get(hex);
  if (dark === undefined) {
    if (known.size >= 4096) {
      known.clear();
      for (const [own, other] of OWN) known.set(own, other);
    }
    const standsOut = (luminance(PAPER) + 0.05) / (luminance(hex) + 0.05);
    dark = withLuminance(hex, softened(standsOut) * (luminance(DARK_PAPER) + 0.05) - 0.05);
    known.set(hex, dark);
  }
  return dark;
}

/** Contrasts up to 7 stay what they are; between that and ink on paper they end where ink does in the dark. */
function softened(contrast: number): number {
  return contrast <= 7 ? contrast : 7 + ((contrast - 7) * (12 - 7)) / (15.7 - 7);
}

/** A picture’s marks as SVG text, in the colours of dark paper. */
export function marksInDark(svg: string): string {
  return svg.replace(
    / (fill|stroke)="(#[0-9A-Fa-f]{6})"/g,
    (_, name: string, ink: string) => ` ${name}="${inDark(ink)}"`,
  );
}
