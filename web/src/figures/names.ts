import type { FigureEntry } from '@bold-ruler/core/report';
import { useDrawings } from '@/store/drawings';
import { useReport } from '@/store/reportStore';

/** What a figure is called: its own name, else its title as it was drawn, else its brief. */
export function calledIn(figure: FigureEntry, title: string | undefined): string {
  return figure.name ?? (title || figure.brief);
}

/** What a figure is called where figures are listed, with its brief where another one is called the same. */
export function useFigureName(figure: FigureEntry): { readonly name: string; readonly apart: string | null } {
  const name = useDrawings(({ byFigure }) => calledIn(figure, byFigure[figure.id]?.drawn?.scene.title));
  const figures = useReport((state) => state.report!.figures);
  const isTaken = useDrawings(({ byFigure }) =>
    figures.some((one) => one.id !== figure.id && calledIn(one, byFigure[one.id]?.drawn?.scene.title) === name),
  );
  return { name, apart: isTaken && name !== figure.brief ? figure.brief : null };
}
