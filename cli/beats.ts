import { downbeats } from '#core/sound';
import { hearMusicIn } from '#media/read/hearMusic';
import { MediaError } from '#media/process';

/** The document that `./bright-reel beats` writes; described in docs/formats.md. */
export async function beats(file: string) {
  const hearing = await hearMusicIn(file);
  if (hearing.grid.beats.length === 0) throw new MediaError(`No beat can be heard in ${file}.`);
  const round = (value: number) => Math.round(value * 1e4) / 1e4;
  return {
    durationSeconds: round(hearing.durationSeconds),
    tempo: Math.round(hearing.tempo * 100) / 100,
    confidence: round(hearing.confidence),
    beatsPerBar: hearing.grid.bar,
    beats: hearing.grid.beats.map(round),
    downbeats: downbeats(hearing.grid).map(round),
    sections: hearing.sections.map(({ start, end, name, letter, energy }) => ({
      start: round(start),
      end: round(end),
      name,
      letter,
      energy: round(energy),
    })),
    doubts: hearing.doubts.map(({ start, end, tempo }) => ({
      start,
      end,
      tempo: tempo === null ? null : Math.round(tempo * 100) / 100,
    })),
    drops: hearing.drops.map(round),
    lastHit: hearing.lastHit === null ? null : round(hearing.lastHit),
    rivals: hearing.rivals.map(({ tempo, share }) => ({ tempo: Math.round(tempo * 100) / 100, share: round(share) })),
  };
}
