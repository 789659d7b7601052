import { inQuotes } from '@bold-ruler/core/brief';
import type { Condition } from '@bold-ruler/core/brief';
import type { Look } from '@bold-ruler/core/report';
import { desk } from '@/store/desk';
import { useReport, type ReportDraft } from '@/store/reportStore';
import type { Offered } from '@/worker/desk.worker';

/** An id of the form f1, f2, … that no figure has. */
function freeId(): string {
  const taken = new Set(useReport.getState().report!.figures.map(({ id }) => id));
  for (let n = taken.size + 1; ; n++) if (!taken.has(`f${n}`)) return `f${n}`;
}

/** A new figure of what a person would ask first. Gives its id. */
export function addFigure({ measures, first }: Offered): string {
  const id = freeId();
  const brief = first ?? inQuotes(measures[0]!);
  useReport.getState().run('new figure', (draft) => void draft.figures.push({ id, brief, look: {} }));
  return id;
}

/** A copy behind the figure. Gives its id. */
export function duplicateFigure(figureId: string): string {
  const id = freeId();
  useReport.getState().run('duplicate the figure', (draft) => {
    const at = draft.figures.findIndex((figure) => figure.id === figureId);
    draft.figures.splice(at + 1, 0, {
      ...structuredClone(useReport.getState().report!.figures[at]!),
      id,
    } as (typeof draft.figures)[number]);
  });
  return id;
}

/** Takes a figure out of the report, and off its pages. */
export function removeFigure(figureId: string): void {
  useReport.getState().run('remove the figure', (draft) => {
    draft.figures = draft.figures.filter(({ id }) => id !== figureId);
    for (const page of draft.pages) {
      for (const row of page.rows)
        if ('blocks' in row)
          row.blocks = row.blocks.filter((block) => !('figure' in block) || block.figure !== figureId);
      page.rows = page.rows.filter((row) => 'head' in row || row.blocks.length > 0);
    }
  });
}

export function setBrief(figureId: string, brief: string): void {
  useReport.getState().run('change the brief', (draft) => {
    const figure = draft.figures.find(({ id }) => id === figureId);
    if (figure && figure.brief !== brief) figure.brief = brief;
  });
}

/** Sets or, with undefined, takes away a part of a figure's look. */
export function setLook<K extends keyof Look>(
  figureId: string,
  name: string,
  key: K,
  value: Look[K] | undefined,
  session?: string,
): void {
  const change = (draft: ReportDraft) => {
    const figure = draft.figures.find(({ id }) => id === figureId);
    if (!figure) return;
    const look = figure.look as Partial<Record<string, unknown>>;
    if (value === undefined) delete look[key];
    else look[key] = value;
  };
  useReport.getState().run(name, change, session);
}

/** Ends of the ruler a figure hangs on: of the shared one for all its figures, or of its own. Without ends it fits again. */
export function setRulerEnds(figureId: string, shared: string | null, domain: readonly [number, number] | null): void {
  if (shared === null) return setLook(figureId, 'move an end of the ruler', 'domain', domain ?? undefined);
  useReport.getState().run('move an end of the ruler', (draft) => {
    const at = draft.rulers.findIndex(({ id }) => id === shared);
    if (at < 0) return;
    const { kind } = draft.rulers[at]!;
    draft.rulers[at] = domain
      ? { id: shared, kind, fit: 'fixed', domain: [domain[0], domain[1]] }
      : { id: shared, kind, fit: 'zero' };
  });
}

/** Puts all figures under the same conditions, in one step. */
export async function narrowAll(only: readonly Condition[]): Promise<void> {
  const answer = await desk().narrowed(useReport.getState().report!, only);
  if (!answer.ok) return;
  const briefs = new Map(answer.value.map(({ id, text }) => [id, text]));
  useReport.getState().run('the same rows in all figures', (draft) => {
    for (const figure of draft.figures) figure.brief = briefs.get(figure.id) ?? figure.brief;
  });
}
