'use client';

import { useEffect, useMemo, useState } from 'react';
import type { Brief } from '@bold-ruler/core/brief';
import { figureOf } from '@bold-ruler/core/report';
import { useGuide } from '@/store/guide';
import { isWriting } from '@/ui/isWriting';
import { desk } from '@/store/desk';
import { drawAll, useDrawings } from '@/store/drawings';
import { attempt } from '@/store/edit';
import { useShallow } from 'zustand/react/shallow';
import { inTab } from '@/ui/noted';
import { useReport } from '@/store/reportStore';
import { useAnswer } from '@/store/useAnswer';
import { Button } from '@/ui/Button';
import type { SentProblem } from '@bold-ruler/core/problem';
import { BriefLine } from './BriefLine';
import { addFigure, clausesOf, duplicateFigure, goBack, removeFigure, setBrief } from './commands';
import { chooseFigure, useChosen } from './chosen';
import { Film } from './Film';
import dynamic from 'next/dynamic';
import { NumbersTable } from './NumbersTable';
import { FigurePaper } from './FigurePaper';
import type { Part } from './parts';
import { WayBack } from './WayBack';
import type { DrawerPart } from './Drawer';
import type { Touched } from './touch';
import { useNarrowRoom } from './useNarrowRoom';

const Drawer = dynamic(() => import('./Drawer').then((module) => module.Drawer), {
  ssr: false,
  loading: () => <aside className="border-l border-hairline max-[799px]:border-t max-[799px]:border-l-0" />,
});
// It comes where a highlight of one's own is in use.
const HighlightStrip = dynamic(() => import('./HighlightStrip').then((module) => module.HighlightStrip), {
  ssr: false,
});

const OPEN = 'bold-ruler drawer';
const KEPT: readonly string[] = ['look', 'highlight', 'ruler', 'files'];

/** What lay in the drawer before a reload: what was typed there and not left is there again. */
function lastOpen(): DrawerPart {
  const kept = inTab.get(OPEN);
  return KEPT.includes(kept ?? '') ? (kept as DrawerPart) : 'look';
}

const keepOpen = (part: DrawerPart): void => inTab.set(OPEN, part);

/** The bench: the film of figures, the brief above the paper, the drawer beside it. */
export function FiguresStep() {
  const { report, id, tablesVersion } = useReport(
    useShallow(({ report, id, tablesVersion }) => ({ report, id, tablesVersion })),
  );
  const chosen = useChosen();
  const [row, setRow] = useState<number | null>(null);
  /** The part of the sentence that was touched in the figure; a new object each time. */
  const [opened, setOpened] = useState<{ part: Part } | null>(null);
  /** What lies in the drawer, and whether it was asked for by a press on the figure. */
  const [drawer, setDrawer] = useState<{ readonly part: DrawerPart; readonly isAsked: boolean }>(() => ({
    part: lastOpen(),
    isAsked: false,
  }));
  useEffect(() => keepOpen(drawer.part), [drawer.part]);
  const [refused, setRefused] = useState<SentProblem | null>(null);
  const figure = (chosen !== null && figureOf(report!, chosen)) || report!.figures[0];
  const figureId = figure?.id ?? null;
  const drawing = useDrawings(({ byFigure }) => (figureId === null ? undefined : byFigure[figureId]));

  const [drawerOf, setDrawerOf] = useState(figureId);
  if (drawerOf !== figureId) {
    setDrawerOf(figureId);
    // A row is one of its figure.
    if (drawer.part === 'row') setDrawer({ part: 'look', isAsked: false });
  }
  useEffect(() => {
    // Going back comes to whatever lay here first.
    if (figureId !== null) chooseFigure(figureId, null, true);
  }, [figureId]);
  const [bench, setBench] = useState<HTMLDivElement | null>(null);
  const room = useNarrowRoom(bench);
  useEffect(
    () => drawAll(report!, `${id} ${tablesVersion}`, figureId, room),
    [report, id, tablesVersion, figureId, room],
  );
  const { measures, benchmarks, tables, rulers, highlights, calendar } = report!;
  const { value: offered } = useAnswer(
    [measures, benchmarks, tables, rulers, highlights, calendar, tablesVersion],
    (now) => desk().offered(now),
  );

  const choose = useMemo(
    () => (next: string, stepping?: boolean) => {
      chooseFigure(next, null, stepping);
      setRow(null);
      setRefused(null);
    },
    [],
  );
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isWriting(event.target) || (event.key !== 'PageDown' && event.key !== 'PageUp')) return;
      const figures = useReport.getState().report!.figures;
      const at = figures.findIndex((f) => f.id === figureId) + (event.key === 'PageDown' ? 1 : -1);
      if (figures[at]) choose(figures[at].id, true);
      event.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [figureId, choose]);

  if (!figure) {
    return (
      <main className="p-10">
        <h1 className="text-xl font-semibold">No figure yet</h1>
        <p className="mt-1 text-quiet">
          A figure is made by a sentence: a measure, by what, during when, against what.
        </p>
        <Button
          look="main"
          className="mt-4"
          disabled={!offered || offered.measures.length === 0}
          onClick={() => offered && choose(addFigure(offered))}
        >
          Make a figure
        </Button>
        {offered?.measures.length === 0 && (
          <p className="mt-3 text-quiet">
            There is no number to add up in the tables. Add a table with a number column in the Data step.
          </p>
        )}
      </main>
    );
  }
  const change = (next: Brief, shown: Brief) => {
    void attempt({ edit: 'set-clauses', figure: figure.id, clauses: clausesOf(shown, next) }).then(setRefused);
  };
  const changeShown = (next: Brief) => drawing?.drawn && change(next, drawing.drawn.readable.brief);
  const touch = (touched: Touched) => {
    if (touched !== 'ruler' && touched !== 'highlight') return setOpened({ part: touched });
    setDrawer({ part: touched, isAsked: true });
  };
  /** Chooses a row, and lays it into the drawer. */
  const chooseRow = (next: number | null) => {
    setRow(next);
    if (next !== null) setDrawer({ part: 'row', isAsked: false });
  };
  return (
    <main className="grid min-h-0 grow grid-cols-[132px_minmax(0,1fr)_268px] max-[999px]:grid-cols-[minmax(0,1fr)_264px] max-[999px]:grid-rows-[auto_minmax(0,1fr)] max-[799px]:relative max-[799px]:block max-[799px]:overflow-y-auto min-[1340px]:grid-cols-[148px_minmax(0,1fr)_304px]">
      <h1 className="sr-only">Figures</h1>
      <Film
        figures={report!.figures}
        chosen={figure.id}
        onChoose={choose}
        onNew={() => offered && choose(addFigure(offered))}
        onDuplicate={() => choose(duplicateFigure(figure.id))}
        onRemove={() => {
          removeFigure(figure.id);
          setRow(null);
        }}
      />
      <div
        ref={setBench}
        className="flex min-h-0 min-w-0 [scrollbar-gutter:stable] flex-col overflow-y-auto px-4 pt-3 pb-4 max-[799px]:overflow-visible max-[479px]:px-2"
      >
        <BriefLine
          key={figure.id}
          text={figure.brief}
          readable={(!drawing?.problem && drawing?.drawn?.readable) || null}
          figureId={figure.id}
          offered={offered}
          opened={opened}
          problem={refused ?? drawing?.problem ?? null}
          onText={(text) => {
            setRefused(null);
            setRow(null);
            setBrief(figure.id, text);
          }}
          onBrief={(next, shown) => {
            setRow(null);
            change(next, shown);
          }}
          onRefused={setRefused}
        />
        {drawing?.drawn && !drawing.problem && (
          <WayBack
            path={drawing.drawn.path}
            by={drawing.drawn.readable.brief.by[0] ?? ''}
            onBack={(text) => {
              setRow(null);
              goBack(figure.id, text);
            }}
          />
        )}
        <FigurePaper
          figure={figure}
          drawing={drawing}
          row={row}
          onRow={(next) => {
            chooseRow(next);
            if (next !== null) useGuide.getState().done('row');
          }}
          onTouch={touch}
          onBrief={changeShown}
        />
        {drawing?.drawn && !drawing.problem && (
          <HighlightStrip drawn={drawing.drawn} onRule={() => touch('highlight')} />
        )}
        {drawing?.drawn && drawing.drawn.rows.length > 0 && (
          <NumbersTable
            numbers={drawing.drawn.numbers}
            sort={drawing.drawn.readable.brief.sort}
            row={row === null ? null : (drawing.drawn.rows[row]?.row ?? null)}
            onRow={(line) => {
              const at = drawing.drawn!.rows.findIndex((one) => one.row === line);
              chooseRow(at < 0 ? null : at);
            }}
            onSort={(sort) => changeShown({ ...drawing.drawn!.readable.brief, sort })}
          />
        )}
      </div>
      <Drawer
        figure={figure}
        drawing={drawing}
        row={row}
        fields={offered?.fields ?? []}
        open={drawer}
        onOpen={(part) => setDrawer({ part, isAsked: false })}
      />
    </main>
  );
}
