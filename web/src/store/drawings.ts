import { create } from 'zustand';
import type { Report } from '@bold-ruler/core/report';
import type { DrawnFigure } from '@bold-ruler/core/desk';
import { sentProblem, type SentProblem } from '@bold-ruler/core/problem';
import { desk, leave } from './desk';

/** A figure as it was last drawn; while a newer one is computed, or where that cannot be drawn, it stays. */
export interface Drawing {
  /** What it was drawn from. */
  readonly key: string;
  readonly drawn: DrawnFigure | null;
  /** When it was drawn, as milliseconds of the clock; null before. */
  readonly at: number | null;
  readonly problem: SentProblem | null;
  readonly pending: boolean;
}

export const useDrawings = create<{ readonly byFigure: Readonly<Record<string, Drawing>> }>(() => ({ byFigure: {} }));

/** Drawings under way, by their figures. */
const asking = new Map<string, Promise<unknown>>();

const NOTHING: Drawing = { key: '', drawn: null, at: null, problem: null, pending: false };

function put(id: string, drawing: Partial<Drawing>): void {
  useDrawings.setState(({ byFigure }) => ({
    byFigure: { ...byFigure, [id]: { ...NOTHING, ...byFigure[id], ...drawing } },
  }));
}

/** Drawings of the film that have come, until they are shown together: each for itself would have the page set anew. */
const come = new Map<string, Partial<Drawing> & { readonly key: string }>();
const TOGETHER = 120;

function putTogether(id: string, drawing: Partial<Drawing> & { readonly key: string }): void {
  if (come.size === 0) setTimeout(showCome, TOGETHER);
  come.set(id, drawing);
}

function showCome(): void {
  useDrawings.setState(({ byFigure }) => {
    // A newer drawing of the same figure may be under way.
    const shown = [...come].filter(([id, { key }]) => byFigure[id]?.key === key);
    const next = Object.fromEntries(shown.map(([id, drawing]) => [id, { ...NOTHING, ...byFigure[id], ...drawing }]));
    return { byFigure: { ...byFigure, ...next } };
  });
  come.clear();
}

/**
 * Draws every figure whose brief, look or surroundings have changed, the one on the bench first.
 * @param room pixels of the paper, where that is narrow
 */
export function drawAll(report: Report, surroundings: string, first: string | null, room: number | null = null): void {
  const { figures, rulers, ...rest } = report;
  // Figures on a shared ruler depend on one another.
  const shared = JSON.stringify([rest, rulers, rulers.length > 0 ? figures : null, surroundings, room]);
  const ordered = [...figures].sort((a, b) => Number(b.id === first) - Number(a.id === first));
  const asked = ordered
    .map((figure) => ({ figure, key: JSON.stringify([{ ...figure, name: null }, shared]) }))
    .filter(({ figure, key }) => useDrawings.getState().byFigure[figure.id]?.key !== key);
  const opening = asked[0]?.figure.id === first && !useDrawings.getState().byFigure[first]?.drawn;
  for (const { figure, key } of asked) {
    const before = asking.get(figure.id);
    if (before) leave(before);
    put(figure.id, { key, pending: true });
  }
  const ask = ({ figure, key }: (typeof asked)[number]) => {
    // A newer drawing of the same figure may be under way.
    const isNewest = () => useDrawings.getState().byFigure[figure.id]?.key === key;
    if (!isNewest()) return;
    const drawing = desk().draw(report, figure.id, room);
    asking.set(figure.id, drawing);
    return drawing.then(
      (answer) => {
        if (!isNewest()) return;
        const drawing = answer.ok
          ? { drawn: answer.value, at: Date.now(), problem: null, pending: false }
          : { problem: answer.problem, pending: false };
        if (figure.id === first) put(figure.id, drawing);
        else putTogether(figure.id, { key, ...drawing });
      },
      (error: unknown) => put(figure.id, { problem: sentProblem(error), pending: false }),
    );
  };
  if (!opening) return asked.forEach((one) => void ask(one));
  // The figure on the bench is seen before the others are begun.
  const [bench, ...film] = asked;
  void ask(bench!)?.then(() => afterPaint(() => film.forEach((one) => void ask(one))));
}

/** When the browser has painted what is there; in a tab that is not seen, soon. */
function afterPaint(then: () => void): void {
  let done = false;
  const once = () => {
    if (!done) then();
    done = true;
  };
  requestAnimationFrame(() => setTimeout(once));
  setTimeout(once, 500);
}
