import { isProblem, Problem, type Fix, type Place } from './problem';

/** A problem as plain data, which can cross from a worker. */
export interface SentProblem {
  readonly code: string;
  readonly sentence: string;
  readonly message: string;
  readonly place: Place | null;
  readonly remedy: string | null;
  /** Texts that would put it right. */
  readonly fixes: readonly Fix[];
}

/** A result or a problem, as plain data. */
export type Sent<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: SentProblem };

export function sentProblem(error: unknown): SentProblem {
  if (isProblem(error)) {
    return {
      code: error.code,
      sentence: error.sentence,
      message: error.message,
      place: error.place ?? null,
      remedy: error.remedy ?? null,
      fixes: error.fixes,
    };
  }
  const message = error instanceof Error ? error.message : String(error);
  return {
    code: 'unforeseen',
    sentence: message,
    message: `something unforeseen went wrong: ${message}`,
    place: null,
    remedy: null,
    fixes: [],
  };
}

/** Runs work and turns what it throws into data. */
export async function sent<T>(work: () => Promise<T> | T): Promise<Sent<T>> {
  try {
    return answered(await work());
  } catch (error) {
    return { ok: false, problem: sentProblem(error) };
  }
}

function answered<T>(value: T): Sent<T> {
  return { ok: true, value };
}

/** The value, or the problem thrown again as ours. */
export function received<T>(answer: Sent<T>): T {
  if (answer.ok) return answer.value;
  const { code, sentence, place, remedy, fixes } = answer.problem;
  throw new Problem(code, sentence, place ?? undefined, remedy ?? undefined, fixes);
}
