/** The pace of the last so many seconds counts, or of so large a part of the time so far: load comes and goes. */
const windowSeconds = 15;
const windowPart = 0.25;
/** From so much progress on the pace alone is believed; up to it the guess from before counts as well. */
const believedFrom = 0.1;

/** How long a task will still take, from a guess beforehand and from its pace. */
export class TimeLeft {
  private readonly notes: { at: number; share: number }[] = [];

  /** @param guess seconds that it was thought to take; null when nothing was thought */
  constructor(private readonly guess: number | null) {}

  /**
   * @param share done, 0 to 1; where it falls, the work began anew
   * @param at seconds on any clock
   */
  note(share: number, at: number): void {
    // The pace is taken from the first progress on: what comes before it (opening nets, what was done in an earlier run) is no pace.
    const last = this.notes.at(-1)?.share ?? 0;
    if (share < last || last === 0) this.notes.length = 0;
    this.notes.push({ share, at });
    const kept = Math.max(windowSeconds, windowPart * (at - this.notes[0]!.at));
    // What lies too far back goes, but for one note that the pace is measured from.
    let old = 0;
    while (old + 2 < this.notes.length && at - this.notes[old + 1]!.at >= kept) old++;
    if (old > 0) this.notes.splice(1, old);
  }

  /** Seconds from the last note on; null while nothing can be said. */
  get seconds(): number | null {
    const last = this.notes.at(-1);
    const guessed = this.guess === null ? null : this.guess * (1 - (last?.share ?? 0));
    if (!last) return guessed;
    const from = this.notes[1] && this.notes.length > 2 ? this.notes[1] : this.notes[0]!;
    const done = last.share - from.share;
    const took = last.at - from.at;
    if (done <= 0 || took < 1.5) return guessed;
    const measured = (took / done) * (1 - last.share);
    if (guessed === null) return last.share < 0.02 ? null : measured;
    const belief = Math.min(1, last.share / believedFrom);
    return measured * belief + guessed * (1 - belief);
  }
}
