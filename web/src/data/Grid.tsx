'use client';

import { counted } from '@bold-ruler/core/problem';
import { ArrowDown, ArrowUp, Search } from 'lucide-react';
import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { desk } from '@/store/desk';
import type { LineOfFile } from './place';
import { useAnswer } from '@/store/useAnswer';
import { useReport } from '@/store/reportStore';
import type { LookedAt } from '@/worker/grid';
import type { GridCell, GridRow } from '@bold-ruler/core/desk';
import { received } from '@bold-ruler/core/problem';
import { INPUT } from '@/ui/Field';
import { count, KINDS } from '@/ui/words';

const ROW = 26;
/** Browsers lay out no element taller than some 30 million pixels; beyond this the scroll bar moves several rows at a time. */
const TALLEST = 12_000_000;
/** Rows asked for at a time. */
const BLOCK = 60;

interface Props {
  readonly tableId: string;
  readonly total: number;
  /** A line that is shown when the rows come. */
  readonly line?: LineOfFile | null;
}

/** All rows of a table: sorted, searched, and gone to by line. Only those in view are drawn. */
export function Grid({ tableId, total, line = null }: Props) {
  const version = useReport((state) => state.tablesVersion);
  const entry = useReport((state) => JSON.stringify(state.report!.tables.find(({ id }) => id === tableId)));
  const [sort, setSort] = useState<{ column: string; down: boolean } | null>(null);
  const [typed, setTyped] = useState('');
  const [search, setSearch] = useState('');
  const grid = useRef<GridHandle>(null);

  useEffect(() => {
    const timer = setTimeout(() => setSearch(typed.trim()), 180);
    return () => clearTimeout(timer);
  }, [typed]);

  const key = JSON.stringify([tableId, version, entry, sort, search]);
  const {
    value: looked,
    problem,
    of,
    isFresh,
  } = useAnswer([key], (now) =>
    desk().look(now, tableId, { ...(sort ? { sort } : {}), ...(search ? { search } : {}) }),
  );

  const isThere = looked !== null;
  useEffect(() => {
    if (isThere && line !== null) void goTo(line);
  }, [isThere, line]);

  async function goTo({ line, file }: LineOfFile): Promise<void> {
    const place = await desk().placeOf(line, file);
    if (place >= 0) grid.current?.show(place);
  }

  return (
    <div className="flex min-h-0 grow flex-col">
      <div className="flex items-center gap-3 pb-2">
        <label className="relative w-60">
          <span className="sr-only">Search the rows</span>
          <Search aria-hidden size={14} className="absolute top-2 left-2 text-quiet" />
          <input
            type="search"
            className={`${INPUT} pl-7`}
            placeholder="Search the rows"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          />
        </label>
        <label className="flex items-center gap-2 text-[13px] text-quiet">
          Line
          <span className="w-24">
            <input
              className={`${INPUT} text-right`}
              inputMode="numeric"
              aria-label="Go to line"
              placeholder="1"
              onKeyDown={(event) => {
                const line = Number(event.currentTarget.value.replace(/\D/g, ''));
                if (event.key === 'Enter' && line > 0) void goTo({ line });
              }}
            />
          </span>
        </label>
        <p role="status" className="ml-auto text-[13px] text-quiet">
          {problem?.message ??
            (!isFresh || looked === null
              ? 'Looking …'
              : search
                ? `${count.format(looked.rows)} of ${counted(total, 'row')} ${looked.rows === 1 ? 'holds' : 'hold'} “${search}”`
                : `${counted(looked.rows, 'row')}${sort ? `, by ${sort.column}` : ', as they stand in the file'}`)}
        </p>
      </div>
      {looked && (
        <Rows
          ref={grid}
          tableId={tableId}
          looked={looked}
          arranged={String(of?.[0])}
          sort={sort}
          onSort={(column) =>
            setSort((now) =>
              now?.column !== column ? { column, down: false } : now.down ? null : { column, down: true },
            )
          }
        />
      )}
    </div>
  );
}

interface GridHandle {
  show(place: number): void;
}

interface RowsProps {
  readonly tableId: string;
  readonly looked: LookedAt;
  /** Another one for each table, order and search. */
  readonly arranged: string;
  readonly sort: { readonly column: string; readonly down: boolean } | null;
  readonly onSort: (column: string) => void;
  readonly ref: React.Ref<GridHandle>;
}

/** Where the grid stands: the first row in view, as a number with a fraction. */
function Rows({ tableId, looked, arranged: key, sort, onSort, ref }: RowsProps) {
  const { rows: total, columns } = looked;
  const box = useRef<HTMLDivElement>(null);
  /** Where the rows were last moved to: finer than the scroll bar can say. */
  const aim = useRef(0);
  const [first, setFirst] = useState(0);
  const [height, setHeight] = useState(400);
  const [blocks, setBlocks] = useState<{ key: string; at: ReadonlyMap<number, readonly GridRow[]> }>({
    key,
    at: new Map(),
  });
  const [picked, setPicked] = useState<number | null>(null);
  const asked = useRef({ key, at: new Set<number>() });

  const inView = Math.max(1, Math.floor((height - ROW) / ROW));
  const full = total * ROW;
  const tall = Math.min(full, TALLEST);
  // With a fraction, so that the last row stands whole at the lower edge.
  const farthest = Math.max(0, total - (height - ROW) / ROW);
  // One pixel of the scroll bar is one pixel of rows, unless there are too many.
  const scale = full <= TALLEST ? 1 : (farthest * ROW) / Math.max(1, tall + ROW - height);

  const moveTo = useCallback(
    (row: number) => {
      const to = Math.max(0, Math.min(farthest, row));
      aim.current = to;
      setFirst(to);
      if (box.current) box.current.scrollTop = (to * ROW) / scale;
    },
    [farthest, scale],
  );

  useLayoutEffect(() => {
    const observer = new ResizeObserver(([entry]) => setHeight(entry!.contentRect.height));
    observer.observe(box.current!);
    return () => observer.disconnect();
  }, []);

  useEffect(() => {
    const show = (place: number) => {
      moveTo(place - Math.floor(inView / 3));
      setPicked(place);
    };
    if (typeof ref === 'function') ref({ show });
    else if (ref) ref.current = { show };
  }, [ref, moveTo, inView]);

  // Another order or choice begins at its top.
  const [shownKey, setShownKey] = useState(key);
  if (shownKey !== key) {
    setShownKey(key);
    setFirst(0);
    setPicked(null);
  }
  useEffect(() => {
    aim.current = 0;
    if (box.current) box.current.scrollTop = 0;
  }, [key]);

  // With many rows the wheel moves the rows themselves, as the bar is too coarse.
  useEffect(() => {
    const element = box.current!;
    if (scale === 1) return;
    const wheel = (event: WheelEvent) => {
      if (event.deltaY === 0 || event.ctrlKey) return;
      event.preventDefault();
      const to = Math.max(0, Math.min(farthest, aim.current + event.deltaY / ROW));
      aim.current = to;
      setFirst(to);
      element.scrollTop = (to * ROW) / scale;
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [scale, farthest]);

  const from = Math.floor(first);
  const to = Math.min(total, from + inView + 2);
  useEffect(() => {
    if (asked.current.key !== key) asked.current = { key, at: new Set() };
    const wanted: number[] = [];
    for (let block = Math.floor(from / BLOCK); block * BLOCK < to; block++) wanted.push(block);
    for (const block of wanted) {
      if (asked.current.at.has(block)) continue;
      asked.current.at.add(block);
      void desk()
        .rows(useReport.getState().report!, tableId, block * BLOCK, BLOCK)
        .then((answer) => {
          const rows = received(answer);
          setBlocks((known) => {
            const at = new Map(known.key === key ? known.at : []);
            at.set(block, rows);
            // Far away blocks are let go.
            if (at.size > 40) {
              for (const other of at.keys()) {
                if (Math.abs(other - block) > 12) {
                  at.delete(other);
                  asked.current.at.delete(other);
                }
              }
            }
            return { key, at };
          });
        });
    }
  }, [key, from, to, tableId]);

  const lines = Array.from({ length: Math.max(0, to - from) }, (_, i) => {
    const place = from + i;
    const block = blocks.key === key ? blocks.at.get(Math.floor(place / BLOCK)) : undefined;
    return { place, row: block?.[place % BLOCK] };
  });
  // As wide as the first rows need, so that nothing moves while one scrolls.
  const sample = blocks.key === key ? (blocks.at.get(0) ?? blocks.at.values().next().value ?? []) : [];
  const sampled = sample.length > 0;
  const [widths, setWidths] = useState<{ key: string; of: readonly number[] }>({ key: '', of: [] });
  if (sampled && widths.key !== key) {
    const of = columns.map(({ name }, c) => {
      const longest = sample.reduce(
        (most, { cells }) =>
          Math.max(most, (cells[c]?.text.length ?? 0) + (cells[c]?.raw ? cells[c].raw.length + 2 : 0)),
        name.length + 2,
      );
      return Math.min(280, Math.max(60, Math.ceil(longest * 6.1) + 20));
    });
    setWidths({ key, of });
  }
  const wide = (c: number) => widths.of[c] ?? 110;
  const template = `60px ${columns.map((_, c) => `minmax(${wide(c)}px, ${wide(c)}fr)`).join(' ')}`;
  const minWidth = 60 + columns.reduce((sum, _, c) => sum + wide(c), 0);

  return (
    <div
      ref={box}
      role="grid"
      aria-label={`Rows of ${tableId}`}
      aria-rowcount={total + 1}
      aria-colcount={columns.length + 1}
      tabIndex={0}
      className="relative min-h-0 grow overflow-auto border border-hairline bg-paper font-figure text-[13px]"
      onScroll={(event) => {
        const row = (event.currentTarget.scrollTop * scale) / ROW;
        if (Math.abs(row - aim.current) * ROW <= scale + 1 && scale > 1) return;
        aim.current = Math.min(farthest, row);
        setFirst(aim.current);
      }}
      onKeyDown={(event) => {
        const step = { ArrowDown: 1, ArrowUp: -1, PageDown: inView - 1, PageUp: 1 - inView }[event.key];
        const edge = { Home: 0, End: total - 1 }[event.key];
        if (step === undefined && edge === undefined) return;
        event.preventDefault();
        const next = Math.max(0, Math.min(total - 1, edge ?? (picked ?? from - 1) + step!));
        setPicked(next);
        if (next < from) moveTo(next);
        else if (next >= from + inView) moveTo(next - inView + 1);
      }}
    >
      <div style={{ height: tall + ROW, minWidth }}>
        <div className="sticky top-0 z-10">
          <div
            role="row"
            className="grid border-b border-ink/40 bg-desk"
            style={{ gridTemplateColumns: template, height: ROW }}
          >
            <span role="columnheader" className="px-2 py-1 text-right text-xs text-quiet">
              line
            </span>
            {columns.map(({ name, kind }) => (
              <button
                key={name}
                type="button"
                role="columnheader"
                aria-sort={sort?.column !== name ? 'none' : sort.down ? 'descending' : 'ascending'}
                title={`${name}, ${KINDS[kind]}. Press to sort.`}
                onClick={() => onSort(name)}
                className={`flex min-w-0 items-center gap-1 px-2 font-semibold hover:bg-boxwood-light ${kind === 'number' ? 'justify-end' : ''}`}
              >
                <span className="truncate">{name}</span>
                {sort?.column === name &&
                  (sort.down ? <ArrowDown aria-hidden size={12} /> : <ArrowUp aria-hidden size={12} />)}
              </button>
            ))}
          </div>
          <div
            className="relative"
            style={{
              transform: `translateY(${-(first - from) * ROW}px)`,
              zIndex: -1,
              position: 'absolute',
              left: 0,
              right: 0,
            }}
          >
            {lines.map(({ place, row }) => (
              <div
                key={place}
                role="row"
                aria-rowindex={place + 2}
                aria-selected={place === picked}
                data-place={place}
                onClick={() => setPicked(place)}
                className={`grid border-b border-hairline/60 ${place === picked ? 'bg-boxwood-light' : ''}`}
                style={{ gridTemplateColumns: template, height: ROW }}
              >
                <span role="rowheader" title={row?.file} className="px-2 text-right text-xs leading-[26px] text-quiet">
                  {row ? count.format(row.line) : '…'}
                </span>
                {row?.cells.map((cell, c) => (
                  <Cell key={c} cell={cell} right={columns[c]?.kind === 'number'} />
                ))}
              </div>
            ))}
          </div>
        </div>
      </div>
      {total === 0 && <p className="absolute inset-x-0 top-10 text-center text-quiet">No row holds that.</p>}
    </div>
  );
}

function Cell({ cell: { text, raw, unread }, right }: { cell: GridCell; right: boolean }) {
  return (
    <span
      role="gridcell"
      className={`truncate px-2 py-1 ${right ? 'text-right' : ''}`}
      title={raw === undefined ? text : `${text || 'blank'}; in the file: ${raw}`}
    >
      {text !== '' && !right && `${text} `}
      {raw !== undefined && (
        <span
          className={`text-xs ${unread ? 'font-semibold text-behind' : 'text-quiet'} ${text === '' ? '' : right ? 'mr-2' : 'ml-2'}`}
        >
          {raw}{' '}
        </span>
      )}
      {text !== '' && right && text}
      {text === '' && raw === undefined && <span className="text-quiet">–</span>}
    </span>
  );
}
