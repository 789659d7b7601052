import { Problem } from '../problem';

/** Refuses a name or id that another one has, whatever its case. */
export function refuseTaken(what: string, name: string, taken: readonly string[]): void {
  if (name !== '' && !taken.some((one) => one.toLowerCase() === name.toLowerCase())) return;
  throw new Problem(
    'name-taken',
    name === '' ? `a ${what} needs a name` : `another ${what} is called “${name}”`,
    undefined,
    'choose another name',
  );
}
