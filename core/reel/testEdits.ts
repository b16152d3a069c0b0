/** For tests: edits of every kind, made up for a reel as it stands; some fit, some do not. */
import { captionDefaults } from '#core/captions';
import type { Random } from '#core/signal';
import { rates } from '#core/time';
import { themes } from './themes';
import {
  clipsOf,
  itemsFrames,
  mainTrack,
  musicDefaults,
  reelFrames,
  transitionKinds,
  type Clip,
  type CommandOf,
  type Reel,
  type ReelCommand,
  type Source,
} from '.';

/** Films "a" (40 s) and "b" (8 s), a photo "p" and a recording of sound "r" (30 s). */
export const testSources: ReadonlyMap<string, Source> = new Map([
  ['a', { id: 'a', name: 'a.mp4', durationSeconds: 40 }],
  ['b', { id: 'b', name: 'b.mp4', durationSeconds: 8 }],
  ['p', { id: 'p', name: 'p.jpg', durationSeconds: 0, photo: true }],
  ['r', { id: 'r', name: 'recorder.wav', durationSeconds: 30, soundOnly: true }],
]);

/** A piece of a source as it is filmed. */
export const clipOf = (id: string, media: string, sourceIn: number, frames: number): Clip => ({
  kind: 'clip',
  id,
  media,
  name: `${media}.mp4`,
  sourceIn,
  frames,
});

type Made = Exclude<ReelCommand['type'], 'restore' | 'several' | 'stepEdit'>;

/** Ids of films, a photo and a recording, as in `testSources`. */
export type Media = Record<'a' | 'b' | 'p' | 'r', string>;
const testMedia: Media = { a: 'a', b: 'b', p: 'p', r: 'r' };

/**
 * One edit of each kind.
 * @param makeId gives an id that nothing has yet
 */
export function oneOfEach(
  reel: Reel,
  random: Random,
  makeId: () => string,
  media: Media = testMedia,
): { [K in Made]: CommandOf<K> } {
  const { a, b, p, r } = media;
  const below = (count: number) => Math.floor(random() * count);
  const one = <T>(list: readonly T[]): T => list[below(list.length)]!;
  const chance = (share: number) => random() < share;
  const clips = clipsOf(reel);
  const clip = one(clips)?.id ?? 'nobody';
  const frame = below(reelFrames(reel) + 20);
  const into = chance(0.2) ? null : { kind: one(transitionKinds), frames: 2 + below(30) };
  const look = chance(0.2)
    ? null
    : { exposure: random() - 0.5, contrast: 0, saturation: random() - 0.5, temperature: 0, named: 'Ember' };
  const part = { x: random() / 4, y: random() / 4, width: 0.5, height: 0.5 };
  const music = { ...musicDefaults, media: r, name: 'song', startSeconds: below(20) };
  const sourceIn = below(300);
  const items = [
    ...mainTrack(reel).items.filter((item) => item.kind === 'clip' && item.slot !== undefined && chance(0.8)),
    { kind: 'clip' as const, id: makeId(), media: a, name: 'slot', sourceIn, frames: 1 + below(60), slot: makeId() },
  ];
  return {
    rename: { type: 'rename', name: `Pond ${below(99)}` },
    format: {
      type: 'format',
      size: one([
        { width: 1280, height: 720 },
        { width: 1080, height: 1920 },
      ]),
      rate: one([rates['25'], rates['29.97'], rates['50']]),
    },
    remove: { type: 'remove', clip },
    lift: { type: 'lift', clip },
    handOver: { type: 'handOver', clip },
    takeBack: { type: 'takeBack', clip: one(reel.moved ?? [])?.clip.id ?? clip },
    move: { type: 'move', clip, to: below(6) },
    place: { type: 'place', clip, at: below(300) },
    trim: { type: 'trim', clip, edge: one(['in', 'out']), frames: below(60) - 30, inPlace: chance(0.5) },
    roll: { type: 'roll', clip, frames: below(40) - 20 },
    slip: { type: 'slip', clip, frames: below(80) - 40 },
    split: { type: 'split', clip, at: below(60), newId: makeId() },
    speed: { type: 'speed', clip, percent: one([25, 33, 50, 100, 150, 400]), keepLength: chance(0.3) },
    hold: { type: 'hold', clip, at: below(40), frames: 1 + below(20), newId: makeId() },
    replace: {
      type: 'replace',
      clip,
      with: { media: one([a, b, p]), name: 'n', sourceIn: below(800) },
      keepSound: chance(0.5),
      shorten: chance(0.5),
    },
    put: {
      type: 'put',
      how: one(['insert', 'overwrite', 'append', 'above', 'sound']),
      at: frame,
      clips: [{ id: makeId(), media: one([a, a, b]), name: 'r', sourceIn: below(150), frames: 1 + below(60) }],
    },
    track: {
      type: 'track',
      track: below(reel.tracks.length + 1),
      muted: chance(0.3),
      levelDb: -below(20),
      locked: chance(0.1),
    },
    sound: { type: 'sound', clip, levelDb: below(20) - 12, muted: chance(0.3) },
    fade: { type: 'fade', clip, edge: one(['in', 'out']), frames: below(20) },
    detach: { type: 'detach', clip, newId: makeId() },
    attach: { type: 'attach', clip },
    unlink: { type: 'unlink', clip },
    replaceSound: {
      type: 'replaceSound',
      clip,
      sound: { id: makeId(), media: r, name: 'q', sourceIn: below(700) - 50 },
    },
    music: { type: 'music', music: chance(0.2) ? null : music },
    loudness: { type: 'loudness', lufs: one([null, -23, -16, -14]) },
    transition: { type: 'transition', clip, into },
    transitions: { type: 'transitions', into },
    look: { type: 'look', clip: chance(0.2) ? null : clip, look },
    fit: { type: 'fit', clip: chance(0.2) ? null : clip, fit: one([null, 'fill', 'blur']) },
    stillMove: { type: 'stillMove', clip, move: chance(0.3) ? null : { from: part, to: { ...part, x: 0.2 } } },
    steady: {
      type: 'steady',
      clip,
      steady: chance(0.3) ? null : { position: random(), rotation: 0, scale: 0, edges: one(['crop', 'fill']) },
    },
    framing: {
      type: 'framing',
      framings: [{ clip, framing: { subject: 'auto', zoom: 1 + random(), keys: [], path: [[0, random(), 0.5]] } }],
    },
    captions: { type: 'captions', style: chance(0.3) ? null : { ...captionDefaults, colour: '#ffee00' } },
    logo: { type: 'logo', logo: chance(0.3) ? null : { media: p, corner: 'top left', size: 0.2, opacity: random() } },
    title: {
      type: 'title',
      title: {
        id: one([makeId(), ...(reel.titles ?? []).map(({ id }) => id)]),
        kind: 'lower',
        frame,
        frames: 30,
        text: 'The builder',
      },
    },
    removeTitle: { type: 'removeTitle', id: one(reel.titles ?? [])?.id ?? 'none' },
    theme: { type: 'theme', theme: chance(0.2) ? null : one(themes).name },
    mark: { type: 'mark', marker: { id: makeId(), frame, note: 'the start' } },
    unmark: { type: 'unmark', id: one(reel.markers ?? [])?.id ?? 'none' },
    slots: { type: 'slots', items, music },
  };
}

/** An edit of any kind, each as likely; now and then two at once. */
export function anyEdit(reel: Reel, random: Random, makeId: () => string, media: Media = testMedia): ReelCommand {
  const every = Object.values(oneOfEach(reel, random, makeId, media)) as ReelCommand[];
  const one = () => every[Math.floor(random() * every.length)]!;
  return random() < 0.05 ? { type: 'several', name: 'did two things', commands: [one(), one()] } : one();
}

/** Ids from one number up. */
export function counting(prefix: string): () => string {
  let next = 0;
  return () => `${prefix}${next++}`;
}

/** What is wrong with a reel, whatever led to it; null when nothing is. */
export function problemOfReel(reel: Reel, sources: ReadonlyMap<string, Source>): string | null {
  const items = reel.tracks.flatMap((track) => track.items);
  if (new Set(items.map((item) => item.id)).size !== items.length) return 'two items have one id';
  const per = (clip: Clip) => (clip.frames * (clip.speed ?? 100)) / 100 - (clip.speed ? 4 : 0);
  for (const clip of clipsOf(reel)) {
    const source = sources.get(clip.media)!;
    if (!(clip.frames > 0)) return `${clip.id} has no length`;
    if (source.photo) continue;
    if (!(clip.sourceIn >= 0)) return `${clip.id} begins before its source`;
    const last = (source.durationSeconds * reel.rate.num) / reel.rate.den;
    if (clip.sourceIn + per(clip) > last + 1e-6) return `${clip.id} reaches beyond its source`;
  }
  if (reel.tracks.findIndex((track) => track.kind === 'sound') === 0) return 'the main track is one of sound';
  return itemsFrames(mainTrack(reel).items) > reelFrames(reel) ? 'the main track is longer than the reel' : null;
}
