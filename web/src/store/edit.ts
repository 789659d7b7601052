import type { Edit } from '@bold-ruler/core/edit';
import { sentProblem, type SentProblem } from '@bold-ruler/core/problem';
import { useReport } from './reportStore';

/** Changes the report that is open. See `ReportState.edit`. */
export function edit(change: Edit, place?: string): Promise<boolean> {
  return useReport.getState().edit(change, place);
}

/** Changes the report that is open; gives why that could not be done, to be shown where it was asked for. */
export async function attempt(change: Edit): Promise<SentProblem | null> {
  try {
    await useReport.getState().attempt(change);
    return null;
  } catch (error) {
    return sentProblem(error);
  }
}
