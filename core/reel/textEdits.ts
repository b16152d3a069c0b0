import type { Word } from '#core/words';
import { framesPerSecond, secondsToFrames, type Rate } from '#core/time';
import { applyCommand, type ReelCommand, type Sources } from './commands';
import { mainTrack, type Reel } from './types';

/** Frames of the main track, from the first to before the last. */
export interface FrameSpan {
  from: number;
  to: number;
}

/** So much is left before a word that is cut to: a breath, in seconds (common practice, no source). */
const breath = 0.15;
/** A pause longer than this is no pause of the sentence before it; it stays. */
const longestPause = 1.5;
/** What would be left of a piece, in seconds, when it is too short to be seen as anything. */
const sliver = 0.4;

type Timed = Pick<Word, 'start' | 'end'>;

/**
 * What of a reel is taken along with some of its words: from a breath before the first to a breath before the next one that
 * stays, so that one pause is left of two. Where the next stands beyond a long pause, only the words go. Nothing is taken of pieces
 * in which none of them is said.
 * @param words of the whole reel in order, in seconds of it
 * @param from index of the first, `to` of the one after the last
 */
export function spanOfWords(reel: Reel, words: readonly Timed[], from: number, to: number): FrameSpan {
  const [first, last] = [words[from]!, words[to - 1]!];
  const [before, next] = [words[from - 1], words[to]];
  const lead = Math.min(breath, Math.max(0, first.start - (before?.end ?? 0)) / 2);
  const pause = (next?.start ?? Infinity) - last.end;
  const end = pause > longestPause ? last.end + breath : last.end + Math.max(pause / 2, pause - breath);
  const span = {
    from: Math.max(pieceAt(reel, first).from, secondsToFrames(Math.max(0, first.start - lead), reel.rate)),
    to: Math.min(pieceAt(reel, last).to, secondsToFrames(Math.max(first.start, end), reel.rate)),
  };
  return withoutSlivers(reel, span, words, from, to);
}

/** The piece of the main track in which a word is said; all of the reel where there is none. */
function pieceAt(reel: Reel, { start, end }: Timed): FrameSpan {
  const frame = secondsToFrames((start + end) / 2, reel.rate);
  let from = 0;
  for (const { frames } of mainTrack(reel).items) {
    if (frame < from + frames) return { from, to: from + frames };
    from += frames;
  }
  return { from: 0, to: Infinity };
}

/** The span, widened to the edge of a piece where next to nothing without a word would be left of it. */
function withoutSlivers(reel: Reel, span: FrameSpan, words: readonly Timed[], from: number, to: number): FrameSpan {
  const least = sliver * framesPerSecond(reel.rate);
  const isSilent = (start: number, end: number) => !wordsBetween(words, reel.rate, start, end, from, to);
  let at = 0;
  let { from: first, to: last } = span;
  for (const { frames } of mainTrack(reel).items) {
    const end = at + frames;
    if (first > at && first < end && first - at < least && isSilent(at, first)) first = at;
    if (last > at && last < end && end - last < least && isSilent(last, end)) last = end;
    at = end;
  }
  return { from: first, to: last };
}

/** Whether a word that stays lies between two frames. */
const wordsBetween = (words: readonly Timed[], rate: Rate, start: number, end: number, from: number, to: number) =>
  words.some(({ start: a, end: b }, index) => {
    const middle = secondsToFrames((a + b) / 2, rate);
    return (index < from || index >= to) && middle >= start && middle < end;
  });

/** Spans in order, those that touch or lie over one another as one. */
function joined(spans: readonly FrameSpan[]): FrameSpan[] {
  const out: FrameSpan[] = [];
  for (const span of spans.toSorted((a, b) => a.from - b.from)) {
    const last = out.at(-1);
    if (last && span.from <= last.to) last.to = Math.max(last.to, span.to);
    else out.push({ ...span });
  }
  return out;
}

/** An edit made of others, or why it cannot be made. */
export type TextEdit = { ok: true; command: ReelCommand } | { ok: false; reason: string };

/** Edits that are made one after the other, each on what the ones before it made of the reel. */
class Steps {
  readonly commands: ReelCommand[] = [];
  reason: string | null = null;

  constructor(
    public reel: Reel,
    private readonly sources: Sources,
    private readonly newId: () => string,
  ) {}

  do(command: ReelCommand): void {
    if (this.reason !== null) return;
    const result = applyCommand(this.reel, command, this.sources);
    if (!result.ok) {
      this.reason = result.reason;
      return;
    }
    this.reel = result.reel;
    this.commands.push(command);
  }

  /** Cuts the piece that lies over a frame. */
  cut(frame: number): void {
    let at = 0;
    for (const item of mainTrack(this.reel).items) {
      if (item.kind === 'clip' && frame > at && frame < at + item.frames)
        return this.do({ type: 'split', clip: item.id, at: frame - at, newId: this.newId() });
      at += item.frames;
    }
  }

  /** Pieces that lie in a span, with their places in the track. */
  inside({ from, to }: FrameSpan): { id: string; place: number }[] {
    let at = 0;
    return mainTrack(this.reel).items.flatMap((item, place) => {
      const start = at;
      at += item.frames;
      return item.kind === 'clip' && start >= from && at <= to ? [{ id: item.id, place }] : [];
    });
  }

  /** The place of the piece that begins at a frame; behind the last one, the number of pieces. */
  placeAt(frame: number): number {
    let at = 0;
    const { items } = mainTrack(this.reel);
    for (const [place, item] of items.entries()) {
      if (at >= frame) return place;
      at += item.frames;
    }
    return items.length;
  }

  made(name: string): TextEdit {
    if (this.reason !== null) return { ok: false, reason: this.reason };
    return { ok: true, command: { type: 'several', name, commands: this.commands } };
  }
}

/**
 * Takes stretches out of a reel, with what lies above and beside them; what follows moves up. One step to undo.
 * @param spans in any order; they may touch, and lie over several pieces
 * @param name what it is called in the history
 */
export function strikeOut(
  reel: Reel,
  spans: readonly FrameSpan[],
  name: string,
  sources: Sources,
  newId: () => string,
): TextEdit {
  const steps = new Steps(reel, sources, newId);
  // From the last on, so that the frames of those before it stay.
  for (const span of joined(spans).reverse()) {
    steps.cut(span.from);
    steps.cut(span.to);
    for (const { id } of steps.inside(span)) steps.do({ type: 'remove', clip: id });
  }
  return steps.commands.length > 0 || steps.reason !== null
    ? steps.made(name)
    : { ok: false, reason: 'There is nothing to take out here.' };
}

/**
 * Puts a stretch of a reel before another frame of it. One step to undo.
 * @param to a frame outside the stretch; the reel's length for its end
 */
export function moveSpan(
  reel: Reel,
  span: FrameSpan,
  to: number,
  name: string,
  sources: Sources,
  newId: () => string,
): TextEdit {
  if (to > span.from && to < span.to) return { ok: false, reason: 'Words cannot be moved into themselves.' };
  const steps = new Steps(reel, sources, newId);
  for (const frame of [span.from, span.to, to]) steps.cut(frame);
  const target = steps.placeAt(to);
  const moved = steps.inside(span);
  moved.forEach(({ id, place }, index) =>
    // What stood before the target has moved up by one for each that went over it.
    steps.do({ type: 'move', clip: id, to: place < target ? target - 1 : target + index }),
  );
  return steps.made(name);
}
