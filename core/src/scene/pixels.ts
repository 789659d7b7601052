import { Problem, thousands } from '../problem';

/** A PNG of more pixels is not drawn: it would take more memory than there is, and nobody could look at it. */
const MOST_PIXELS = 40_000_000;

/** Throws a `Problem` where a picture at a scale would have more pixels than are drawn. They are counted before anything is. */
export function checkPixels(
  { width, height }: { readonly width: number; readonly height: number },
  scale: number,
): void {
  const [across, down] = [Math.ceil(width * scale), Math.ceil(height * scale)];
  if (!(across * down <= MOST_PIXELS))
    throw new Problem(
      'too-many-pixels',
      `a PNG of ${thousands(across)} × ${thousands(down)} pixels is larger than the ${MOST_PIXELS / 1e6} million that are drawn`,
      undefined,
      'make the scale or the figure smaller, or write it as .svg',
    );
}
