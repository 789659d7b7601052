import { declared } from '../../form/declare';
import { columns } from '../table/declared';

/** A table in the order of ranks. */
export const leagueForm = declared({
  form: 'league',
  purpose: 'the best of them, with the course of each',
  most: 2000,
  ranks: true,
  ordered: true,
  look: [columns],
});
