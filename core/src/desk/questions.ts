import { briefs } from './briefs';
import { checks } from './checks';
import { data } from './data';
import { figures } from './figures';
import { numbers } from './numbers';
import { pageFiles } from './pageFiles';
import { pages } from './pages';
import { reckonings } from './reckonings';
import { tables } from './tables';

/** Every question about an open report that an interface asks, each a function of the report with its tables. */
export const QUESTIONS = {
  ...figures,
  ...reckonings,
  ...checks,
  ...briefs,
  ...pages,
  ...pageFiles,
  ...data,
  ...numbers,
  ...tables,
};
export type Questions = typeof QUESTIONS;
