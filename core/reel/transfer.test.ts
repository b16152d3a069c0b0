import { describe, expect, it } from 'vitest';
import { rates, type Rate } from '#core/time';
import {
  applyCommand,
  assembleReel,
  clipsOf,
  mainTrack,
  soundTracks,
  takeUp,
  transferPieces,
  type Clip,
  type Reel,
  type ReelCommand,
  type Source,
} from '.';
import { atRate } from './transfer';
import { startOf } from './types';

const sources = new Map<string, Source>([
  ['a', { id: 'a', name: 'a.mp4', durationSeconds: 60 }],
  ['r', { id: 'r', name: 'r.wav', durationSeconds: 60, soundOnly: true }],
]);
let count = 0;
const makeId = () => `n${count++}`;
const edit = (reel: Reel, ...commands: ReelCommand[]): Reel =>
  commands.reduce((now, command) => {
    const result = applyCommand(now, command, sources);
    if (!result.ok) throw new Error(result.reason);
    return result.reel;
  }, reel);
const make = (rate: Rate = rates['25']) =>
  assembleReel(
    'Pond',
    [
      { media: 'a', start: 10, end: 14, name: 'A' },
      { media: 'a', start: 20, end: 22, name: 'B' },
    ],
    sources,
    rate,
    { width: 1080, height: 1920 },
    makeId,
  );
const first = (reel: Reel) => mainTrack(reel).items[0] as Clip;
/** Everything that can belong to a piece itself; a new field of a clip does not compile here before it is listed. */
const everything: Omit<
  Required<Clip>,
  'kind' | 'id' | 'media' | 'name' | 'sourceIn' | 'frames' | 'slot' | 'link' | 'into'
> = {
  speed: 50,
  levelDb: -6,
  muted: false,
  fadeIn: 10,
  fadeOut: 5,
  fit: 'fill',
  look: { exposure: 0.2, contrast: 0, saturation: 0, temperature: 0 },
  move: { from: { x: 0, y: 0, width: 1, height: 1 }, to: { x: 0.1, y: 0.1, width: 0.5, height: 0.5 } },
  steady: { position: 0.5, rotation: 0.2, scale: 0, edges: 'crop' },
  framing: { subject: 'auto', zoom: 1.5, keys: [], path: [[0, 0.4, 0.5]] },
  reason: '74 of 100: 2 faces, close',
};
const carried = (from: Reel, to: Reel, ids = new Set([first(from).id])): Reel =>
  edit(to, transferPieces(takeUp(from, ids), to, 'append', 0, makeId)!);
const last = (reel: Reel) => mainTrack(reel).items.at(-1) as Clip;

describe('a piece that goes to another reel', () => {
  it('brings everything that belongs to it', () => {
    const from = make();
    const dressed: Reel = {
      ...from,
      tracks: [
        {
          ...mainTrack(from),
          items: [{ ...first(from), ...everything, slot: 's', into: { kind: 'dissolve', frames: 8 } }],
        },
      ],
    };
    const { kind: _, id: __, slot: ___, into: ____, ...own } = first(dressed);
    expect(last(carried(dressed, make()))).toMatchObject(own);
    // What ties it to its old neighbours stays behind.
    for (const tie of ['slot', 'into', 'link']) expect(last(carried(dressed, make()))).not.toHaveProperty(tie);
  });
  it.each([25, 50, 200, 400])('shows the same stretch of its source at %i %%', (percent) => {
    const from = make();
    const slowed = edit(from, { type: 'speed', clip: first(from).id, percent });
    const there = last(carried(slowed, make()));
    const stretch = (clip: Clip, rate: Rate) => [
      (clip.sourceIn * rate.den) / rate.num,
      ((clip.sourceIn + (clip.frames * (clip.speed ?? 100)) / 100) * rate.den) / rate.num,
    ];
    expect(stretch(there, rates['25'])).toEqual(stretch(first(slowed), rates['25']));
    const faster = last(carried(slowed, make(rates['59.94'])));
    for (const [index, edge] of stretch(faster, rates['59.94']).entries())
      expect(Math.abs(edge - stretch(first(slowed), rates['25'])[index]!)).toBeLessThan(
        (1001 / 60_000) * (percent / 100) + 1e-3,
      );
  });
  it('brings the sound that was detached from it, or laid under it, at its place', () => {
    const reel = make();
    const from = edit(reel, {
      type: 'replaceSound',
      clip: first(reel).id,
      sound: { id: makeId(), media: 'r', name: 'R', sourceIn: -10 },
    });
    // The recording begins ten frames after the picture.
    const to = carried(from, make());
    const [track] = soundTracks(to);
    const sound = clipsOf(to).find((clip) => clip.media === 'r')!;
    expect(startOf(track!, sound.id)).toBe(startOf(mainTrack(to), last(to).id) + 10);
    expect([sound.link, last(to).muted]).toEqual([last(to).link, true]);
    // Taken out there, its sound goes with it.
    expect(clipsOf(edit(to, { type: 'remove', clip: last(to).id })).some((clip) => clip.media === 'r')).toBe(false);
  });
  it('several keep their order, one step for all; nothing is nothing', () => {
    const from = make();
    const to = carried(from, make(), new Set(clipsOf(from).map(({ id }) => id)));
    expect(mainTrack(to).items.map((item) => (item as Clip).name)).toEqual(['A', 'B', 'A', 'B']);
    expect(transferPieces(takeUp(from, new Set()), from, 'append', 0, makeId)).toBeNull();
  });
  it('at another rate a fade stays inside the piece', () => {
    const clip: Clip = { kind: 'clip', id: 'x', media: 'a', name: 'x', sourceIn: 50, frames: 3, fadeIn: 3 };
    expect(atRate(clip, rates['25'], rates['24'], 'y')).toEqual({
      kind: 'clip',
      id: 'y',
      media: 'a',
      name: 'x',
      sourceIn: 48,
      frames: 2,
      fadeIn: 2,
    });
  });
});
