import { describe, expect, it } from 'vitest';
import { seededRandom } from '#core/signal';
import { rates } from '#core/time';
import {
  applyCommand,
  assembleReel,
  clipsOf,
  describeCommand,
  locate,
  mainTrack,
  malformedAt,
  planHeard,
  planPictures,
  reelFrames,
  themes,
  type Clip,
  type Reel,
  type ReelCommand,
} from '.';
import { anyEdit, counting, oneOfEach, problemOfReel, testSources } from './testEdits';
import { handleFrames } from './transitions';

const sources = testSources;
/** Three pieces at 25 a second: A 50+100, B 25+100, C (of a) 500+50. */
const start = (): Reel => {
  let next = 0;
  return assembleReel(
    'Test',
    [
      { media: 'a', start: 2, end: 6, name: 'A' },
      { media: 'b', start: 1, end: 5, name: 'B' },
      { media: 'a', start: 20, end: 22, name: 'C' },
    ],
    sources,
    rates['25'],
    { width: 1280, height: 720 },
    () => 'ABC'[next++]!,
  );
};
function edit(reel: Reel, ...commands: ReelCommand[]): Reel {
  return commands.reduce((now, command) => {
    const result = applyCommand(now, command, sources);
    if (!result.ok) throw new Error(`${command.type}: ${result.reason}`);
    return result.reel;
  }, reel);
}
const refused = (reel: Reel, command: ReelCommand) => {
  const result = applyCommand(reel, command, sources);
  if (result.ok) throw new Error('was accepted');
  return result;
};
/** A track as "name sourceIn+frames", with what is not usual behind it. */
const spell = (reel: Reel, track = 0) =>
  (reel.tracks[track]?.items ?? []).map((item) =>
    item.kind === 'gap'
      ? `gap ${item.frames}`
      : `${item.name} ${item.sourceIn}+${item.frames}${item.speed === undefined ? '' : ` ${item.speed}%`}`,
  );
const clip = (reel: Reel, id: string) => locate(reel, id)!.clip;

// Common practice, no source: what editors mean by roll, slip, ripple and in place.
describe('trims, worked by hand', () => {
  it('a roll moves the cut and nothing else', () => {
    const reel = edit(start(), { type: 'roll', clip: 'B', frames: 12 });
    expect(spell(reel)).toEqual(['A 50+112', 'B 37+88', 'C 500+50']);
    expect(reelFrames(reel)).toBe(250);
    expect(spell(edit(reel, { type: 'roll', clip: 'B', frames: -12 }))).toEqual(spell(start()));
    expect(refused(start(), { type: 'roll', clip: 'B', frames: -26 }).reason).toMatch(/begins here/);
    expect(refused(start(), { type: 'roll', clip: 'A', frames: 1 }).reason).toMatch(/nothing stands directly before/);
    expect(refused(start(), { type: 'roll', clip: 'C', frames: 76 }).reason).toMatch(/ends at 0:08|at least one frame/);
  });
  it('a slip shows another stretch in the same place; what is left is offered', () => {
    expect(spell(edit(start(), { type: 'slip', clip: 'B', frames: -20 }))).toEqual(['A 50+100', 'B 5+100', 'C 500+50']);
    expect(refused(start(), { type: 'slip', clip: 'B', frames: 80 })).toMatchObject({
      instead: { command: { type: 'slip', clip: 'B', frames: 75 } },
    });
    expect(refused(start(), { type: 'slip', clip: 'B', frames: -30 })).toMatchObject({
      instead: { command: { frames: -25 } },
    });
  });
  it('in place, what is cut off becomes a gap, and a piece grows only into one', () => {
    const reel = edit(
      start(),
      { type: 'trim', clip: 'B', edge: 'in', frames: 10, inPlace: true },
      { type: 'trim', clip: 'B', edge: 'out', frames: -5, inPlace: true },
    );
    expect(spell(reel)).toEqual(['A 50+100', 'gap 10', 'B 35+85', 'gap 5', 'C 500+50']);
    expect(spell(edit(reel, { type: 'trim', clip: 'A', edge: 'out', frames: 10, inPlace: true }))).toEqual([
      'A 50+110',
      'B 35+85',
      'gap 5',
      'C 500+50',
    ]);
    expect(refused(reel, { type: 'trim', clip: 'A', edge: 'out', frames: 11, inPlace: true })).toMatchObject({
      reason: expect.stringMatching(/10 free frames/) as string,
      instead: { command: { frames: 10 } },
    });
    expect(spell(edit(start(), { type: 'trim', clip: 'C', edge: 'out', frames: 9, inPlace: true })).at(-1)).toBe(
      'C 500+59',
    );
  });
  it('offers what there is when a source is too short', () => {
    const answer = refused(start(), { type: 'trim', clip: 'B', edge: 'out', frames: 100 });
    expect(answer.instead!.command).toMatchObject({ frames: 75 });
    expect(spell(edit(start(), answer.instead!.command))[1]).toBe('B 25+175');
  });
});

describe('speed, worked by hand', () => {
  it('half speed is twice as long, double half as long, and the rest follows', () => {
    expect(spell(edit(start(), { type: 'speed', clip: 'A', percent: 50 }))).toEqual([
      'A 50+200 50%',
      'B 25+100',
      'C 500+50',
    ]);
    expect(spell(edit(start(), { type: 'speed', clip: 'A', percent: 400 }))).toEqual([
      'A 50+25 400%',
      'B 25+100',
      'C 500+50',
    ]);
    expect(
      spell(edit(start(), { type: 'speed', clip: 'A', percent: 50 }, { type: 'speed', clip: 'A', percent: 100 })),
    ).toEqual(spell(start()));
  });
  it('the player meets the source at the right second', () => {
    const [first, second] = planPictures(
      edit(start(), { type: 'speed', clip: 'A', percent: 200 }, { type: 'split', clip: 'A', at: 10, newId: 'A2' }),
    );
    expect(first).toMatchObject({ frames: 10, sourceSeconds: 2, speed: 2 });
    expect(second).toMatchObject({ frames: 40, sourceSeconds: 2.8, speed: 2 });
  });
  it('a cut in a piece of odd speed plays on where it was cut, to a hundredth of a frame', () => {
    const reel = edit(
      start(),
      { type: 'speed', clip: 'A', percent: 33 },
      { type: 'split', clip: 'A', at: 7, newId: 'A2' },
    );
    expect(clip(reel, 'A2').sourceIn).toBe(52.31);
  });
  it('keeps its length when asked, and refuses what the source does not hold', () => {
    expect(spell(edit(start(), { type: 'speed', clip: 'A', percent: 300, keepLength: true }))[0]).toBe('A 50+100 300%');
    expect(
      refused(start(), { type: 'speed', clip: 'B', percent: 300, keepLength: true }).instead!.command,
    ).toMatchObject({ percent: 300 });
    expect(refused(start(), { type: 'speed', clip: 'A', percent: 20 }).reason).toMatch(/25 to 400/);
    expect(
      refused(
        edit(start(), {
          type: 'put',
          how: 'append',
          at: 0,
          clips: [{ id: 'P', media: 'p', name: 'P', sourceIn: 0, frames: 10 }],
        }),
        { type: 'speed', clip: 'P', percent: 50 },
      ).reason,
    ).toMatch(/photo/);
  });
  it('a held frame stands between the halves, silent', () => {
    const reel = edit(start(), { type: 'hold', clip: 'B', at: 40, frames: 30, newId: 'H' });
    expect(spell(reel)).toEqual(['A 50+100', 'B 25+40', 'B 65+30 0%', 'B 65+60', 'C 500+50']);
    expect(planHeard(reel)[0]![2]).toMatchObject({ gain: 0, frames: 30 });
    expect(spell(edit(start(), { type: 'hold', clip: 'C', at: 49, frames: 25, newId: 'H' })).slice(2)).toEqual([
      'C 500+50',
      'C 549+25 0%',
    ]);
    expect(spell(edit(reel, { type: 'trim', clip: 'H', edge: 'out', frames: 2000 }))[2]).toBe('B 65+2030 0%');
  });
});

describe('replace with the same length', () => {
  it('takes as much of the other footage', () => {
    expect(
      spell(edit(start(), { type: 'replace', clip: 'B', with: { media: 'a', name: 'new', sourceIn: 300 } })),
    ).toEqual(['A 50+100', 'new 300+100', 'C 500+50']);
  });
  it('offers to begin earlier, or to be shorter by choice', () => {
    const late = refused(start(), { type: 'replace', clip: 'A', with: { media: 'b', name: 'new', sourceIn: 150 } });
    expect(late.reason).toMatch(/0:02.*left.*0:04.*needed/);
    expect(spell(edit(start(), late.instead!.command))[0]).toBe('new 100+100');
    const long = edit(start(), { type: 'trim', clip: 'A', edge: 'out', frames: 300 });
    const short = refused(long, { type: 'replace', clip: 'A', with: { media: 'b', name: 'new', sourceIn: 100 } });
    expect(short.instead!.says).toMatch(/shorter/);
    expect(spell(edit(long, short.instead!.command))).toEqual(['new 100+100', 'B 25+100', 'C 500+50']);
  });
  it('another camera can come in with the sound of the first one running on', () => {
    const reel = edit(start(), {
      type: 'replace',
      clip: 'B',
      with: { media: 'a', name: 'camera two', sourceIn: 300 },
      keepSound: true,
    });
    expect([spell(reel)[1], spell(reel, 1)]).toEqual(['camera two 300+100', ['gap 100', 'B 25+100']]);
    expect(clip(reel, 'B')).toMatchObject({ muted: true });
  });
});

describe('picture and sound', () => {
  const detached = () => edit(start(), { type: 'detach', clip: 'B', newId: 'S' });
  it('detached sound is a linked piece, and the picture is silent', () => {
    expect(spell(detached(), 1)).toEqual(['gap 100', 'B 25+100']);
    expect(planHeard(detached()).map((track) => track.map((each) => [each.name, each.frames, each.gain]))).toEqual([
      [
        ['A', 100, 1],
        ['B', 100, 0],
        ['C', 50, 1],
      ],
      [
        ['', 100, 0],
        ['B', 100, 1],
        ['', 50, 0],
      ],
    ]);
    expect(spell(edit(detached(), { type: 'attach', clip: 'B' }))).toEqual(spell(start()));
    expect(edit(detached(), { type: 'attach', clip: 'B' }).tracks).toHaveLength(1);
    expect(refused(detached(), { type: 'detach', clip: 'B', newId: 'S2' }).reason).toMatch(/already/);
  });
  it('linked pieces are trimmed, slipped, rolled, split, moved and taken out together', () => {
    const both = (reel: Reel) => [spell(reel), spell(reel, 1)];
    expect(both(edit(detached(), { type: 'trim', clip: 'B', edge: 'in', frames: 10 }))).toEqual([
      ['A 50+100', 'B 35+90', 'C 500+50'],
      ['gap 100', 'B 35+90'],
    ]);
    expect(both(edit(detached(), { type: 'trim', clip: 'B', edge: 'out', frames: 20 }))).toEqual([
      ['A 50+100', 'B 25+120', 'C 500+50'],
      ['gap 100', 'B 25+120'],
    ]);
    expect(both(edit(detached(), { type: 'slip', clip: 'B', frames: 5 }))).toEqual([
      ['A 50+100', 'B 30+100', 'C 500+50'],
      ['gap 100', 'B 30+100'],
    ]);
    expect(both(edit(detached(), { type: 'split', clip: 'B', at: 30, newId: 'B2' }))).toEqual([
      ['A 50+100', 'B 25+30', 'B 55+70', 'C 500+50'],
      ['gap 100', 'B 25+30', 'B 55+70'],
    ]);
    expect(both(edit(detached(), { type: 'move', clip: 'B', to: 0 }))).toEqual([
      ['B 25+100', 'A 50+100', 'C 500+50'],
      ['B 25+100'],
    ]);
    expect(both(edit(detached(), { type: 'speed', clip: 'B', percent: 200 }))).toEqual([
      ['A 50+100', 'B 25+50 200%', 'C 500+50'],
      ['gap 100', 'B 25+50 200%'],
    ]);
    expect(both(edit(detached(), { type: 'remove', clip: 'B' }))).toEqual([['A 50+100', 'C 500+50'], []]);
    expect(both(edit(detached(), { type: 'lift', clip: 'B' }))).toEqual([['A 50+100', 'gap 100', 'C 500+50'], []]);
    const two = edit(detached(), { type: 'detach', clip: 'A', newId: 'SA' });
    expect(both(edit(two, { type: 'roll', clip: 'B', frames: 10 }))).toEqual([
      ['A 50+110', 'B 35+90', 'C 500+50'],
      ['A 50+110', 'B 35+90'],
    ]);
  });
  it('halves of a split pair are pairs of their own', () => {
    const reel = edit(detached(), { type: 'split', clip: 'B', at: 30, newId: 'B2' });
    expect(spell(edit(reel, { type: 'remove', clip: 'B2' }), 1)).toEqual(['gap 100', 'B 25+30']);
  });
  it('unlinked pieces go their own ways: a cut of the sound before the picture', () => {
    const reel = edit(detached(), { type: 'unlink', clip: 'B' }, { type: 'trim', clip: 'S', edge: 'in', frames: -20 });
    expect([spell(reel), spell(reel, 1)]).toEqual([spell(start()), ['gap 80', 'B 5+120']]);
    expect(spell(edit(reel, { type: 'place', clip: 'S', at: 10 }), 1)).toEqual(['gap 10', 'B 5+120']);
  });
  it('taking the sound away leaves the picture', () => {
    const reel = edit(detached(), { type: 'remove', clip: 'S' });
    expect([spell(reel), reel.tracks.length]).toEqual([spell(start()), 1]);
  });
  it('a recorder’s sound lies under the piece where it was filmed, and only as long as it ran', () => {
    const reel = edit(start(), {
      type: 'replaceSound',
      clip: 'B',
      sound: { id: 'R', media: 'r', name: 'recorder', sourceIn: 330.25 },
    });
    expect([spell(reel, 1), clip(reel, 'B').muted]).toEqual([['gap 100', 'recorder 330.25+100'], true]);
    const late = applyCommand(
      start(),
      { type: 'replaceSound', clip: 'B', sound: { id: 'R', media: 'r', name: 'recorder', sourceIn: -40 } },
      sources,
    );
    expect(late).toMatchObject({ ok: true, note: expect.stringMatching(/60 %/) as string });
    expect(late.ok && spell(late.reel, 1)).toEqual(['gap 140', 'recorder 0+60']);
    expect(
      refused(start(), {
        type: 'replaceSound',
        clip: 'B',
        sound: { id: 'R', media: 'r', name: 'recorder', sourceIn: 900 },
      }).reason,
    ).toMatch(/not running/);
    expect(spell(edit(reel, { type: 'slip', clip: 'R', frames: 0.25 }), 1)[1]).toBe('recorder 330.5+100');
  });
});

describe('tracks, markers, several', () => {
  it('a locked track refuses edits and does not move', () => {
    const reel = edit(
      start(),
      { type: 'put', how: 'above', at: 120, clips: [{ id: 'O', media: 'a', name: 'over', sourceIn: 0, frames: 20 }] },
      { type: 'track', track: 1, locked: true },
    );
    expect(spell(edit(reel, { type: 'remove', clip: 'A' }), 1)).toEqual(['gap 120', 'over 0+20']);
    expect(refused(reel, { type: 'remove', clip: 'O' }).reason).toMatch(/locked/);
    expect(
      refused(edit(start(), { type: 'track', track: 0, locked: true }), {
        type: 'put',
        how: 'append',
        at: 0,
        clips: [{ id: 'x', media: 'a', name: 'x', sourceIn: 0, frames: 5 }],
      }).reason,
    ).toMatch(/locked/);
  });
  it('markers and titles move with what lies under them', () => {
    const reel = edit(
      start(),
      { type: 'mark', marker: { id: 'm', frame: 120, note: 'splash' } },
      { type: 'title', title: { id: 't', kind: 'lower', frame: 110, frames: 40, text: 'Pond' } },
    );
    const after = edit(reel, { type: 'remove', clip: 'A' });
    expect([after.markers![0]!.frame, after.titles![0]!.frame]).toEqual([20, 10]);
    expect(edit(reel, { type: 'trim', clip: 'A', edge: 'out', frames: 25 }).markers![0]!.frame).toBe(145);
    expect(edit(reel, { type: 'remove', clip: 'B' }).markers![0]!.frame).toBe(100);
  });
  it('a piece above that lies across the cut stays whole when the one below gets longer or shorter', () => {
    // "over" covers 80 to 120, across the cut at 100; "later" lies at 180.
    const above = (id: string, at: number, frames: number) => ({
      type: 'put' as const,
      how: 'above' as const,
      at,
      clips: [{ id, media: 'a', name: id, sourceIn: 0, frames }],
    });
    const reel = edit(start(), above('over', 80, 40), above('later', 180, 20));
    const trim = (frames: number) => spell(edit(reel, { type: 'trim', clip: 'A', edge: 'out', frames }), 1);
    expect(trim(25)).toEqual(['gap 80', 'over 0+40', 'gap 85', 'later 0+20']);
    expect(trim(-10)).toEqual(['gap 80', 'over 0+40', 'gap 50', 'later 0+20']);
    // Below its beginning something goes: it begins where the cut is now.
    expect(trim(-30)).toEqual(['gap 70', 'over 0+40', 'gap 40', 'later 0+20']);
    // Longer and shorter again is as before.
    const longer = edit(reel, { type: 'trim', clip: 'A', edge: 'out', frames: 25 });
    expect(spell(edit(longer, { type: 'trim', clip: 'A', edge: 'out', frames: -25 }), 1)).toEqual(spell(reel, 1));
    // What comes up to it takes something of its end.
    const close = edit(start(), above('over', 80, 40), above('next', 120, 20));
    expect(spell(edit(close, { type: 'trim', clip: 'A', edge: 'out', frames: -10 }), 1)).toEqual([
      'gap 80',
      'over 0+30',
      'next 0+20',
    ]);
    expect(spell(edit(reel, { type: 'speed', clip: 'A', percent: 50 }), 1)[1]).toBe('over 0+40');
    expect(spell(edit(reel, { type: 'hold', clip: 'A', at: 90, frames: 12, newId: 'h' }), 1)[1]).toBe('over 0+40');
  });
  it('several edits are all done or none', () => {
    expect(
      spell(
        edit(start(), {
          type: 'several',
          name: 'took out two',
          commands: [
            { type: 'remove', clip: 'A' },
            { type: 'remove', clip: 'C' },
          ],
        }),
      ),
    ).toEqual(['B 25+100']);
    expect(
      refused(start(), {
        type: 'several',
        name: 'x',
        commands: [
          { type: 'remove', clip: 'A' },
          { type: 'remove', clip: 'A' },
        ],
      }).reason,
    ).toMatch(/not in the reel/);
  });
  it('another rate keeps every cut at its time', () => {
    const reel = edit(start(), { type: 'format', rate: rates['30'], size: { width: 1080, height: 1920 } });
    expect([spell(reel), reel.size.height]).toEqual([['A 60+120', 'B 30+120', 'C 600+60'], 1920]);
    expect(refused(start(), { type: 'format', size: { width: 101, height: 100 } }).reason).toMatch(/even/);
  });
});

describe('transitions', () => {
  it('half lies before the cut, and both pieces are seen in it', () => {
    const plan = planPictures(edit(start(), { type: 'transition', clip: 'B', into: { kind: 'dissolve', frames: 20 } }));
    expect(plan.map((each) => [each.startFrame, each.frames, each.cross?.kind ?? each.name])).toEqual([
      [0, 90, 'A'],
      [90, 20, 'dissolve'],
      [110, 90, 'B'],
      [200, 50, 'C'],
    ]);
    expect(plan[1]!.cross).toMatchObject({
      from: { sourceSeconds: (50 + 90) / 25, frames: 20 },
      to: { sourceSeconds: (25 - 10) / 25, frames: 20 },
    });
    expect(plan[2]!.sourceSeconds).toBeCloseTo((25 + 10) / 25);
  });
  it('sounds cross over with the pictures, sample for sample', () => {
    const [sound] = planHeard(edit(start(), { type: 'transition', clip: 'B', into: { kind: 'push', frames: 15 } }));
    expect(sound!.reduce((sum, each) => sum + each.samples, 0)).toBe(480000);
    expect(sound![1]).toMatchObject({ startFrame: 93, frames: 15, cross: { kind: 'push' } });
  });
  it('a dip needs no footage beyond the cut', () => {
    const plan = planPictures(edit(start(), { type: 'transition', clip: 'B', into: { kind: 'white', frames: 11 } }));
    expect(plan.slice(0, 2)).toMatchObject([
      { frames: 100, fadeOut: { frames: 5, colour: 'white' } },
      { frames: 100, fadeIn: { frames: 6, colour: 'white' } },
    ]);
  });
  it('is never longer than the footage beyond the cut', () => {
    // B ends at frame 125 of 200: 75 are left; C has 500 before it.
    expect(handleFrames(mainTrack(start()).items, 2, 'dissolve', sources, start())).toBe(98);
    // Into B: 25 frames lie before it.
    expect(handleFrames(mainTrack(start()).items, 1, 'dissolve', sources, start())).toBe(51);
    const answer = refused(start(), { type: 'transition', clip: 'B', into: { kind: 'wipe', frames: 60 } });
    expect(answer).toMatchObject({
      reason: expect.stringMatching(/51 frames/) as string,
      instead: { command: { into: { frames: 51 } } },
    });
  });
  it('an edit that takes its footage makes it shorter, and says so', () => {
    const reel = edit(start(), { type: 'transition', clip: 'B', into: { kind: 'dissolve', frames: 40 } });
    const after = applyCommand(reel, { type: 'slip', clip: 'B', frames: -20 }, sources);
    expect(after).toMatchObject({
      ok: true,
      note: 'The transition into “B” has 11 frames now: there is no more footage beyond the cut.',
    });
    expect(after.ok && clip(after.reel, 'B').into!.frames).toBe(11);
  });
  it('one for all cuts, shorter where it must be', () => {
    const answer = applyCommand(
      edit(start(), { type: 'slip', clip: 'B', frames: -20 }),
      { type: 'transitions', into: { kind: 'dissolve', frames: 24 } },
      sources,
    );
    expect(answer).toMatchObject({ ok: true, note: expect.stringMatching(/^1 became shorter/) as string });
    expect(answer.ok && mainTrack(answer.reel).items.map((item) => (item as Clip).into?.frames)).toEqual([
      undefined,
      11,
      24,
    ]);
  });
  it('every theme can be taken, changed and left', () => {
    let reel = start();
    for (const { name } of themes) reel = edit(reel, { type: 'theme', theme: name });
    expect(reel.theme).toBe(themes.at(-1)!.name);
    expect(edit(reel, { type: 'theme', theme: null })).toEqual(start());
  });
});

describe('what any sequence of edits had shown', () => {
  const linkOf = (reel: Reel, id: string) => clipsOf(reel).find((clip) => clip.id === id)?.link;

  it('a piece that is split a second time leaves the link of an earlier second half alone', () => {
    const reel = edit(
      start(),
      { type: 'detach', clip: 'A', newId: 'a1' },
      { type: 'split', clip: 'A', at: 60, newId: 'A2' },
      { type: 'split', clip: 'A', at: 20, newId: 'A3' },
    );
    const links = ['A', 'A2', 'A3'].map((id) => linkOf(reel, id));
    expect(new Set(links).size).toBe(3);
    // Each second half goes with its own sound.
    for (const link of links) expect(clipsOf(reel).filter((clip) => clip.link === link)).toHaveLength(2);
  });
  it('a piece that is cut by what is put in, made longer and cut there again: each second half goes with its own sound', () => {
    const put = (id: string): ReelCommand => ({
      type: 'put',
      how: 'insert',
      at: 50,
      clips: [{ id, media: 'a', name: id, sourceIn: 300, frames: 10 }],
    });
    const reel = edit(
      start(),
      { type: 'detach', clip: 'A', newId: 'a1' },
      put('x'),
      { type: 'trim', clip: 'A', edge: 'out', frames: 20 },
      put('y'),
    );
    const pictures = mainTrack(reel).items.flatMap((item) => (item.kind === 'clip' && item.link ? [item.link] : []));
    expect([pictures.length, new Set(pictures).size]).toEqual([3, 3]);
    for (const link of pictures) expect(clipsOf(reel).filter((clip) => clip.link === link)).toHaveLength(2);
  });
  it('a piece that went to another reel comes back at the rate that the reel has by then', () => {
    const reel = edit(
      start(),
      { type: 'handOver', clip: 'B' },
      { type: 'format', rate: rates['50'] },
      { type: 'takeBack', clip: 'B' },
    );
    expect(spell(reel)).toEqual(['A 100+200', 'B 50+200', 'C 1000+100']);
  });
  it('a piece that went to another reel keeps its id for itself', () => {
    const put = (at: number): ReelCommand => ({
      type: 'put',
      how: 'insert',
      at,
      clips: [{ id: 'x', media: 'a', name: 'x', sourceIn: 300, frames: 5 }],
    });
    const reel = edit(start(), put(20), { type: 'handOver', clip: 'x.1' }, { type: 'remove', clip: 'x' }, put(5), {
      type: 'takeBack',
      clip: 'x.1',
    });
    const ids = mainTrack(reel).items.map((item) => item.id);
    expect(new Set(ids).size).toBe(ids.length);
  });
});

it.each([3, 13, 23])(
  'any sequence of edits: nothing overlaps or reaches beyond its source, links stay pairs, picture and sound are as long as the reel (%i)',
  (seed) => {
    const random = seededRandom(seed);
    const makeId = counting('n');
    let reel = start();
    const history: [Reel, string][] = [];
    const fitted = new Map<string, number>();
    for (let round = 0; round < 2500; round++) {
      if (clipsOf(reel).length === 0 || reelFrames(reel) > 4000 || round % 120 === 0) reel = start();
      const command = anyEdit(reel, random, makeId);
      const before = JSON.stringify(reel);
      const result = applyCommand(reel, command, testSources);
      expect(JSON.stringify(reel)).toBe(before);
      if (!result.ok) continue;
      const where = `${round} ${JSON.stringify(command)}`;
      expect(describeCommand(command, reel), where).toMatch(/\S/);
      fitted.set(command.type, (fitted.get(command.type) ?? 0) + 1);
      history.push([reel, before]);
      reel = result.reel;
      expect(problemOfReel(reel, testSources), where).toBeNull();
      expect(malformedAt(reel), where).toBeNull();
      const linked = new Map<string, number>();
      for (const each of clipsOf(reel))
        if (
          each.link !== undefined &&
          reel.tracks.some((track) => track.kind === 'picture' && track.items.includes(each))
        )
          linked.set(each.link, (linked.get(each.link) ?? 0) + 1);
      expect(
        [...linked.values()].filter((count) => count > 1),
        where,
      ).toEqual([]);
      for (const plan of [planPictures(reel), ...planHeard(reel)]) {
        let end = 0;
        for (const each of plan) {
          expect([each.startFrame, each.frames > 0], where).toEqual([end, true]);
          end += each.frames;
        }
        expect(end, where).toBe(reelFrames(reel));
      }
    }
    // Of every kind some were done, and more than half of all: a check of refusals alone would say nothing.
    const kinds = Object.keys(oneOfEach(start(), random, makeId));
    expect(kinds.filter((kind) => !fitted.has(kind))).toEqual([]);
    expect(history.length).toBeGreaterThan(1250);
    // What a step back shows is exactly what was there.
    for (const [was, text] of history) expect(JSON.stringify(was)).toBe(text);
  },
);
