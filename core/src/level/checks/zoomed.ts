import { ofFigures } from '../level';

export const zoomed = ofFigures(
  'broken-totals',
  'totals that do not begin at zero cannot be compared with one another by their length',
  ({ request }, { id }) =>
    request.look.zoom
      ? [
          {
            severity: 'note',
            text: 'its totals are broken, so that the steps can be seen',
            repair: {
              name: 'Let totals begin at zero',
              edit: { edit: 'set-look', figure: id, part: 'zoom', value: false },
            },
          },
        ]
      : [],
);
