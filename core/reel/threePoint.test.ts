import { describe, expect, it } from 'vitest';
import { rates } from '#core/time';
import {
  applyCommand,
  assembleReel,
  clipsAbove,
  clipsOf,
  itemsFrames,
  planSegments,
  planSound,
  reelFrames,
  type Placing,
  type Reel,
  type ReelCommand,
  type Source,
} from '.';

const sources = new Map<string, Source>([
  ['a', { id: 'a', name: 'a.mp4', durationSeconds: 40 }],
  ['b', { id: 'b', name: 'b.mp4', durationSeconds: 8 }],
  ['p', { id: 'p', name: 'p.jpg', durationSeconds: 0, photo: true }],
]);
let count = 0;
/** Two pieces of 100 frames each, at 25 a second: A 50–150, B 25–125. */
const start = (): Reel =>
  assembleReel(
    'Test',
    [
      { media: 'a', start: 2, end: 6, name: 'A' },
      { media: 'b', start: 1, end: 5, name: 'B' },
    ],
    sources,
    rates['25'],
    { width: 1280, height: 720 },
    () => `c${count++}`,
  );
const piece = (id: string, frames: number, sourceIn = 0, media = 'a') => ({ id, media, name: id, sourceIn, frames });
function edit(reel: Reel, command: ReelCommand): Reel {
  const result = applyCommand(reel, command, sources);
  if (!result.ok) throw new Error(result.reason);
  return result.reel;
}
const put = (reel: Reel, how: Placing, at: number, ...clips: ReturnType<typeof piece>[]) =>
  edit(reel, { type: 'put', how, at, clips });
/** A track as "name sourceIn+frames". */
const spell = (reel: Reel, track = 0) =>
  (reel.tracks[track]?.items ?? []).map((item) =>
    item.kind === 'gap' ? `gap ${item.frames}` : `${item.name} ${item.sourceIn}+${item.frames}`,
  );
const refusal = (reel: Reel, command: ReelCommand) => {
  const result = applyCommand(reel, command, sources);
  return result.ok ? 'accepted' : result.reason;
};

// Common practice, no source: insert pushes, overwrite covers, append goes to the end, place above leaves what lies under it.
describe('three-point editing, worked by hand', () => {
  it('insert pushes what comes after, and cuts a piece it falls into', () => {
    expect(spell(put(start(), 'insert', 100, piece('new', 30)))).toEqual(['A 50+100', 'new 0+30', 'B 25+100']);
    expect(spell(put(start(), 'insert', 40, piece('new', 30)))).toEqual(['A 50+40', 'new 0+30', 'A 90+60', 'B 25+100']);
    expect(spell(put(start(), 'insert', 999, piece('new', 30)))).toEqual(['A 50+100', 'B 25+100', 'new 0+30']);
  });
  it('overwrite covers, and the length stays unless it reaches beyond the end', () => {
    const inside = put(start(), 'overwrite', 80, piece('new', 40));
    expect(spell(inside)).toEqual(['A 50+80', 'new 0+40', 'B 45+80']);
    expect(reelFrames(inside)).toBe(200);
    expect(spell(put(start(), 'overwrite', 20, piece('new', 30)))).toEqual([
      'A 50+20',
      'new 0+30',
      'A 100+50',
      'B 25+100',
    ]);
    expect(reelFrames(put(start(), 'overwrite', 180, piece('new', 60)))).toBe(240);
  });
  it('append goes to the end, several in their order', () => {
    expect(spell(put(start(), 'append', 0, piece('x', 5), piece('y', 6)))).toEqual([
      'A 50+100',
      'B 25+100',
      'x 0+5',
      'y 0+6',
    ]);
  });
  it('above covers the picture and leaves the main track and its sound', () => {
    const reel = put(start(), 'above', 90, piece('over', 30));
    expect(spell(reel)).toEqual(spell(start()));
    expect(spell(reel, 1)).toEqual(['gap 90', 'over 0+30']);
    expect(
      planSegments(reel).map(({ name, startFrame, frames, sourceSeconds }) => [
        name,
        startFrame,
        frames,
        sourceSeconds,
      ]),
    ).toEqual([
      ['A', 0, 90, 2],
      ['over', 90, 30, 0],
      ['B', 120, 80, 1.8],
    ]);
    expect(planSound(reel).map(({ name, frames }) => [name, frames])).toEqual([
      ['A', 100],
      ['B', 100],
    ]);
    expect(clipsAbove(reel).map(({ id, track, startFrame }) => [id, track, startFrame])).toEqual([['over', 1, 90]]);
  });
  it('a second piece above goes into the same track where it is free, else one higher', () => {
    const one = put(start(), 'above', 90, piece('over', 30));
    expect(spell(put(one, 'above', 10, piece('more', 20)), 1)).toEqual(['gap 10', 'more 0+20', 'gap 60', 'over 0+30']);
    const two = put(one, 'above', 100, piece('more', 50));
    expect(spell(two, 2)).toEqual(['gap 100', 'more 0+50']);
    expect(planSegments(two).map(({ name, frames }) => [name, frames])).toEqual([
      ['A', 90],
      ['over', 10],
      ['more', 50],
      ['B', 50],
    ]);
  });
  it('what makes the main track longer or shorter keeps the tracks above in step', () => {
    const reel = put(start(), 'above', 120, piece('over', 30));
    const [a] = clipsOf(reel);
    expect(spell(put(reel, 'insert', 50, piece('new', 25)), 1)).toEqual(['gap 145', 'over 0+30']);
    expect(spell(edit(reel, { type: 'remove', clip: a!.id }), 1)).toEqual(['gap 20', 'over 0+30']);
    expect(spell(edit(reel, { type: 'trim', clip: a!.id, edge: 'in', frames: 10 }), 1)).toEqual([
      'gap 110',
      'over 0+30',
    ]);
    expect(spell(edit(reel, { type: 'trim', clip: a!.id, edge: 'out', frames: 15 }), 1)).toEqual([
      'gap 135',
      'over 0+30',
    ]);
    expect(spell(edit(reel, { type: 'move', clip: a!.id, to: 1 }), 1)).toEqual(['gap 120', 'over 0+30']);
  });
  it('removing across a piece above takes its part with it; removing it leaves the main track', () => {
    const reel = put(start(), 'above', 90, piece('over', 30));
    expect(spell(edit(reel, { type: 'remove', clip: clipsOf(reel)[0]!.id }), 1)).toEqual(['over 10+20']);
    const without = edit(reel, { type: 'remove', clip: 'over' });
    expect([without.tracks.length, spell(without)]).toEqual([1, spell(start())]);
  });
  it('lift leaves a gap: black and silent', () => {
    const reel = start();
    const lifted = edit(reel, { type: 'lift', clip: clipsOf(reel)[0]!.id });
    expect(spell(lifted)).toEqual(['gap 100', 'B 25+100']);
    expect(planSegments(lifted)[0]).toMatchObject({ media: null, frames: 100 });
    expect(planSound(lifted)[0]).toMatchObject({ media: null, frames: 100 });
    expect(spell(edit(reel, { type: 'lift', clip: clipsOf(reel)[1]!.id }))).toEqual(['A 50+100']);
  });
  it('refuses with a sentence: nothing marked, beyond the source, there already, missing', () => {
    const reel = start();
    expect(refusal(reel, { type: 'put', how: 'append', at: 0, clips: [] })).toMatch(/Nothing is marked/);
    expect(refusal(reel, { type: 'put', how: 'append', at: 0, clips: [piece('z', 10, 195, 'b')] })).toMatch(
      /ends at 0:08.*beyond it/,
    );
    expect(refusal(reel, { type: 'put', how: 'append', at: 0, clips: [piece(clipsOf(reel)[0]!.id, 10)] })).toMatch(
      /in the reel already/,
    );
    expect(refusal(reel, { type: 'put', how: 'append', at: 0, clips: [piece('z', 10, 0, 'gone')] })).toMatch(
      /is missing/,
    );
    expect(refusal(reel, { type: 'put', how: 'append', at: 0, clips: [piece('z', 5000, 0, 'p')] })).toBe('accepted');
  });
});

it('any sequence of edits: ids apart, nothing beyond its source, picture and sound as long as the reel, what is given unchanged', () => {
  let state = 11;
  const random = (below: number) => (state = (Math.imul(state, 1103515245) + 12345) & 0x7fffffff) % below;
  let reel = start();
  for (let round = 0; round < 600; round++) {
    const clips = clipsOf(reel);
    const clip = clips.length ? clips[random(clips.length)]!.id : 'none';
    const how = (['insert', 'overwrite', 'append', 'above'] as const)[random(4)]!;
    const commands: ReelCommand[] = [
      { type: 'put', how, at: random(reelFrames(reel) + 50), clips: [piece(`r${round}`, 1 + random(60), random(300))] },
      { type: 'remove', clip },
      { type: 'lift', clip },
      { type: 'trim', clip, edge: random(2) ? 'in' : 'out', frames: random(60) - 30 },
      { type: 'split', clip, at: random(60), newId: `s${round}` },
      { type: 'move', clip, to: random(6) },
    ];
    const before = JSON.stringify(reel);
    const result = applyCommand(reel, commands[random(reelFrames(reel) > 3000 ? 2 : commands.length)]!, sources);
    expect(JSON.stringify(reel)).toBe(before);
    if (!result.ok) continue;
    reel = result.reel;
    const all = reel.tracks.flatMap((track) => track.items);
    expect(new Set(all.map((item) => item.id)).size).toBe(all.length);
    expect(
      clipsOf(reel).filter(
        (item) =>
          item.frames < 1 ||
          item.sourceIn < 0 ||
          item.sourceIn + item.frames > sources.get(item.media)!.durationSeconds * 25,
      ),
    ).toEqual([]);
    for (const plan of [planSegments(reel), planSound(reel)]) {
      expect(plan.reduce((sum, segment) => sum + segment.frames, 0)).toBe(reelFrames(reel));
      expect(
        plan.filter(
          (segment, index) => index > 0 && segment.startFrame !== plan[index - 1]!.startFrame + plan[index - 1]!.frames,
        ),
      ).toEqual([]);
    }
    for (const track of reel.tracks) expect(track.items.at(-1)?.kind).not.toBe('gap');
    expect(itemsFrames(reel.tracks[0]!.items)).toBeLessThanOrEqual(reelFrames(reel));
  }
});
