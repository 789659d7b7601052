import { membersIn } from '../../format';
import { counted } from '../../problem';
import { writeBrief, type Brief } from '../../brief';
import { ofFigures } from '../level';

export const shareOfSome = ofFigures(
  'share-of-some',
  'shares that do not add up to the whole are easily read as if they did',
  ({ cells }, { id }, { vocabulary }) => {
    const { view, brief, isSelection } = cells;
    // Where as many are kept as there are, nobody is left out.
    if (view.kind !== 'share' || !brief.keep || brief.keep.rest || !isSelection) return [];
    const kept = membersIn(cells);
    const next: Brief = { ...brief, keep: { ...brief.keep, rest: true } };
    return [
      {
        severity: 'warning',
        text: `it shows the ${kept === 1 ? 'share' : 'shares'} of ${counted(kept, 'member')} and not that of the others`,
        repair: {
          name: 'Show the rest, too',
          edit: { edit: 'set-brief', figure: id, brief: writeBrief(next, vocabulary) },
        },
      },
    ];
  },
);

export const droppedLabels = ofFigures(
  'labels-dropped',
  'what is not labelled has to be guessed',
  ({ scene: { dropped } }) =>
    dropped > 0 ? [{ severity: 'note', text: `${dropped} ${dropped === 1 ? 'label' : 'labels'} found no room` }] : [],
);

export const rowsLeftOut = ofFigures(
  'rows-left-out',
  'what was left out is missing from the total that is shown',
  ({ cells: { leftOut, measure } }, _, { source }) => {
    // Rows without a date are told by themselves, whatever stands in their place.
    const isUndated = leftOut.some(({ reason }) => reason === NO_DATE);
    const undated = isUndated ? [NO_DATE, `“${source.facts(measure.table)?.date}”: `] : [];
    return leftOut
      .filter(({ reason }) => !undated.some((own) => reason.startsWith(own)))
      .map(({ rows, reason }) => ({
        severity: 'warning',
        text: `${rows} left out: ${reason}`,
        fact: `${measure.table}: ${reason}`,
        table: measure.table,
        view: 'left out',
      }));
  },
);

const NO_DATE = 'no date';
