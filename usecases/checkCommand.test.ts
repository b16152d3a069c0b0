import type { Framing } from '#core/framing';
import type { Look } from '#core/look';
import { describe, expect, it } from 'vitest';
import { captionDefaults } from '#core/captions';
import type { CommandOf, ReelCommand } from '#core/reel';
import { commandForms } from '#core/reel/commands/forms';
import { checkCommand } from './checkCommand';

const id = '0b0a7000-0000-4000-8000-000000000001';
const other = '0b0a7000-0000-4000-8000-000000000002.3';
const look = { exposure: 0.1, contrast: 0, saturation: 0, temperature: 0, named: 'Ember' };
const clip = { id, media: id, name: 'one', sourceIn: 10.25, frames: 20, speed: 50, look };
/** A command with nothing left out, all the way down. */
type Full<T> = T extends readonly (infer Part)[]
  ? number extends T['length']
    ? Full<Part>[]
    : T
  : T extends object
    ? { [K in keyof T]-?: Full<NonNullable<T[K]>> }
    : T;
type FromOutside = Exclude<ReelCommand['type'], 'slots' | 'several' | 'stepEdit'>;
const frame = { x: 0.1, y: 0.1, width: 0.5, height: 0.5 };
const framing: Full<Framing> = {
  subject: 'stack',
  zoom: 1.5,
  keys: [{ seconds: 1, x: 0.4, y: 0.5 }],
  path: [[0, 0.5, 0.5]],
  below: [[0, 0.2, 0.5]],
  follows: 'two speakers',
};
const fullLook: Full<Look> = { ...look, lut: id };
const sound = { id, media: id, name: 'r', sourceIn: 3.5 };
const into = { kind: 'wipe' as const, frames: 9 };
const full: { [K in FromOutside]: Full<CommandOf<K>> } = {
  rename: { type: 'rename', name: 'x' },
  format: { type: 'format', size: { width: 1080, height: 1920 }, rate: { num: 30000, den: 1001 } },
  remove: { type: 'remove', clip: other },
  lift: { type: 'lift', clip: id },
  handOver: { type: 'handOver', clip: id },
  takeBack: { type: 'takeBack', clip: id },
  move: { type: 'move', clip: id, to: 2 },
  place: { type: 'place', clip: id, at: 9 },
  trim: { type: 'trim', clip: id, edge: 'in', frames: -3, inPlace: true },
  roll: { type: 'roll', clip: id, frames: 2 },
  slip: { type: 'slip', clip: id, frames: 0.25 },
  split: { type: 'split', clip: id, at: 3, newId: id },
  speed: { type: 'speed', clip: id, percent: 200, keepLength: true },
  hold: { type: 'hold', clip: id, at: 3, frames: 9, newId: id },
  replace: { type: 'replace', clip: id, with: { media: id, name: 'n', sourceIn: 3 }, keepSound: true, shorten: true },
  put: {
    type: 'put',
    how: 'insert',
    at: 3,
    clips: [
      {
        ...clip,
        look: fullLook,
        levelDb: -3,
        muted: true,
        fadeIn: 2,
        fadeOut: 3,
        fit: 'fill',
        link: id,
        move: { from: { x: 0, y: 0, width: 1, height: 1 }, to: frame },
        steady: { position: 0.5, rotation: 0.1, scale: 0.2, edges: 'fill' },
        framing,
        reason: '74 of 100: 2 faces, close',
      },
    ],
    shorten: true,
  },
  track: { type: 'track', track: 1, locked: true, muted: true, levelDb: -3, name: 'Voices' },
  sound: { type: 'sound', clip: id, levelDb: -3, muted: true },
  detach: { type: 'detach', clip: id, newId: id },
  attach: { type: 'attach', clip: id },
  unlink: { type: 'unlink', clip: id },
  replaceSound: { type: 'replaceSound', clip: id, sound },
  fade: { type: 'fade', clip: id, edge: 'out', frames: 9 },
  music: {
    type: 'music',
    music: {
      media: id,
      name: 'Pond waltz',
      levelDb: -6,
      startSeconds: 2,
      duckDb: 12,
      sinkSeconds: 0.2,
      riseSeconds: 0.6,
      fadeInSeconds: 1,
      fadeOutSeconds: 2,
    },
  },
  loudness: { type: 'loudness', lufs: -16 },
  transition: { type: 'transition', clip: id, into },
  transitions: { type: 'transitions', into },
  look: { type: 'look', clip: id, look: fullLook },
  fit: { type: 'fit', clip: id, fit: 'blur' },
  stillMove: { type: 'stillMove', clip: id, move: { from: frame, to: frame } },
  steady: { type: 'steady', clip: id, steady: { position: 0.5, rotation: 0, scale: 0, edges: 'crop' } },
  framing: { type: 'framing', framings: [{ clip: other, framing }] },
  captions: {
    type: 'captions',
    style: { ...captionDefaults, box: '#00000080', speakers: ['#ffd166'], second: 'pt-BR' },
  },
  logo: { type: 'logo', logo: { media: id, corner: 'top left', size: 0.2, opacity: 0.9 } },
  title: { type: 'title', title: { id, kind: 'end', frame: 3, frames: 9, text: 'End', sub: 'of the day' } },
  removeTitle: { type: 'removeTitle', id },
  theme: { type: 'theme', theme: 'Logbook' },
  mark: { type: 'mark', marker: { id, frame: 3, note: 'the start' } },
  unmark: { type: 'unmark', id },
  restore: { type: 'restore', version: 3 },
};
/** What may also be: nothing in place of something, and several at once. */
const good: ReelCommand[] = [
  ...(Object.values(full) as ReelCommand[]),
  { type: 'put', how: 'sound', at: 3, clips: [clip] },
  { type: 'replaceSound', clip: id, sound: { ...sound, sourceIn: -3.5 } },
  { type: 'music', music: null },
  { type: 'loudness', lufs: null },
  { type: 'transition', clip: id, into: null },
  { type: 'transitions', into: null },
  { type: 'look', clip: null, look },
  { type: 'look', clip: id, look: null },
  { type: 'fit', clip: null, fit: null },
  { type: 'stillMove', clip: id, move: null },
  { type: 'steady', clip: id, steady: null },
  { type: 'framing', framings: [{ clip: id, framing: null }] },
  { type: 'theme', theme: null },
  { type: 'captions', style: null },
  { type: 'logo', logo: null },
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
    expect(new Set(good.map((command) => command.type))).toEqual(new Set(Object.keys(commandForms)));
    // A new field of a command does not compile in `full` before it is listed, and does not pass before its form knows it.
    for (const command of good) expect(checkCommand(command), command.type).toEqual({ ok: true, value: command });
  });
  it.each([
    [{ type: 'explode' }, 'Nothing to do.'],
    [{ type: 'constructor' }, 'Nothing to do.'],
    [null, 'Nothing to do.'],
    [{ type: 'slots', items: [], music: {} }, 'Nothing to do.'],
    [{ type: 'restore', reel: {}, name: 'x' }, 'Choose a version.'],
    [{ type: 'remove', clip: '../etc' }, 'Choose a piece.'],
    [{ type: 'rename', name: '  ' }, 'Give a name of 1 to 120 characters.'],
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
  it('null is no value of a field that may be left out', () =>
    expect(checkCommand({ type: 'sound', clip: id, levelDb: null })).toMatchObject({ ok: false }));
  it('what does not belong into an edit is left out', () => {
    expect(checkCommand({ type: 'remove', clip: id, evil: 'x' })).toEqual({
      ok: true,
      value: { type: 'remove', clip: id },
    });
  });
});
