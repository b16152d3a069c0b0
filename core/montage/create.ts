import { snapTo, type MusicHearing } from '#core/sound';
import { slotsByPattern } from './slots';
import { defaultFilling, defaultPattern, type Montage, type MontagePiece } from './types';

/** Music goes out over so long at the end of a stretch that is not its own end. Common practice, no source. */
const fadeSeconds = 2;

/** A montage as the machine would begin it: the whole music, denser where it is fuller, nothing filled yet. */
export function createMontage(hearing: MusicHearing, pieces: readonly MontagePiece[], makeId: () => string): Montage {
  const montage: Montage = {
    schema: 'BrightReel.Montage.1',
    grid: hearing.grid,
    marks: [],
    span: { start: 0, end: hearing.durationSeconds, fadeSeconds: 0.5 },
    pattern: defaultPattern,
    filling: defaultFilling,
    pieces: [...pieces],
    slots: [],
  };
  const slots = slotsByPattern(montage, hearing, makeId);
  return slots.ok ? { ...montage, slots: slots.slots } : montage;
}

/** Another stretch of the music: its ends on bars when they are near, faded where the music would go on. */
export function spanOf(
  start: number,
  end: number,
  hearing: Pick<MusicHearing, 'durationSeconds'>,
  bars: readonly number[],
): Montage['span'] {
  const near = (seconds: number) => snapTo(bars, seconds, 0.35);
  const [from, to] = [Math.max(0, Math.min(start, end)), Math.min(hearing.durationSeconds, Math.max(start, end))];
  return {
    start: from < 0.2 ? 0 : near(from),
    end: to > hearing.durationSeconds - 0.2 ? hearing.durationSeconds : near(to),
    fadeSeconds: to > hearing.durationSeconds - 0.2 ? 0.5 : fadeSeconds,
  };
}
