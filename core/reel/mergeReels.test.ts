import { describe, expect, it } from 'vitest';
import { seededRandom } from '#core/signal';
import { rates } from '#core/time';
import {
  applyCommand,
  assembleReel,
  clipsOf,
  findClip,
  mainTrack,
  malformedAt,
  mergeReels,
  type Reel,
  type ReelCommand,
} from '.';
import { anyEdit, counting, problemOfReel, testSources as sources } from './testEdits';

const pieces = Array.from({ length: 6 }, (_, index) => ({
  media: 'a',
  start: index * 6 + 0.4,
  end: index * 6 + 4.4,
  name: `piece ${index}`,
}));
const first = assembleReel('Pond', pieces, sources, rates['25'], { width: 160, height: 90 }, counting('c'));
const after = (reel: Reel, ...commands: ReelCommand[]): Reel =>
  commands.reduce((now, command) => {
    const result = applyCommand(now, command, sources);
    if (!result.ok) throw new Error(result.reason);
    return result.reel;
  }, reel);
const merged = (mine: ReelCommand[], theirs: ReelCommand[], base = first) =>
  mergeReels(base, after(base, ...mine), after(base, ...theirs), sources);
const kept = (...args: Parameters<typeof merged>): Reel => {
  const result = merged(...args);
  if (!result.ok) throw new Error(result.reason);
  return result.reel;
};
const ids = (reel: Reel) => mainTrack(reel).items.map(({ id }) => id);
const trim = (clip: string, frames: number, edge: 'in' | 'out' = 'out'): ReelCommand => ({
  type: 'trim',
  clip,
  edge,
  frames,
});
const put = (how: 'insert' | 'above', at: number, id: string): ReelCommand => ({
  type: 'put',
  how,
  at,
  clips: [{ id, media: 'b', name: 'cutaway', sourceIn: 20, frames: 25 }],
});

describe('two windows change one reel', () => {
  it('pieces of their own: both changes are there', () => {
    const reel = kept(
      [trim('c1', -20), { type: 'rename', name: 'Regatta' }],
      [trim('c4', -10), { type: 'sound', clip: 'c1', levelDb: -6, muted: false }],
    );
    expect(findClip(reel, 'c1')).toMatchObject({ frames: 80, levelDb: -6 });
    expect(findClip(reel, 'c4')!.frames).toBe(90);
    expect(reel.name).toBe('Regatta');
  });
  it('what was moved here and taken out or put in there', () => {
    const reel = kept(
      [{ type: 'move', clip: 'c5', to: 0 }],
      [{ type: 'remove', clip: 'c2' }, put('insert', 100, 'new')],
    );
    expect(ids(reel)).toEqual(['c5', 'c0', 'new', 'c1', 'c3', 'c4']);
  });
  it('a picture above stays over what it was put over when both change the length before it', () => {
    const base = after(first, put('above', 450, 'over'));
    const start = (reel: Reel) => {
      const { items } = reel.tracks.find((track) => track.items.some(({ id }) => id === 'over'))!;
      return items
        .slice(
          0,
          items.findIndex(({ id }) => id === 'over'),
        )
        .reduce((sum, { frames }) => sum + frames, 0);
    };
    expect(start(base)).toBe(450);
    const reel = kept([trim('c0', -30)], [{ type: 'remove', clip: 'c1' }], base);
    expect(start(reel)).toBe(450 - 30 - 100);
  });
  it('one track more on each side: both are there', () => {
    const music: ReelCommand = {
      type: 'replaceSound',
      clip: 'c0',
      sound: { id: 's', media: 'r', name: 'recorder', sourceIn: 0 },
    };
    const reel = kept([put('above', 120, 'over')], [music]);
    expect(reel.tracks.map(({ kind }) => kind)).toEqual(['picture', 'picture', 'sound']);
    expect(findClip(reel, 'over')).not.toBeNull();
    expect(findClip(reel, 's')).not.toBeNull();
  });
  it.each<[string, ReelCommand[], ReelCommand[]]>([
    ['both trim the same piece', [trim('c1', -20)], [trim('c1', -5)]],
    ['one trims what the other took out', [trim('c1', -20)], [{ type: 'remove', clip: 'c1' }]],
    ['both move the same piece', [{ type: 'move', clip: 'c1', to: 5 }], [{ type: 'move', clip: 'c1', to: 3 }]],
    ['both give it a name', [{ type: 'rename', name: 'Regatta' }], [{ type: 'rename', name: 'Pond life' }]],
    ['one changes the rate', [{ type: 'format', size: first.size, rate: rates['50'] }], [trim('c1', -20)]],
  ])('%s: a sentence says what was left out', (_, mine, theirs) => {
    const result = merged(mine, theirs);
    expect(result.ok ? '' : result.reason).toMatch(
      /^(“piece 1”|Its name|The rate of the reel) was changed in another window meanwhile, so this was left out\./,
    );
    expect(merged(theirs, mine).ok).toBe(false);
  });
  it('the same done in both is done once', () => {
    expect(kept([trim('c1', -20)], [trim('c1', -20)])).toEqual(after(first, trim('c1', -20)));
    const over = put('above', 450, 'over');
    const base = after(first, over);
    expect(kept([trim('c0', -30)], [trim('c0', -30)], base)).toEqual(after(base, trim('c0', -30)));
  });

  it('whatever two edits meet: who did nothing takes over the other, and what comes of both is a reel', () => {
    const random = seededRandom(19);
    const makeId = counting('n');
    let [fits, clashes, lost, uneven] = [0, 0, 0, 0];
    let base = first;
    for (let round = 0; round < 1500; round++) {
      const [mine, theirs] = [0, 1].map(() => applyCommand(base, anyEdit(base, random, makeId), sources));
      if (!mine!.ok || !theirs!.ok) continue;
      expect(mergeReels(base, mine!.reel, base, sources)).toEqual({ ok: true, reel: mine!.reel });
      expect(mergeReels(base, base, theirs!.reel, sources)).toEqual({ ok: true, reel: theirs!.reel });
      expect(mergeReels(base, mine!.reel, mine!.reel, sources)).toEqual({ ok: true, reel: mine!.reel });
      const both = mergeReels(base, mine!.reel, theirs!.reel, sources);
      const turned = mergeReels(base, theirs!.reel, mine!.reel, sources);
      // Which side is called ours decides what stands first, and so, seldom, whether transitions and overlays still fit.
      if (turned.ok !== both.ok) uneven++;
      if (both.ok && turned.ok) {
        fits++;
        expect(problemOfReel(both.reel, sources)).toBeNull();
        expect(malformedAt(both.reel)).toBeNull();
        const held = (reel: Reel) =>
          clipsOf(reel)
            .map((clip) => JSON.stringify([clip.id, clip.frames, clip.sourceIn, clip.media]))
            .sort();
        expect(held(turned.reel)).toEqual(held(both.reel));
        // What either put in is there, what either took out is not.
        const inReel = (reel: Reel) => new Set(clipsOf(reel).map(({ id }) => id));
        const [was, here, there, now] = [base, mine!.reel, theirs!.reel, both.reel].map(inReel);
        for (const id of now!) if (!here!.has(id) && !there!.has(id)) lost++;
        for (const id of [...here!, ...there!]) if (!was!.has(id) && !now!.has(id)) lost++;
        if (random() < 0.3 && clipsOf(both.reel).length > 2) base = both.reel;
      } else clashes++;
      if (round % 60 === 59) base = first;
    }
    expect(lost).toBe(0);
    expect(fits).toBeGreaterThan(300);
    expect(uneven).toBeLessThan(10);
    // Edits of one kind meet one another often here; people meet more seldom.
    expect(clashes / (fits + clashes)).toBeLessThan(0.15);
  });
});
