import type { Mark, Scene } from './scene';

const isFinite = (value: unknown): boolean => {
  if (typeof value === 'number') return Number.isFinite(value);
  return !Array.isArray(value) || value.every(isFinite);
};

const isDrawable = ({ value, ...mark }: Mark): boolean =>
  Object.values(mark).every(isFinite) && (value === null || Number.isNaN(value) || Number.isFinite(value));

/** Whether all places and sizes of a scene are numbers that can be drawn. */
export function isFiniteScene({ width, height, marks }: Scene): boolean {
  return Number.isFinite(width) && Number.isFinite(height) && marks.every(isDrawable);
}
