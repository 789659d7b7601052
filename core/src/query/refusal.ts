import type { Brief } from '../brief';
import { Problem, type Place } from '../problem';

/** A brief that asks for what cannot be known, with the change of it that its remedy speaks of. */
export class Refusal extends Problem {
  constructor(
    code: string,
    sentence: string,
    remedy: string,
    /** The brief that can be drawn instead. */
    readonly meant: (brief: Brief) => Brief,
    place: Place = { in: 'brief' },
  ) {
    super(code, sentence, place, remedy);
  }

  override at(place: Place): Refusal {
    return new Refusal(this.code, this.sentence, this.remedy!, this.meant, { ...this.place, ...place });
  }
}
