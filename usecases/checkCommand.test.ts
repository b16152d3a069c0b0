import { describe, expect, it } from 'vitest';
import { captionDefaults } from '#core/captions';
import type { Clip, ReelCommand } from '#core/reel';
import { commandDtos } from './forms/reelDto';
import { checkCommand } from './checkCommand';

const id = '0b0a7000-0000-4000-8000-000000000001';
const other = '0b0a7000-0000-4000-8000-000000000002.3';
const look = { exposure: 0.1, contrast: 0, saturation: 0, temperature: 0, named: 'Ember' };
const clip = { id, media: id, name: 'one', sourceIn: 10.25, frames: 20, speed: 50, look };
const good: ReelCommand[] = [
  { type: 'rename', name: 'x' },
  { type: 'format', size: { width: 1080, height: 1920 }, rate: { num: 30000, den: 1001 } },
  { type: 'remove', clip: other },
  { type: 'lift', clip: id },
  { type: 'handOver', clip: id },
  { type: 'takeBack', clip: id },
  { type: 'move', clip: id, to: 2 },
  { type: 'place', clip: id, at: 9 },
  { type: 'trim', clip: id, edge: 'in', frames: -3, inPlace: true },
  { type: 'roll', clip: id, frames: 2 },
  { type: 'slip', clip: id, frames: 0.25 },
  { type: 'split', clip: id, at: 3, newId: id },
  { type: 'speed', clip: id, percent: 200, keepLength: true },
  { type: 'hold', clip: id, at: 3, frames: 9, newId: id },
  { type: 'replace', clip: id, with: { media: id, name: 'n', sourceIn: 3 }, keepSound: true },
  { type: 'put', how: 'sound', at: 3, clips: [clip], shorten: true },
  { type: 'track', track: 1, locked: true, levelDb: -3 },
  { type: 'sound', clip: id, levelDb: -3, muted: true },
  { type: 'detach', clip: id, newId: id },
  { type: 'attach', clip: id },
  { type: 'unlink', clip: id },
  { type: 'replaceSound', clip: id, sound: { id, media: id, name: 'r', sourceIn: -3.5 } },
  { type: 'fade', clip: id, edge: 'out', frames: 9 },
  { type: 'music', music: null },
  { type: 'loudness', lufs: -16 },
  { type: 'loudness', lufs: null },
  { type: 'transition', clip: id, into: { kind: 'wipe', frames: 9 } },
  { type: 'transition', clip: id, into: null },
  { type: 'transitions', into: null },
  { type: 'look', clip: null, look },
  { type: 'look', clip: id, look: null },
  { type: 'fit', clip: null, fit: 'blur' },
  {
    type: 'stillMove',
    clip: id,
    move: { from: { x: 0, y: 0, width: 1, height: 1 }, to: { x: 0.1, y: 0.1, width: 0.5, height: 0.5 } },
  },
  { type: 'steady', clip: id, steady: { position: 0.5, rotation: 0, scale: 0, edges: 'crop' } },
  { type: 'title', title: { id, kind: 'end', frame: 3, frames: 9, text: 'End' } },
  { type: 'removeTitle', id },
  { type: 'theme', theme: 'Logbook' },
  { type: 'theme', theme: null },
  { type: 'mark', marker: { id, frame: 3, note: '' } },
  { type: 'unmark', id },
  { type: 'captions', style: captionDefaults },
  { type: 'captions', style: null },
  { type: 'logo', logo: { media: id, corner: 'top left', size: 0.2, opacity: 0.9 } },
  { type: 'logo', logo: null },
  {
    type: 'framing',
    framings: [
      {
        clip: other,
        framing: {
          subject: 'face:20.0',
          zoom: 1.5,
          keys: [{ seconds: 1, x: 0.4, y: 0.5 }],
          path: [
            [0, 0.5, 0.5],
            [2, 0.6, 0.5],
          ],
          below: [[0, 0.2, 0.5]],
          follows: 'one face',
        },
      },
      { clip: id, framing: null },
    ],
  },
  {
    type: 'several',
    name: 'two',
    commands: [
      { type: 'remove', clip: id },
      { type: 'look', clip: null, look },
    ],
  },
];

describe('edits as they are sent', () => {
  it('every kind of edit comes through as it is', () => {
    expect(new Set(good.map((command) => command.type))).toEqual(new Set(Object.keys(commandDtos)));
    for (const command of good) expect(checkCommand(command), command.type).toEqual({ ok: true, value: command });
  });
  it.each([
    [{ type: 'explode' }, 'Nothing to do.'],
    [{ type: 'constructor' }, 'Nothing to do.'],
    [null, 'Nothing to do.'],
    [{ type: 'restore', reel: {}, name: 'x' }, 'Nothing to do.'],
    [{ type: 'remove', clip: '../etc' }, 'Choose a piece.'],
    [{ type: 'rename', name: '  ' }, 'Give a name of 1 to 120 letters.'],
    [{ type: 'several', name: 'x', commands: [{ type: 'remove', clip: 'no' }] }, 'Choose a piece.'],
  ])('refuses %j', (given, problem) =>
    expect(checkCommand(given)).toMatchObject({ ok: false, why: 'refused', sentence: problem }),
  );
  it.each([
    { type: 'speed', clip: id, percent: 4000 },
    { type: 'trim', clip: id, edge: 'middle', frames: 1 },
    { type: 'look', clip: null, look: { ...look, exposure: 9 } },
    { type: 'put', how: 'append', at: 0, clips: [{ ...clip, frames: 0 }] },
    { type: 'title', title: { id, kind: 'end', frame: -1, frames: 9, text: 'x' } },
    { type: 'transition', clip: id, into: { kind: 'explode', frames: 9 } },
  ])('refuses what no edit can be: %j', (given) => expect(checkCommand(given).ok).toBe(false));
  it('a piece that is put in keeps all that belongs to it', () => {
    // A new field of a clip does not compile here before it is listed, and does not pass before its class knows it.
    const full: Omit<Required<Clip>, 'kind' | 'into' | 'slot'> = {
      ...clip,
      levelDb: -3,
      muted: true,
      fadeIn: 2,
      fadeOut: 3,
      fit: 'fill',
      link: id,
      move: { from: { x: 0, y: 0, width: 1, height: 1 }, to: { x: 0.1, y: 0.1, width: 0.5, height: 0.5 } },
      steady: { position: 0.5, rotation: 0.1, scale: 0.2, edges: 'fill' },
      framing: {
        subject: 'stack',
        zoom: 1.5,
        keys: [{ seconds: 1, x: 0.4, y: 0.5 }],
        path: [[0, 0.5, 0.5]],
        below: [[0, 0.2, 0.5]],
        follows: 'two speakers',
      },
    };
    const command = { type: 'put', how: 'insert', at: 0, clips: [full] };
    expect(checkCommand(command)).toEqual({ ok: true, value: command });
  });
  it('what does not belong into an edit is left out', () => {
    expect(checkCommand({ type: 'remove', clip: id, evil: 'x' })).toEqual({
      ok: true,
      value: { type: 'remove', clip: id },
    });
  });
});
