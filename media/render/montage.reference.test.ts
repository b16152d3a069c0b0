import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import {
  createMontage,
  defaultFilling,
  fillSlots,
  montageReel,
  plainFeatures,
  slotsByPattern,
  type Montage,
  type MontagePiece,
} from '#core/montage';
import { applyCommand, type Reel, type Source } from '#core/reel';
import { hearMusic, nearestBeat } from '#core/sound';
import { testSong } from '../../core/sound/beats/testSongs';
import { rates } from '#core/time';
import { hearMusicIn } from '../read/hearMusic';
import { MediaError } from '../process';
import { renderReel, type RenderSource } from './render';
import { decodeGray, ffmpeg, testFolder } from '../testMedia';

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
  it('music that cannot be heard says why', async () => {
    ffmpeg('-f', 'lavfi', '-i', 'color=red:s=64x64:d=1', at('mute.mp4'));
    await expect(hearMusicIn(at('mute.mp4'))).rejects.toThrow(
      /^There is no sound in .*, so no beats can be found in it\.$/,
    );
    writeFileSync(at('text.mp3'), 'not music');
    await expect(hearMusicIn(at('text.mp3'))).rejects.toBeInstanceOf(MediaError);
  });
});
