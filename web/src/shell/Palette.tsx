'use client';

import '@/ui/nonce';
import { Command } from 'cmdk';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { chooseFigure, useChosen } from '@/figures/chosen';
import { calledIn } from '@/figures/names';
import { duplicateFigure } from '@/figures/commands';
import { addPage } from '@/page/commands';
import { useReader } from '@/page/readerState';
import { useDrawings } from '@/store/drawings';
import { useShallow } from 'zustand/react/shallow';
import { useReport } from '@/store/reportStore';
import { saveBundle, saveReportFile } from './ReportMenu';
import { pathOf, STEPS } from '@/store/steps';
import { usePaper } from '@/ui/paper';
import { THEMES, useTheme } from '@/ui/theme';

interface Props {
  readonly onClose: () => void;
  readonly onKeys: () => void;
}

/** Anything by its name: places, figures, pages, and what can be done. */
export function Palette({ onClose, onKeys }: Props) {
  const router = useRouter();
  const { id, report, past, future, undo, redo } = useReport(
    useShallow(({ id, report, past, future, undo, redo }) => ({ id, report, past, future, undo, redo })),
  );
  const drawings = useDrawings(({ byFigure }) => byFigure);
  const { theme, setTheme } = useTheme();
  const { isDeskDark, isWished, wish } = usePaper();
  const chosen = useChosen();
  const [problem, setProblem] = useState<string | null>(null);
  if (!id || !report) return null;
  const take = (work: () => void | Promise<void>) => () => {
    void (async () => {
      try {
        await work();
        onClose();
      } catch (error) {
        setProblem(error instanceof Error ? error.message : String(error));
      }
    })();
  };
  const toFigure = (figure: string) => {
    chooseFigure(figure, (path) => router.push(path));
  };
  const toPage = (page: string) => {
    useReader.getState().show(page);
    router.push(pathOf(id, 'page'));
  };
  const last = past[past.length - 1]?.name;
  const next = future[0]?.name;
  return (
    <Command.Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      label="Find anything"
      loop
      filter={fits}
      overlayClassName="fixed inset-0 z-30 bg-engraved/40"
      contentClassName="fixed top-[12vh] left-1/2 z-40 w-[600px] max-w-[94vw] -translate-x-1/2 border border-hairline bg-paper shadow-popover"
    >
      <div aria-hidden className="h-3 ruler-edge" />
      <Command.Input
        placeholder="A figure, a page, a step, or what to do"
        className="w-full border-b border-hairline bg-transparent px-5 py-3 text-[15px] outline-none"
      />
      {problem && (
        <p role="alert" className="m-3 border-l-4 border-behind pl-2 text-[13px]">
          {problem}
        </p>
      )}
      <Command.List className="max-h-[56vh] overflow-y-auto p-2 text-[13px] [&_[cmdk-group-heading]]:px-3 [&_[cmdk-group-heading]]:pt-3 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-quiet">
        <Command.Empty className="px-3 py-4 text-quiet">Nothing of that name.</Command.Empty>
        <Command.Group heading="Figures">
          {report.figures.map((figure) => {
            const title = calledIn(figure, drawings[figure.id]?.drawn?.scene.title);
            return (
              <Item
                key={figure.id}
                value={`figure ${figure.id} ${title} ${figure.brief}`}
                onTake={take(() => toFigure(figure.id))}
              >
                <span className="block truncate">{title}</span>
                <span className="block truncate text-quiet">{figure.brief}</span>
              </Item>
            );
          })}
        </Command.Group>
        {report.pages.length > 0 && (
          <Command.Group heading="Pages">
            {report.pages.map((page) => (
              <Item key={page.id} value={`page ${page.id} ${page.title}`} onTake={take(() => toPage(page.id))}>
                {page.title}
              </Item>
            ))}
          </Command.Group>
        )}
        <Command.Group heading="Go to">
          {STEPS.map(({ id: step, name }, i) => (
            <Item
              key={step}
              value={`go to ${name}`}
              keys={String(i + 1)}
              onTake={take(() => router.push(pathOf(id, step)))}
            >
              {name}
            </Item>
          ))}
          <Item value="all reports first page" onTake={take(() => router.push('/'))}>
            All reports
          </Item>
        </Command.Group>
        <Command.Group heading="Do">
          {last && (
            <Item value={`undo ${last}`} keys="Ctrl Z" onTake={take(undo)}>
              Undo: {last}
            </Item>
          )}
          {next && (
            <Item value={`redo ${next}`} keys="Ctrl Shift Z" onTake={take(redo)}>
              Redo: {next}
            </Item>
          )}
          {report.figures.length > 0 && (
            <Item
              value="duplicate this figure copy"
              onTake={take(() => toFigure(duplicateFigure(chosen ?? report.figures[0]!.id)))}
            >
              Duplicate the figure on the bench
            </Item>
          )}
          <Item value="new page" onTake={take(() => toPage(addPage()))}>
            New page
          </Item>
          <Item value="save the report file json" onTake={take(() => saveReportFile(report))}>
            Save the report file
          </Item>
          <Item value="save as a bundle zip" onTake={take(() => saveBundle(report))}>
            Save as a bundle
          </Item>
          <Item value="keys shortcuts help overview" keys="?" onTake={onKeys}>
            Keys
          </Item>
          {isDeskDark && (
            <Item value="paper light dark theme" onTake={take(() => wish(!isWished))}>
              {isWished ? 'Light paper' : 'Dark paper'}
            </Item>
          )}
          {THEMES.filter((one) => one !== theme).map((one) => (
            <Item key={one} value={`desk light dark theme ${one}`} onTake={take(() => setTheme(one))}>
              Desk {one}
            </Item>
          ))}
        </Command.Group>
      </Command.List>
    </Command.Dialog>
  );
}

/** Every word that is typed must be there; where it begins one counts for more, and so do short names. */
function fits(value: string, search: string): number {
  const name = value.toLowerCase();
  const words = search
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '');
  let score = 1;
  for (const word of words) {
    const at = name.indexOf(word);
    if (at < 0) return 0;
    if (at > 0 && /[^\s“(]/.test(name.charAt(at - 1))) score *= 0.6;
  }
  return score * (0.5 + 0.5 / (1 + name.length / 40));
}

function Item({
  value,
  keys,
  onTake,
  children,
}: {
  value: string;
  keys?: string;
  onTake: () => void;
  children: React.ReactNode;
}) {
  return (
    <Command.Item
      value={value}
      onSelect={onTake}
      className="flex cursor-pointer items-center gap-3 border-l-4 border-transparent px-2 py-1.5 aria-selected:border-boxwood aria-selected:bg-desk"
    >
      <span className="min-w-0 grow">{children}</span>
      {keys && <span className="shrink-0 font-figure text-xs text-quiet">{keys}</span>}
    </Command.Item>
  );
}
