import { beatScore, downbeats, hearMusic } from '#core/sound';
import { grooves, testSong, type TestSong } from '../../core/sound/beats/testSongs';
import { aubioBeats, beatrootBeats, loadSong, songs, songsAreHere } from './songs';
import { add } from './table';

const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
const shown = (value: number) => value.toFixed(3);

/** Beats: F-measure with ±70 ms, the first five seconds ignored (MIREX, mir_eval), beside aubio and BeatRoot on the same files. */
export function checkBeats(): void {
  const constant: number[] = [];
  if (songsAreHere())
    for (const name of songs) {
      const { samples, beats, aubio } = loadSong(name);
      const hearing = hearMusic(samples);
      const [ours, theirs] = [beatScore(hearing.grid.beats, beats), beatScore(aubio, beats)];
      const beatroot = beatScore(beatrootBeats(samples), beats);
      constant.push(ours);
      add({
        reading: 'beats',
        what: `F of “${name}”, bars ${shown(
          beatScore(
            downbeats(hearing.grid),
            beats.filter((_, index) => index % 4 === 0),
          ),
        )}`,
        ours: shown(ours),
        reference: `aubio beat ${shown(theirs)}, BeatRoot ${shown(beatroot)}`,
        wanted: '≥ 0.9',
        reached: ours >= 0.9 && ours >= theirs && ours >= beatroot,
        source: 'tempo map, fretsonfire-songs',
      });
    }
  else console.log('fretsonfire-songs-sectoid, -muldjord or aubio-tools are not installed; the songs are left out.');
  const figures = (own: TestSong[]) =>
    own.map((song) => ({
      ours: beatScore(hearMusic(song.samples).grid.beats, song.beats),
      aubio: songsAreHere() ? beatScore(aubioBeats(song.samples), song.beats) : NaN,
      beatroot: beatScore(beatrootBeats(song.samples), song.beats),
    }));
  const made = figures(
    grooves.flatMap((groove) =>
      [60, 72, 84, 96, 108, 120, 132, 146, 160, 176, 200].map((bpm) => testSong(groove, () => bpm, 45, bpm)),
    ),
  );
  constant.push(...made.map((each) => each.ours));
  add({
    reading: 'beats',
    what: `mean F, constant tempo, ${constant.length} pieces`,
    ours: shown(mean(constant)),
    reference: `aubio beat, made ones ${shown(mean(made.map((each) => each.aubio)))}, BeatRoot ${shown(mean(made.map((each) => each.beatroot)))}`,
    wanted: '≥ 0.97, none under 0.9',
    reached: mean(constant) >= 0.97 && Math.min(...constant) >= 0.9,
    source: 'songs, and music made with known beats',
  });
  const drifting = figures(
    grooves.flatMap((groove) => [
      testSong(groove, (beat) => 90 + 0.3 * beat, 60, 5),
      testSong(groove, (beat) => 110 + 5 * Math.sin(beat / 8), 60, 7),
      testSong(groove, (beat) => (beat < 64 ? 100 : 132), 60, 6),
    ]),
  );
  add({
    reading: 'beats',
    what: `mean F, drift and change of tempo, ${drifting.length} pieces`,
    ours: shown(mean(drifting.map((each) => each.ours))),
    reference: `aubio beat ${shown(mean(drifting.map((each) => each.aubio)))}, BeatRoot ${shown(mean(drifting.map((each) => each.beatroot)))}`,
    wanted: '≥ 0.92, none under 0.9',
    reached: mean(drifting.map((each) => each.ours)) >= 0.92 && drifting.every((each) => each.ours >= 0.9),
    source: 'music made with known beats',
  });
  const worse = [...made, ...drifting].filter((each) => each.ours < each.aubio - 0.005).length;
  add({
    reading: 'beats',
    what: 'made pieces on which aubio is better',
    ours: `${worse} of ${made.length + drifting.length}`,
    source: 'music made with known beats',
  });
}
