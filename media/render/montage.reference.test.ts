import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import {
  applyChanges,
  changesBetween,
  createMontage,
  defaultFilling,
  fillSlots,
  montageReel,
  plainFeatures,
  slotsByPattern,
  type Montage,
  type MontageChanges,
  type MontagePiece,
} from '#core/montage';
import { applyCommand, type Reel, type Source } from '#core/reel';
import { hearMusic, nearestBeat } from '#core/sound';
import { testSong } from '../../core/sound/beats/testSongs';
import { rates } from '#core/time';
import { hearMusicIn } from '../read/hearMusic';
import { MediaError } from '../process';
import { renderReel, type RenderSource } from './render';
import { decodeGray, ffmpeg, numberFilm, numbersIn, testFolder } from '../testMedia';
import { loadSong, songsAreHere } from '../../scripts/accuracy/songs';

const folder = testFolder();
const at = (name: string) => join(folder, name);
const colours = ['red', 'lime', 'blue', 'white', 'black', 'orange', 'purple', 'teal', 'pink', 'gray'];
/** 120 beats a minute, kick on every beat, from 0.4 s on. */
const song = testSong('floor', () => 120, 24, 5);
const sources = new Map<string, RenderSource>(),
  known = new Map<string, Source>();

beforeAll(() => {
  writeFileSync(at('song.raw'), Buffer.from(song.samples.buffer));
  ffmpeg('-f', 'f32le', '-ar', '16000', '-ac', '1', '-i', at('song.raw'), at('song.wav'));
  sources.set('song', {
    file: at('song.wav'),
    hasPicture: false,
    hasSound: true,
    photo: false,
    width: 0,
    height: 0,
    durationSeconds: song.samples.length / 16000,
  });
  known.set('song', { id: 'song', name: 'song.wav', durationSeconds: song.samples.length / 16000, soundOnly: true });
  for (const colour of colours) {
    ffmpeg(
      '-f',
      'lavfi',
      '-i',
      `color=${colour}:s=160x90:r=25:d=6`,
      '-f',
      'lavfi',
      '-i',
      'sine=300:d=6',
      '-pix_fmt',
      'yuv420p',
      at(`${colour}.mp4`),
    );
    sources.set(colour, {
      file: at(`${colour}.mp4`),
      hasPicture: true,
      hasSound: true,
      photo: false,
      width: 160,
      height: 90,
      durationSeconds: 6,
    });
    known.set(colour, { id: colour, name: colour, durationSeconds: 6 });
  }
});

/** Frames at which the picture changes: cuts between plain colours. */
function cutsIn(file: string): number[] {
  const grey = decodeGray(file, 4, 4);
  const cuts: number[] = [];
  for (let frame = 1; frame < grey.length / 16; frame++) {
    let change = 0;
    for (let cell = 0; cell < 16; cell++)
      change += Math.abs(grey[frame * 16 + cell]! - grey[(frame - 1) * 16 + cell]!) / 16;
    if (change > 4) cuts.push(frame);
  }
  return cuts;
}

async function made(start: number): Promise<{ montage: Montage; reel: Reel; file: string }> {
  let ids = 0;
  const newId = () => `s${ids++}`;
  const hearing = hearMusic(song.samples);
  const pieces: MontagePiece[] = colours.map((colour) => ({
    id: colour,
    media: colour,
    name: colour,
    start: 0,
    end: 6,
  }));
  const begun = createMontage(hearing, pieces, newId);
  const wanted: Montage = {
    ...begun,
    span: { start, end: hearing.durationSeconds, fadeSeconds: 0.5 },
    pattern: { ...begun.pattern, every: 2, followEnergy: false },
    filling: { ...defaultFilling, order: 'sorted', start: 'in' },
  };
  const slots = slotsByPattern(wanted, hearing, newId);
  if (!slots.ok) throw new Error(slots.reason);
  const features = new Map(pieces.map((piece) => [piece.id, plainFeatures(piece)]));
  const montage = {
    ...wanted,
    slots: fillSlots(slots.slots, pieces, features, wanted.filling, { ...hearing, grid: wanted.grid }, newId).slots,
  };
  const reel = montageReel(montage, 'montage', { media: 'song', name: 'song.wav' }, known, rates['25'], {
    width: 160,
    height: 90,
  });
  const file = at(`montage${start}.mp4`);
  await renderReel(reel, sources, file, { size: reel.size });
  return { montage, reel, file };
}

describe('a rendered montage', () => {
  for (const start of [0, 4.4]) {
    it(`cut to the music from ${start} s on: cuts within a frame of the beats, beats of its sound within 10 ms of the plan`, async () => {
      const { montage, file } = await made(start);
      const cuts = cutsIn(file);
      const planned = montage.slots.slice(1).map((slot) => slot.start - start);
      expect(cuts).toHaveLength(planned.length);
      cuts.forEach((cut, index) =>
        expect(Math.abs(cut / 25 - planned[index]!), `cut ${index}`).toBeLessThanOrEqual(1 / 25),
      );
      // And those lie on beats of the song as it was made, not only as it was heard.
      for (const slot of montage.slots.slice(1))
        expect(Math.min(...song.beats.map((beat) => Math.abs(beat - slot.start)))).toBeLessThan(0.01);
      const heard = (await hearMusicIn(file)).grid;
      const off = montage.grid.beats
        .filter((beat) => beat > start + 1 && beat < montage.span.end - 2)
        .map((beat) => Math.abs(heard.beats[nearestBeat(heard, beat - start)]! - (beat - start)))
        .sort((a, b) => a - b);
      expect(off.length).toBeGreaterThan(20);
      expect(off.at(-1)).toBeLessThan(0.01);
    });
  }
  it('after the beats were moved the reel follows, and so do the cuts in the file', async () => {
    const { montage, reel } = await made(0);
    const moved = {
      ...montage,
      slots: montage.slots.map((slot, index) => ({
        ...slot,
        start: index === 0 ? slot.start : slot.start + 0.12,
        end: index === montage.slots.length - 1 ? slot.end : slot.end + 0.12,
      })),
    };
    const items = montageReel(moved, 'x', { media: 'song', name: 'song.wav' }, known, rates['25'], reel.size).tracks[0]!
      .items;
    const result = applyCommand(reel, { type: 'slots', items: items, music: reel.music! }, known);
    if (!result.ok) throw new Error(result.reason);
    const file = at('moved.mp4');
    await renderReel(result.reel, sources, file, { size: reel.size });
    const cuts = cutsIn(file);
    cuts.forEach((cut, index) =>
      expect(Math.abs(cut / 25 - moved.slots[index + 1]!.start)).toBeLessThanOrEqual(1 / 25),
    );
    expect(cuts).toHaveLength(moved.slots.length - 1);
  });
  // A song of Debian's fretsonfire-songs-sectoid, recorded to a click; its `notes.mid` says where its beats lie.
  it.skipIf(!songsAreHere())(
    'of a whole real song with a hundred pieces: every slot and every frame of every piece, counted in the file',
    async () => {
      const { samples, beats } = loadSong('sectoid/Metal madness');
      const seconds = samples.length / 16_000;
      writeFileSync(at('real.raw'), Buffer.from(samples.buffer));
      ffmpeg('-f', 'f32le', '-ar', '16000', '-ac', '1', '-i', at('real.raw'), at('real.wav'));
      ffmpeg(...numberFilm(25, 40), '-pix_fmt', 'yuv420p', '-g', '12', '-preset', 'ultrafast', at('numbers.mp4'));
      const shape = { photo: false, width: 320, height: 180 };
      const files = new Map<string, RenderSource>([
        ['song', { ...sources.get('song')!, file: at('real.wav'), durationSeconds: seconds }],
        ['film', { ...shape, file: at('numbers.mp4'), hasPicture: true, hasSound: false, durationSeconds: 40 }],
      ]);
      const about = new Map<string, Source>([
        ['song', { id: 'song', name: 'real.wav', durationSeconds: seconds, soundOnly: true }],
        ['film', { id: 'film', name: 'numbers.mp4', durationSeconds: 40 }],
      ]);
      let ids = 0;
      const newId = () => `s${ids++}`;
      const hearing = hearMusic(samples);
      const pieces = Array.from({ length: 100 }, (_, index): MontagePiece => {
        const start = (index * 8) / 25;
        return { id: `p${index}`, media: 'film', name: `piece ${index}`, start, end: start + 8 };
      });
      const begun = createMontage(hearing, pieces, newId);
      const filling = { ...defaultFilling, order: 'sorted', start: 'in' } as const;
      const wanted: Montage = { ...begun, pattern: { ...begun.pattern, every: 2, followEnergy: false }, filling };
      const slots = slotsByPattern(wanted, hearing, newId);
      if (!slots.ok) throw new Error(slots.reason);
      const features = new Map(pieces.map((piece) => [piece.id, plainFeatures(piece)]));
      const filled = fillSlots(slots.slots, pieces, features, filling, { ...hearing, grid: wanted.grid }, newId).slots;
      const montage = { ...wanted, slots: filled };
      // As it is saved: what changed, as text.
      const sent = JSON.parse(JSON.stringify(changesBetween(begun, montage))) as MontageChanges;
      expect(applyChanges(begun, sent)).toEqual(montage);
      // Taken back and done again.
      expect(applyChanges(montage, changesBetween(montage, begun))).toEqual(begun);
      expect(new Set(montage.slots.map((slot) => slot.piece!.piece)).size).toBe(100);

      const size = { width: 320, height: 180 };
      const reel = montageReel(montage, 'real', { media: 'song', name: 'real.wav' }, about, rates['25'], size);
      await renderReel(reel, files, at('real.mp4'), { size });
      const shown = numbersIn(at('real.mp4'));
      expect(shown).toHaveLength(Math.round(seconds * 25));
      const edges = montage.slots.map((slot) => Math.round(slot.start * 25));
      const expected = montage.slots.flatMap((slot, index) => {
        const first = Math.round(slot.piece!.sourceStart * 25);
        return Array.from({ length: (edges[index + 1] ?? shown.length) - edges[index]! }, (_, frame) => first + frame);
      });
      expect(shown).toEqual(expected);
      // The cuts lie on beats of the song as its tempo map has them: within 70 ms (the tolerance of MIREX) of the map,
      // whose sound begins a little beside it, and within 25 ms of one another, from the first to the last.
      const off = montage.slots
        .slice(1)
        .map((slot) => slot.start - beats[nearestBeat({ beats, bar: 4, starts: [] }, slot.start)]!);
      const usual = [...off].sort((a, b) => a - b)[off.length >> 1]!;
      expect(Math.abs(usual)).toBeLessThan(0.07);
      expect(off.filter((each) => Math.abs(each - usual) < 0.025).length / off.length).toBeGreaterThan(0.97);
      expect(off.slice(-10).every((each) => Math.abs(each - usual) < 0.025)).toBe(true);
    },
  );
  it('music that cannot be heard says why', async () => {
    ffmpeg('-f', 'lavfi', '-i', 'color=red:s=64x64:d=1', at('mute.mp4'));
    await expect(hearMusicIn(at('mute.mp4'))).rejects.toThrow(
      /^There is no sound in .*, so no beats can be found in it\.$/,
    );
    writeFileSync(at('text.mp3'), 'not music');
    await expect(hearMusicIn(at('text.mp3'))).rejects.toBeInstanceOf(MediaError);
  });
});
