/** The steps of the work that this version has, in order; a step's key is its place. */
export const STEPS = [
  { id: 'data', name: 'Data' },
  { id: 'numbers', name: 'Numbers' },
  { id: 'figures', name: 'Figures' },
  { id: 'page', name: 'Page' },
] as const;

export type Step = (typeof STEPS)[number]['id'];

export function isStep(word: string): word is Step {
  return STEPS.some(({ id }) => id === word);
}

/** The address of a step of a report's work, or of one of its figures. */
export function pathOf(report: string, step: Step, figure: string | null = null): string {
  const path = `/report/${encodeURIComponent(report)}/${step}`;
  return figure === null ? path : `${path}/${encodeURIComponent(figure)}`;
}

/** The figure that an address names; null where it names none. */
export function figureIn(path: string): string | null {
  const named = /^\/report\/[^/]+\/figures\/([^/]+)$/.exec(path)?.[1];
  return named === undefined ? null : decodeURIComponent(named);
}
