import { describe, expect, it } from 'vitest';
import {
  applyCommand,
  assembleReel,
  clipsOf,
  mainTrack,
  planSound,
  takeUp,
  type Carried,
  type Reel,
  type ReelCommand,
} from '#core/reel';
import { rates } from '#core/time';
import { testSources } from '../../core/reel/testEdits';
import { reelActions, type AtHand } from './reelActions';

/** Three pieces of a hundred frames each, at 25 a second. */
const start = (): Reel => {
  let next = 0;
  const pieces = [2, 10, 20].map((from) => ({ media: 'a', start: from, end: from + 4, name: `from ${from}` }));
  return assembleReel('Pond', pieces, testSources, rates['25'], { width: 16, height: 16 }, () => 'ABC'[next++]!);
};

/** A reel on which the actions work, with some pieces chosen and the playhead at a frame. */
function desk(playFrame: number, chosen: string[] = [], reel = start()) {
  const put: Carried[] = [];
  const state = { reel, problem: null as string | null, commands: [] as ReelCommand[] };
  const clips = clipsOf(reel).filter((clip) => chosen.includes(clip.id));
  const at: AtHand = {
    document: reel,
    rate: reel.rate,
    clip: clips[0] ?? null,
    chosen: clips,
    under: planSound(reel).find((each) => playFrame >= each.startFrame && playFrame < each.startFrame + each.frames),
    playFrame,
    sources: new Map([...testSources].map(([id, source]) => [id, { ...source, hash: `hash of ${id}` }])),
    edit: (command) => {
      const result = applyCommand(state.reel, command, testSources);
      state.commands.push(command);
      if (result.ok) state.reel = result.reel;
      else state.problem = result.reason;
      return result.ok;
    },
    takeUpChosen: () => (clips.length ? takeUp(reel, new Set(clips.map(({ id }) => id))) : null),
    putCarried: (_, carried) => put.push(carried) > 0,
  };
  return { actions: reelActions(at), state, put };
}
const spell = (reel: Reel) =>
  mainTrack(reel).items.map((item) => (item.kind === 'gap' ? `gap ${item.frames}` : `${item.sourceIn}+${item.frames}`));

describe('at the playhead', () => {
  it('a piece is split, held, or begins and ends there', () => {
    const split = desk(130);
    expect(split.actions.split()).toBe(true);
    expect(spell(split.state.reel)).toEqual(['50+100', '250+30', '280+70', '500+100']);
    const begins = desk(130);
    expect(begins.actions.trimIn()).toBe(true);
    expect(spell(begins.state.reel)).toEqual(['50+100', '280+70', '500+100']);
    const ends = desk(130);
    expect(ends.actions.trimOut(true)).toBe(true);
    expect(spell(ends.state.reel)).toEqual(['50+100', '250+30', 'gap 70', '500+100']);
    const held = desk(130);
    expect(held.actions.hold()).toBe(true);
    expect(spell(held.state.reel)).toEqual(['50+100', '250+30', '280+50', '280+70', '500+100']);
  });
  it('nothing is trimmed to nothing, and beyond the end nothing is done', () => {
    expect([desk(100).actions.trimIn(), desk(100).actions.trimOut()]).toEqual([false, false]);
    const beyond = desk(999);
    const { split, trimIn, trimOut, hold } = beyond.actions;
    expect([split(), trimIn(), trimOut(), hold(), beyond.state.commands]).toEqual([false, false, false, false, []]);
  });
  it('a gap is not split or held', () => {
    const withGap = applyCommand(start(), { type: 'lift', clip: 'B' }, testSources);
    const { actions, state } = desk(130, [], withGap.ok ? withGap.reel : start());
    expect([actions.split(), actions.hold(), actions.trimIn(), state.commands]).toEqual([false, false, false, []]);
  });
  it('a marker is set with its note', () => {
    const { actions, state } = desk(130);
    expect(actions.mark('the start')).toBe(true);
    expect(state.reel.markers).toMatchObject([{ frame: 130, note: 'the start' }]);
  });
});

describe('with what is chosen', () => {
  it('several pieces are taken out, lifted or muted as one step', () => {
    const out = desk(0, ['A', 'C']);
    expect(out.actions.takeOut()).toBe(true);
    expect(spell(out.state.reel)).toEqual(['250+100']);
    expect(out.state.commands).toMatchObject([{ type: 'several', name: 'took out 2 pieces' }]);
    const lifted = desk(0, ['A', 'B']);
    lifted.actions.lift();
    expect(spell(lifted.state.reel)).toEqual(['gap 200', '500+100']);
    const muted = desk(0, ['A', 'B']);
    muted.actions.mute();
    expect(clipsOf(muted.state.reel).map((clip) => clip.muted ?? false)).toEqual([true, true, false]);
  });
  it('one piece is one plain edit; with nothing chosen nothing happens', () => {
    const one = desk(0, ['B']);
    one.actions.takeOut();
    expect(one.state.commands).toEqual([{ type: 'remove', clip: 'B' }]);
    const none = desk(0);
    expect([none.actions.takeOut(), none.actions.lift(), none.actions.roll(1), none.actions.slip(1)]).toEqual([
      false,
      false,
      false,
      false,
    ]);
    expect(none.state.commands).toEqual([]);
  });
  it('the cut before it is rolled, and another stretch of its source shown', () => {
    const rolled = desk(0, ['B']);
    expect(rolled.actions.roll(10)).toBe(true);
    expect(spell(rolled.state.reel)).toEqual(['50+110', '260+90', '500+100']);
    const slipped = desk(0, ['B']);
    expect(slipped.actions.slip(5)).toBe(true);
    expect(spell(slipped.state.reel)).toEqual(['50+100', '255+100', '500+100']);
  });
  it('what is copied can be put into another reel, as text that any program of the trade can read', () => {
    const { text, count } = desk(0, ['A', 'B']).actions.copied()!;
    expect(count).toBe(2);
    expect(JSON.parse(text)).toMatchObject({ OTIO_SCHEMA: 'Timeline.1', name: 'Copied pieces' });
    const other = desk(0);
    expect(other.actions.paste(text)).toBeNull();
    const pieces = other.put[0]!.pieces.map(({ clip }) => [clip.media, clip.sourceIn, clip.frames, clip.name]);
    expect(pieces).toEqual([
      ['a', 50, 100, 'from 2'],
      ['a', 250, 100, 'from 10'],
    ]);
    expect(other.actions.copied()).toBeNull();
  });
  it('a paste that cannot be says why', () => {
    const { actions, put } = desk(0);
    expect(actions.paste('')).toMatch(/^There is nothing on the clipboard/);
    expect(actions.paste('two boats')).toBe('What is on the clipboard is no piece of a reel.');
    expect(actions.paste('{"OTIO_SCHEMA": "Timeline.1"}')).toBe('What is on the clipboard is no piece of a reel.');
    const gone = desk(0, ['A'])
      .actions.copied()!
      .text.replaceAll('a.mp4', 'gone.mp4')
      .replaceAll('hash of a', 'another');
    expect(actions.paste(gone)).toMatch(/^“gone\.mp4” is not in this project/);
    expect(put).toEqual([]);
  });
});
