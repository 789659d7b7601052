/** The words of a view, as a look calls its column. */
const VIEW = /^(?:cumulative |share of |rank of |change in |smoothed \d+ )/;

/** Whether a column of a look is a view of that measure. */
export function isViewOf(id: string, measure: string): boolean {
  return id === measure || id.replace(VIEW, '') === measure;
}

/** The column with another name for its measure. */
export function withMeasure(id: string, from: string, to: string): string {
  return isViewOf(id, from) ? `${id.slice(0, id.length - from.length)}${to}` : id;
}
