import { writeNumber } from '../../format';
import { type Cells } from '../../query';
import { type Look } from '../../report';
import { fitRuler, type LinearRuler } from '../../ruler';
import { shortenAll, type Mark, type Scene, type SceneRuler } from '../../scene';
import { bandEdgesAt, bandsOf } from '../bullet/bands';
import { dialForm } from './declared';
import { type FigureRequest, type FormDefinition } from '../form';
import { footOf, headOf, heightOf, PAD } from '../frame';
import { moreMark } from '../more';
import { rowKey, rowName, spoken } from '../names';
import { BARE, MORE } from '../room';
import { bandEntries, benchmarkEntries, rowEntries } from '../rows/legend';
import { cellMark, comparedAt, onScale } from '../rows/parts';
import { DEFAULT_WIDTH } from '../rows/rows';
import { textsOf } from '../texts';
import { dialMarks, STOPS, BELOW, NAME_SIZE } from './marks';

/** A value on an arc between two stops, its target a rule across it; one dial a member, all on one ruler. */
export const dial: FormDefinition = {
  ...dialForm,
  rulerValues,
  draw,
};

/** Room for the name and the gap beneath a dial. */
const UNDER = 44;
const LARGEST = 128;

function rulerValues(cells: Cells, look: Look): number[] {
  const bands = bandsOf(cells, look);
  return onScale(cells, 'value', (row) => [...comparedAt(cells, row), ...bandEdgesAt(bands, cells, row)]);
}

function draw(request: FigureRequest): Scene {
  const { cells, look, ruler: shared } = request;
  const texts = textsOf(cells);
  const { writing } = texts;
  const width = look.width ?? DEFAULT_WIDTH;
  const bands = bandsOf(cells, look);
  const legend = [
    ...rowEntries(request, writing),
    ...benchmarkEntries({ ...request, look: { ...look, orientation: 'horizontal' } }),
    ...(bands ? bandEntries(request, bands, writing) : []),
  ];
  const head = headOf(request, width, writing);
  const foot = footOf(request, width, legend);
  const inner = width - 2 * PAD;
  const count = Math.max(1, cells.count);
  const most = Math.max(1, Math.floor(inner / 132));
  const lines = Math.ceil(count / most);
  const columns = Math.ceil(count / lines);
  const cellWidth = inner / columns;
  // On a paper too low for all dials those that are seen are whole.
  const smallest = 14 * (1 + BELOW) + UNDER + 14;
  const asked =
    look.height &&
    heightOf(request, 0, head, foot, Math.min(lines * smallest, Math.max(smallest + MORE, look.height - BARE)));
  const together = asked === undefined ? Infinity : asked - head.bottom - foot.height;
  const isCut = together < lines * smallest - 0.5;
  const given = isCut ? smallest : together / lines;
  const radius = Math.max(14, Math.min(LARGEST, cellWidth / 2 - 14, (given - UNDER - 14) / (1 + BELOW)));
  // A paper that is too low shows as many dials as it holds.
  const cellHeight = radius * (1 + BELOW) + UNDER + 14;
  const height = asked ?? head.bottom + lines * cellHeight + foot.height;

  const fit = shared?.entry.fit ?? 'zero';
  const common = fitRuler({
    values: [...(fit === 'tight' ? [0] : []), ...rulerValues(cells, look), ...(shared?.values ?? [])],
    range: STOPS,
    fit: fit === 'tight' ? 'zero' : fit,
    ...(shared?.entry.domain ? { domain: shared.entry.domain } : {}),
    // Ticks of a dial are few: an eighth of the arc lies between two of them.
    extent: () => 0,
    clearance: (STOPS[1] - STOPS[0]) / 8,
  });
  // Zero is zero in every unit.
  const stopTexts = ({ domain }: LinearRuler) => domain.map((stop) => (stop === 0 ? '0' : writeNumber(stop, writing)));
  const commonStops = stopTexts(common);
  const names = shortenAll(
    Array.from({ length: cells.count }, (_, row) => rowName(cells, row)),
    cellWidth - 8,
    NAME_SIZE,
    600,
  );
  const marks: Mark[] = [...head.marks];
  const rulers: SceneRuler[] = [];
  let dropped = 0;
  const unseen: number[] = [];
  for (let row = 0; row < cells.count; row++) {
    const of = rowKey(cells, row);
    const left = PAD + (row % columns) * cellWidth;
    const top = head.bottom + Math.floor(row / columns) * cellHeight;
    if (top + cellHeight > height - foot.height - (isCut ? MORE : 0) + 0.5) {
      unseen.push(row);
      dropped++;
      continue;
    }
    const ruler = stoppedAt(common, cells.extras.stops.low?.[row] ?? NaN, cells.extras.stops.high?.[row] ?? NaN);
    const id = `${shared?.entry.id ?? 'own'}${ruler === common ? '' : ` ${row + 1}`}`;
    if (ruler !== common || rulers.length === 0)
      rulers.push({
        id,
        axis: 'angle',
        kind: 'linear',
        domain: ruler.domain,
        range: STOPS,
        ticks: ruler.ticks,
        strip: { x: left, y: top, width: 0, height: 0 },
      });
    const centre = { x: left + cellWidth / 2, y: top + 8 + radius };
    dropped += dialMarks(marks, request, {
      ruler,
      centre,
      radius,
      room: cellWidth - 8,
      name: names[row]!,
      value: texts.actual[row]!,
      gap: texts.gapPercent[row]!,
      stops: ruler === common ? commonStops : stopTexts(ruler),
      bands,
      row,
      of,
    });
    marks.push(cellMark(cells, row, of, { x: left, y: top, width: cellWidth, height: cellHeight }));
  }
  if (unseen.length > 0) marks.push(moreMark(cells, unseen, writing, PAD, height - foot.height - 4));
  marks.push(...foot.marks(height - foot.height));
  return {
    width,
    height,
    title: head.title,
    description: spoken('Dials', cells),
    rulers,
    marks,
    dropped,
  };
}

/** The common ruler with stops of its own, where a row has them. */
function stoppedAt(common: LinearRuler, low: number, high: number): LinearRuler {
  const from = Number.isNaN(low) ? common.domain[0] : low;
  const to = Number.isNaN(high) ? common.domain[1] : high;
  if (!(from < to) || (from === common.domain[0] && to === common.domain[1])) return common;
  return {
    ...common,
    domain: [from, to],
    ticks: [from, ...common.ticks.filter((tick) => tick > from && tick < to), to],
  };
}
