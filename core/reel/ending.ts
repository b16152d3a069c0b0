import { decimal } from '#core/sentences';
import { runsOf, type DisplayTraces, type Run } from '#core/readings';
import { framesPerSecond, framesToSeconds } from '#core/time';
import type { ReelCommand } from './commands';
import { framesLeft } from './commands/room';
import { mainTrack, speedOf, type Clip, type Reel, type Source } from './types';

/** What must be known of the last piece's footage. */
export interface EndingReading {
  runs: readonly Run[];
  /** Ten values a second, or so. */
  hz: number;
  traces: Pick<DisplayTraces, 'motion' | 'moves'>;
}

/** Whether a reel ends well. */
export interface EndingAdvice {
  /** What is wrong, and what is proposed, as one sentence each. */
  because: string;
  says: string;
  command: ReelCommand;
  /** Other ways out. */
  others: { says: string; command: ReelCommand }[];
}

/** A breath after the last word; then an ending sounds meant. Common practice, no source. */
const breathSeconds = 0.4;
/** No pause further off than this is worth waiting for. */
const longestExtension = 6;
const holdSeconds = 1.2,
  fadeSeconds = 1;
/** Motion above this, 0 to 1, stops hard. */
const restless = 0.45;

/**
 * Looks at the end of a reel: does its last piece stop in a sentence, or in full motion? Proposes an ending; null when
 * it ends well, ends in a fade already, or nothing is known.
 * @param newId for a held frame
 */
export function adviseEnding(
  reel: Reel,
  reading: EndingReading | null,
  sources: ReadonlyMap<string, Source>,
  newId: string,
): EndingAdvice | null {
  const last = mainTrack(reel).items.at(-1);
  const source = last?.kind === 'clip' ? sources.get(last.media) : undefined;
  if (last?.kind !== 'clip' || !source || source.photo || !reading || last.fadeOut || last.speed === 0) return null;
  const fps = framesPerSecond(reel.rate);
  const speed = speedOf(last) / 100;
  const end = framesToSeconds(last.sourceIn, reel.rate) + framesToSeconds(last.frames, reel.rate) * speed;
  const fade = (clip: Clip): ReelCommand => ({
    type: 'fade',
    clip: clip.id,
    edge: 'out',
    frames: Math.min(clip.frames, Math.round(fadeSeconds * fps)),
  });
  const hold: ReelCommand = {
    type: 'several',
    name: 'held the last frame and faded',
    commands: [
      { type: 'hold', clip: last.id, at: last.frames - 1, frames: Math.round(holdSeconds * fps), newId },
      {
        type: 'fade',
        clip: newId,
        edge: 'out',
        frames: Math.min(Math.round(holdSeconds * fps), Math.round(fadeSeconds * fps)),
      },
    ],
  };
  const holdSays = `hold the last frame for ${holdSeconds} s and fade`;
  const speech = last.muted
    ? undefined
    : runsOf(reading.runs, 'speech').find((run) => run.start < end - 0.05 && run.end > end + 0.08);
  if (speech) {
    const others = [
      { says: `fade over ${fadeSeconds} s`, command: fade(last) },
      { says: holdSays, command: hold },
    ];
    const more = Math.min(
      Math.ceil(((speech.end + breathSeconds - end) / speed) * fps - 1e-6),
      framesLeft(last, source, reel),
    );
    const because = 'The last piece stops in a sentence.';
    if (more > 0 && more / fps <= longestExtension && more / fps >= (speech.end - end) / speed)
      return {
        because,
        says: `let it go on for ${decimal(more / fps, 1)} s, to the pause`,
        command: { type: 'trim', clip: last.id, edge: 'out', frames: more },
        others,
      };
    // No pause in reach: back to the one before, if the piece bears it.
    const less = Math.floor(((end - (speech.start - 0.1)) / speed) * fps + 1e-6);
    if (less > 0 && less < last.frames * 0.6)
      return {
        because,
        says: `end ${decimal(less / fps, 1)} s earlier, before the sentence begins`,
        command: { type: 'trim', clip: last.id, edge: 'out', frames: -less },
        others,
      };
    return { because, says: others[0]!.says, command: others[0]!.command, others: others.slice(1) };
  }
  const at = (values: Float32Array) => {
    const from = Math.max(0, Math.floor((end - 0.5) * reading.hz));
    const part = values.slice(from, Math.max(from + 1, Math.ceil(end * reading.hz)));
    return part.reduce((sum, value) => sum + value, 0) / Math.max(1, part.length);
  };
  if (Math.max(at(reading.traces.motion), at(reading.traces.moves)) < restless) return null;
  return {
    because: 'The last piece stops in a moving picture.',
    says: holdSays,
    command: hold,
    others: [{ says: `fade over ${fadeSeconds} s`, command: fade(last) }],
  };
}
