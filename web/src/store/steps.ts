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

export function pathOf(report: string, step: Step): string {
  return `/report/${encodeURIComponent(report)}/${step}`;
}
