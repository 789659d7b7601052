import { inQuotes, type Brief, type Condition } from '@bold-ruler/core/brief';
import type { LookPart } from '@bold-ruler/core/edit';
import type { FigureEntry, Look } from '@bold-ruler/core/report';
import { freeId } from '@/store/freeName';
import { desk } from '@/store/desk';
import { edit } from '@/store/edit';
import { inTab } from '@/ui/noted';
import { useReport } from '@/store/reportStore';
import type { Offered } from '@bold-ruler/core/desk';

const idsOfFigures = () => useReport.getState().report!.figures.map(({ id }) => id);

/** A new figure of what a person would ask first. Gives its id. */
export function addFigure({ measures, first }: Offered): string {
  const id = freeId('f', idsOfFigures());
  void edit({ edit: 'add-figure', figure: { id, brief: first ?? inQuotes(measures[0]!), look: {} } });
  return id;
}

/** A copy behind the figure. Gives its id. */
export function duplicateFigure(figureId: string): string {
  const id = freeId('f', idsOfFigures());
  const figure = useReport.getState().report!.figures.find((one) => one.id === figureId)!;
  void edit({
    edit: 'add-figure',
    figure: { ...figure, id, ...(figure.name === undefined ? {} : { name: `${figure.name}, copy` }) },
    behind: figureId,
    saying: 'duplicate the figure',
  });
  return id;
}

/** Takes a figure out of the report, and off its pages. */
export function removeFigure(figure: string): void {
  void edit({ edit: 'remove-figure', figure });
}

export function setBrief(figure: string, brief: string): void {
  void edit({ edit: 'set-brief', figure, brief });
}

/**
 * A brief that was left for a level below, by the figure and the brief to which the way back leads, which says less where the benchmark
 * is not known below. It is known for as long as the tab is open.
 */
function leftFor(figure: string, back: string): { get(): string | null; set(brief: string): void } {
  const key = `bold-ruler left ${JSON.stringify([useReport.getState().id, figure, back])}`;
  return {
    get: () => inTab.get(key),
    set: (brief) => inTab.set(key, brief),
  };
}

/** Goes into a row of a figure, by its place in the numbers. */
export async function goInto({ id, brief }: FigureEntry, row: number, name: string): Promise<void> {
  const { report } = useReport.getState();
  const way = report && (await desk().into(report, id, row));
  if (!way?.ok || !way.value) return;
  leftFor(id, way.value.back).set(brief);
  await edit({ edit: 'set-brief', figure: id, brief: way.value.text, saying: `go into ${name}` });
}

/** Goes back to where a figure was before it was gone into. */
export function goBack(figure: string, text: string): void {
  const brief = leftFor(figure, text).get() ?? text;
  void edit({ edit: 'set-brief', figure, brief, saying: 'go back' });
}

/** The clauses in which a brief differs from the one that was shown: the others stay as they are by then. */
export function clausesOf(shown: Brief, next: Brief): Partial<Brief> {
  return Object.fromEntries(
    Object.entries(next).filter(
      ([clause, value]) => JSON.stringify(value) !== JSON.stringify(shown[clause as keyof Brief]),
    ),
  );
}

/** Gives a figure a name of its own; an empty one is none. */
export function nameFigure(figure: string, text: string, place: string): void {
  void edit({ edit: 'name-figure', figure, name: text.trim() === '' ? null : text.trim() }, place);
}

/** Sets or, with undefined, takes away a part of a figure's look. */
export function setLook<K extends keyof Look>(
  figure: string,
  saying: string,
  part: K,
  value: Look[K] | undefined,
  place?: string,
): void {
  void edit({ edit: 'set-look', saying, ...({ figure, part, value } as unknown as LookPart) }, place);
}

/** Ends of the ruler a figure hangs on: of the shared one for all its figures, or of its own. Without ends it fits again. */
export function setRulerEnds(figure: string, shared: string | null, domain: readonly [number, number] | null): void {
  const saying = 'move an end of the ruler';
  if (shared === null) return setLook(figure, saying, 'domain', domain ?? undefined);
  const ruler = useReport.getState().report!.rulers.find(({ id }) => id === shared);
  if (!ruler) return;
  const { kind } = ruler;
  void edit({
    edit: 'change-ruler',
    saying,
    ruler: domain ? { id: shared, kind, fit: 'fixed', domain } : { id: shared, kind, fit: 'zero' },
  });
}

/** Puts all figures under the same conditions, in one step. */
export function narrowAll(only: readonly Condition[]): Promise<boolean> {
  return edit({ edit: 'narrow-figures', only });
}
