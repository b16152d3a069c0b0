import { describe, expect, it } from 'vitest';
import { beatScore, downbeats, hearMusic } from '.';
import { aubioBeats, loadSong, songs } from '../../../scripts/accuracy/songs';
import { testSong } from './testSongs';

// Source of the truth: tempo maps of Debian's fretsonfire-songs-sectoid and -muldjord (beats at k·60/bpm from tick 0 of notes.mid).
// Reference: `aubio beat` of Debian's aubio-tools on the same files. F-measure: MIREX and mir_eval, ±70 ms, from 5 s on.
describe('songs with exact tempo maps', () => {
  for (const name of songs)
    it(`“${name}”: dense rock on its beats and bars, where a general tracker fails; what is not doubted is right`, () => {
      const { samples, beats, aubio } = loadSong(name);
      const { grid, doubts } = hearMusic(samples);
      const doubted = doubts.reduce((sum, { start, end }) => sum + end - start, 0);
      expect(doubted / (samples.length / 16_000)).toBeLessThan(0.25);
      const sure = beats.filter(
        (beat) => beat > 5 && !doubts.some(({ start, end }) => beat >= start - 1 && beat <= end + 1),
      );
      const met = sure.filter((beat) => grid.beats.some((each) => Math.abs(each - beat) <= 0.07));
      expect(met.length / sure.length).toBeGreaterThan(0.9);
      const ours = beatScore(grid.beats, beats);
      expect(ours).toBeGreaterThanOrEqual(beatScore(aubio, beats));
      expect(ours).toBeGreaterThan(0.96);
      // Where the bars of this one begin its map does not say: its first beat is not the first of a bar.
      if (name === 'muldjord/mutilated_mime') return;
      expect(
        beatScore(
          downbeats(grid),
          beats.filter((_, index) => index % 4 === 0),
        ),
      ).toBeGreaterThan(0.96);
    });
});

describe('made music, beside aubio', () => {
  for (const [groove, bpm] of [
    ['rock', 72],
    ['floor', 126],
    ['offbeat', 160],
    ['waltz', 96],
  ] as const)
    it(`${groove} at ${bpm}`, () => {
      const { samples, beats } = testSong(groove, () => bpm, 30, bpm);
      const ours = beatScore(hearMusic(samples).grid.beats, beats);
      expect(ours).toBeGreaterThan(0.95);
      expect(ours).toBeGreaterThanOrEqual(beatScore(aubioBeats(samples), beats) - 0.01);
    });
});
