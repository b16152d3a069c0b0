import { describe, expect, it } from 'vitest';
import { rates } from '#core/time';
import { applyCommand, itemsFrames, mainTrack, moveSpan, reelFrames, spanOfWords, strikeOut, type Reel } from '.';
import { clipOf as clip, counting, problemOfReel, testSources } from './testEdits';

/** Two pieces of ten seconds, and one of five; 25 frames a second. */
const reel: Reel = {
  schema: 'BrightReel.Reel.1',
  name: 'Pond',
  rate: rates['25'],
  size: { width: 1280, height: 720 },
  tracks: [
    {
      kind: 'picture',
      name: 'Main',
      items: [clip('one', 'a', 0, 250), clip('two', 'a', 500, 250), clip('three', 'b', 0, 125)],
    },
  ],
  markers: [{ id: 'm', frame: 300, note: 'finish' }],
};
/** Words of half a second, one a second, from the first second on. */
const words = Array.from({ length: 23 }, (_, at) => ({ start: at + 1, end: at + 1.5 }));
const after = (result: ReturnType<typeof strikeOut>, of = reel): Reel => {
  if (!result.ok) throw new Error(result.reason);
  const edited = applyCommand(of, result.command, testSources);
  if (!edited.ok) throw new Error(edited.reason);
  expect(problemOfReel(edited.reel, testSources)).toBeNull();
  return edited.reel;
};
const pieces = (of: Reel) =>
  mainTrack(of).items.map((item) => (item.kind === 'clip' ? `${item.media} ${item.sourceIn}+${item.frames}` : 'gap'));

describe('what goes with words', () => {
  it('is one of the two pauses around them, and a breath stays before the next', () => {
    // Words 3 and 4 are said from 4 to 5.5 s; the next one at 6 s.
    const span = spanOfWords(reel, words, 3, 5);
    expect(span).toEqual({ from: Math.round((4 - 0.15) * 25), to: Math.round((6 - 0.15) * 25) });
  });
  it('is only the words before a long pause', () => {
    const far = [...words.slice(0, 5), { start: 9, end: 9.5 }];
    expect(spanOfWords(reel, far, 4, 5).to).toBe(Math.round((5.5 + 0.15) * 25));
  });
  it('is the rest of a piece of which next to nothing would be left', () => {
    const few = [
      { start: 0.3, end: 1 },
      { start: 1.2, end: 9.7 },
      { start: 10.6, end: 11 },
    ];
    expect(spanOfWords(reel, few, 0, 2)).toMatchObject({ from: 0, to: 250 });
    // Nothing that is said is taken along.
    expect(spanOfWords(reel, few, 1, 2).from).toBeGreaterThan(24);
  });
  it('does not reach into the words beside it where there is no pause', () => {
    const tight = [0, 1, 2].map((at) => ({ start: at, end: at + 1 }));
    expect(spanOfWords(reel, tight, 1, 2)).toEqual({ from: 25, to: 50 });
  });
});

describe('striking out', () => {
  it('takes a stretch out of the middle of a piece; what follows moves up, markers too', () => {
    const next = after(strikeOut(reel, [{ from: 100, to: 150 }], 'the boats are in', testSources, counting('n')));
    expect(pieces(next)).toEqual(['a 0+100', 'a 150+100', 'a 500+250', 'b 0+125']);
    expect(next.markers![0]!.frame).toBe(250);
  });
  it('goes over several pieces, and takes several stretches in one step', () => {
    const spans = [
      { from: 20, to: 40 },
      { from: 200, to: 550 },
    ];
    const result = strikeOut(reel, spans, 'much', testSources, counting('n'));
    const next = after(result);
    expect(pieces(next)).toEqual(['a 0+20', 'a 40+160', 'b 50+75']);
    expect(reelFrames(next)).toBe(reelFrames(reel) - 370);
    expect(result.ok && result.command).toMatchObject({ type: 'several', name: 'much' });
    // Whole pieces and both ends.
    expect(pieces(after(strikeOut(reel, [{ from: 0, to: 250 }], 'x', testSources, counting('n'))))).toEqual([
      'a 500+250',
      'b 0+125',
    ]);
  });
  it('takes stretches that touch or lie over one another once', () => {
    const spans = [
      { from: 60, to: 80 },
      { from: 20, to: 50 },
      { from: 40, to: 60 },
    ];
    expect(pieces(after(strikeOut(reel, spans, 'x', testSources, counting('n'))))[1]).toBe('a 80+170');
  });
  it('is refused where the track is locked, and where there is nothing', () => {
    const locked = { ...reel, tracks: reel.tracks.map((track) => ({ ...track, locked: true })) };
    expect(strikeOut(locked, [{ from: 10, to: 20 }], 'x', testSources, counting('n'))).toMatchObject({ ok: false });
    expect(strikeOut(reel, [{ from: 9000, to: 9100 }], 'x', testSources, counting('n')).ok).toBe(false);
  });
});

describe('moving words', () => {
  const span = { from: 50, to: 100 };
  const moved = (to: number, what = span) =>
    after(moveSpan(reel, what, to, 'first things', testSources, counting('n')));
  it('puts a stretch later or earlier, cutting where it has to', () => {
    expect(pieces(moved(250))).toEqual(['a 0+50', 'a 100+150', 'a 50+50', 'a 500+250', 'b 0+125']);
    expect(pieces(moved(0))).toEqual(['a 50+50', 'a 0+50', 'a 100+150', 'a 500+250', 'b 0+125']);
    expect(pieces(moved(300))).toEqual(['a 0+50', 'a 100+150', 'a 500+50', 'a 50+50', 'a 550+200', 'b 0+125']);
    expect(pieces(moved(625)).at(-1)).toBe('a 50+50');
  });
  it('keeps the order of several pieces, and the length of the reel', () => {
    const over = { from: 200, to: 300 };
    expect(pieces(moved(0, over))).toEqual(['a 200+50', 'a 500+50', 'a 0+200', 'a 550+200', 'b 0+125']);
    expect(pieces(moved(625, over))).toEqual(['a 0+200', 'a 550+200', 'b 0+125', 'a 200+50', 'a 500+50']);
    for (const to of [0, 60, 400, 625]) expect(itemsFrames(mainTrack(moved(to, over)).items)).toBe(625);
  });
  it('is refused into itself', () => {
    expect(moveSpan(reel, span, 75, 'x', testSources, counting('n'))).toMatchObject({ ok: false });
  });
});
