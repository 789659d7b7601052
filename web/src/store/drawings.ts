import { create } from 'zustand';
import type { Report } from '@bold-ruler/core/report';
import type { DrawnFigure } from '@/worker/desk.worker';
import { sentProblem, type SentProblem } from '@/worker/sent';
import { desk } from './desk';

/** A figure as it was last drawn; while a newer one is computed it stays. */
export interface Drawing {
  /** What it was drawn from. */
  readonly key: string;
  readonly drawn: DrawnFigure | null;
  readonly problem: SentProblem | null;
  readonly pending: boolean;
}

export const useDrawings = create<{ readonly byFigure: Readonly<Record<string, Drawing>> }>(() => ({ byFigure: {} }));

const NOTHING: Drawing = { key: '', drawn: null, problem: null, pending: false };

function put(id: string, drawing: Partial<Drawing>): void {
  useDrawings.setState(({ byFigure }) => ({
    byFigure: { ...byFigure, [id]: { ...NOTHING, ...byFigure[id], ...drawing } },
  }));
}

/** Draws every figure whose brief, look or surroundings have changed, the one on the bench first. */
export function drawAll(report: Report, surroundings: string, first: string | null): void {
  const { figures, rulers, ...rest } = report;
  // Figures on a shared ruler depend on one another.
  const shared = JSON.stringify([rest, rulers, rulers.length > 0 ? figures : null, surroundings]);
  const ordered = [...figures].sort((a, b) => Number(b.id === first) - Number(a.id === first));
  for (const figure of ordered) {
    const key = JSON.stringify([figure, shared]);
    if (useDrawings.getState().byFigure[figure.id]?.key === key) continue;
    put(figure.id, { key, pending: true });
    desk()
      .draw(report, figure.id)
      .then(
        (answer) => {
          // A newer drawing of the same figure may be under way.
          if (useDrawings.getState().byFigure[figure.id]?.key !== key) return;
          if (answer.ok) put(figure.id, { drawn: answer.value, problem: null, pending: false });
          else put(figure.id, { drawn: null, problem: answer.problem, pending: false });
        },
        (error: unknown) => put(figure.id, { drawn: null, problem: sentProblem(error), pending: false }),
      );
  }
}
