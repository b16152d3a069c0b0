import { describe, expect, it } from 'vitest';
import { rates } from '#core/time';
import {
  adviseEnding,
  beatFrames,
  applyCommand,
  assembleReel,
  compareReels,
  endWithMusic,
  estimateOutput,
  outputFor,
  purposes,
  locate,
  paceOf,
  shapeOf,
  sizeOf,
  snapPlace,
  snapTrim,
  mainTrack,
  type Reel,
  type ReelCommand,
  type SnapKind,
  type Source,
} from '.';
import { fitToMusic } from './fitMusic';

const sources = new Map<string, Source>([['a', { id: 'a', name: 'a.mp4', durationSeconds: 40 }]]);
const start = (): Reel => {
  let next = 0;
  return assembleReel(
    'Test',
    [
      { media: 'a', start: 2, end: 6, name: 'A' },
      { media: 'a', start: 10, end: 14, name: 'B' },
    ],
    sources,
    rates['25'],
    { width: 1280, height: 720 },
    () => 'AB'[next++]!,
  );
};
const edit = (reel: Reel, ...commands: ReelCommand[]): Reel =>
  commands.reduce((now, command) => {
    const result = applyCommand(now, command, sources);
    if (!result.ok) throw new Error(result.reason);
    return result.reel;
  }, reel);
const quiet = new Float32Array(400);
const reading = (speech: [number, number][], motion = quiet) => ({
  hz: 10,
  traces: { motion, moves: quiet },
  runs: speech.map(([from, to]) => ({ kind: 'speech' as const, start: from, end: to })),
});

describe('endings, worked by hand', () => {
  it('ends well: nothing is said', () => {
    expect(adviseEnding(start(), reading([[11, 13]]), sources, 'h')).toBeNull();
    expect(adviseEnding(start(), null, sources, 'h')).toBeNull();
  });
  it('in a sentence: on to the pause and a breath', () => {
    // The sentence ends at 15.0; with a breath of 0.4 s the piece ends 1.4 s later: 35 frames.
    const advice = adviseEnding(start(), reading([[13, 15]]), sources, 'h')!;
    expect([advice.because, advice.command]).toEqual([
      'The last piece stops in a sentence.',
      { type: 'trim', clip: 'B', edge: 'out', frames: 35 },
    ]);
    expect(adviseEnding(edit(start(), advice.command), reading([[13, 15]]), sources, 'h')).toBeNull();
  });
  it('in a sentence without an end in reach: back to before it', () => {
    const advice = adviseEnding(start(), reading([[12.9, 39]]), sources, 'h')!;
    expect(advice.command).toEqual({ type: 'trim', clip: 'B', edge: 'out', frames: -30 });
  });
  it('in full motion: hold and fade, or only fade', () => {
    const advice = adviseEnding(start(), reading([], new Float32Array(400).fill(0.8)), sources, 'h')!;
    const held = edit(start(), advice.command);
    expect(mainTrack(held).items.at(-1)).toMatchObject({ id: 'h', speed: 0, sourceIn: 349, frames: 30, fadeOut: 25 });
    expect(adviseEnding(held, reading([], new Float32Array(400).fill(0.8)), sources, 'x')).toBeNull();
    expect(edit(start(), advice.others[0]!.command).tracks[0]!.items[1]).toMatchObject({ fadeOut: 25 });
  });
});

describe('snapping, worked by hand', () => {
  const all = new Set<SnapKind>(['playhead', 'markers', 'cuts', 'pauses']);
  it('an edge meets the playhead, a marker, the middle of a pause', () => {
    const reel = edit(start(), { type: 'mark', marker: { id: 'm', frame: 130, note: '' } });
    const found = locate(reel, 'A')!;
    const none = { playhead: 500, runs: [] };
    expect(snapTrim(reel, found, 'out', 8, { playhead: 110, runs: [] }, all, 4)).toEqual({
      frames: 10,
      kind: 'playhead',
    });
    expect(snapTrim(reel, found, 'out', 28, none, all, 4)).toEqual({ frames: 30, kind: 'markers' });
    // A shows 2 to 6 s; words end at 6.4 and begin again at 7.2: the pause's middle, 6.8 s, is 20 frames later.
    expect(
      snapTrim(
        reel,
        found,
        'out',
        18,
        {
          playhead: 500,
          runs: reading([
            [3, 6.4],
            [7.2, 9],
          ]).runs,
        },
        all,
        4,
      ),
    ).toEqual({ frames: 20, kind: 'pauses' });
    expect(snapTrim(reel, found, 'out', 18, { playhead: 120, runs: [] }, new Set(), 4)).toEqual({
      frames: 18,
      kind: null,
    });
    expect(snapTrim(reel, found, 'out', 2, { playhead: 110, runs: [] }, all, 4)).toEqual({ frames: 2, kind: null });
  });
  it('a piece above meets a cut with either end', () => {
    const reel = edit(start(), {
      type: 'put',
      how: 'above',
      at: 10,
      clips: [{ id: 'O', media: 'a', name: 'over', sourceIn: 0, frames: 30 }],
    });
    const found = locate(reel, 'O')!;
    expect(snapPlace(reel, found, 98, { playhead: 0 }, all, 4)).toEqual({ frame: 100, kind: 'cuts' });
    expect(snapPlace(reel, found, 68, { playhead: 0 }, all, 4)).toEqual({ frame: 70, kind: 'cuts' });
    expect(snapPlace(reel, found, 50, { playhead: 0 }, all, 4)).toEqual({ frame: 50, kind: null });
  });
});

describe('comparing versions', () => {
  const says = (...commands: ReelCommand[]) =>
    compareReels(start(), edit(start(), ...commands)).map((each) => each.says);
  it('says what was done', () => {
    expect(says()).toEqual([]);
    expect(says({ type: 'trim', clip: 'A', edge: 'out', frames: 25 })).toEqual([
      '0:08.0 became 0:09.0',
      '“A” longer by 1.0 s',
    ]);
    expect(says({ type: 'slip', clip: 'A', frames: 3 })).toEqual(['“A” shows another stretch']);
    expect(says({ type: 'move', clip: 'B', to: 0 })).toHaveLength(1);
    expect(says({ type: 'remove', clip: 'A' })).toEqual(['0:08.0 became 0:04.0', '“A” taken out']);
    expect(
      says({ type: 'look', clip: 'A', look: { exposure: 0.1, contrast: 0, saturation: 0, temperature: 0 } }),
    ).toEqual(['“A” looks or sounds otherwise']);
    expect(says({ type: 'title', title: { id: 't', kind: 'end', frame: 0, frames: 20, text: 'The end' } })).toEqual([
      'title “The end” added',
    ]);
  });
});

describe('ending with the music, worked by hand', () => {
  const music = {
    media: 'a',
    name: 'song',
    levelDb: -12,
    startSeconds: 1,
    duckDb: 0,
    fadeInSeconds: 0,
    fadeOutSeconds: 2,
  };
  it('cuts the piece across the end, takes out what is beyond, and fades', () => {
    // Music of 6 s from its first second on: 125 frames; A has 100, B keeps 25 and fades over all of them.
    const reel = { ...start(), music };
    const after = edit(reel, endWithMusic(reel, 6)!);
    expect(mainTrack(after).items).toMatchObject([{ frames: 100 }, { frames: 25, fadeOut: 25 }]);
    expect(mainTrack(edit(reel, endWithMusic(reel, 3)!)).items).toMatchObject([{ id: 'A', frames: 50, fadeOut: 38 }]);
    expect([endWithMusic(reel, 40), endWithMusic(start(), 3), endWithMusic(reel, 1)]).toEqual([null, null, null]);
  });
});

describe('fitting a reel to its music, worked by hand', () => {
  const music = {
    media: 'a',
    name: 'song',
    levelDb: -12,
    startSeconds: 1,
    duckDb: 0,
    fadeInSeconds: 0,
    fadeOutSeconds: 2,
  };
  const reel = { ...start(), music };
  it('ends on a bar, without a fade', () => {
    // Bars at 3, 5, 7 and 9.5 s of the music are 2, 4, 6 and 8.5 s of the reel, which lasts 8 s: 150 frames, B keeps 50.
    const ended = edit(reel, endWithMusic(reel, 40, [3, 5, 7, 9.5])!);
    expect(mainTrack(ended).items).toMatchObject([{ frames: 100 }, { frames: 50 }]);
    expect(mainTrack(ended).items[1]).not.toHaveProperty('fadeOut');
  });
  it('knows at which frames the music beats', () => {
    expect(beatFrames(reel, [0.5, 1, 1.5, 5.03, 99])).toEqual([0, 13, 101]);
    expect(beatFrames(start(), [1, 2])).toEqual([]);
  });
  it('rolls the cut to the nearest beat, and ends with the music', () => {
    // The cut lies at 4 s of the reel, 5 s of the music: the beat at 5.12 is 3 frames on.
    const fitted = fitToMusic(reel, { beats: [4, 5.12, 6], durationSeconds: 8 }, sources, () => [])!;
    expect([fitted.moved, fitted.stayed]).toEqual([1, 0]);
    expect(mainTrack(edit(reel, fitted.command)).items).toMatchObject([
      { frames: 103 },
      { sourceIn: 253, frames: 72, fadeOut: 38 },
    ]);
    expect(fitToMusic(reel, { beats: [5], durationSeconds: 40 }, sources, () => [])).toBeNull();
  });
  it('takes the beat on the other side where a word would be cut, and leaves the cut where both would', () => {
    // A shows its source from 2 s on and is cut at 6 s there; at 6.12 somebody speaks.
    const other = fitToMusic(reel, { beats: [4.8, 5.12], durationSeconds: 40 }, sources, () => [
      { start: 6.05, end: 7 },
    ])!;
    expect(other.command).toMatchObject({ type: 'several', commands: [{ type: 'roll', clip: 'B', frames: -5 }] });
    expect(
      fitToMusic(reel, { beats: [4.8, 5.12], durationSeconds: 40 }, sources, () => [{ start: 5.5, end: 7 }]),
    ).toBeNull();
    expect(fitToMusic(reel, { beats: [2], durationSeconds: 40 }, sources, () => [])).toBeNull();
  });
  it('edges are drawn to beats, when that is wanted', () => {
    const found = locate(reel, 'A')!;
    const around = { playhead: 0, runs: [], beats: [96] };
    expect(snapTrim(reel, found, 'out', -3, around, new Set<SnapKind>(['beats']), 4)).toEqual({
      frames: -4,
      kind: 'beats',
    });
    expect(snapTrim(reel, found, 'out', -3, around, new Set<SnapKind>(['cuts']), 4)).toEqual({
      frames: -3,
      kind: null,
    });
  });
});

describe('outputs', () => {
  it('sizes of the usual shapes', () => {
    expect(
      [sizeOf('16:9', 1080), sizeOf('9:16', 1080), sizeOf('1:1', 720), sizeOf('4:5', 1080), sizeOf('16:9', 2160)].map(
        ({ width, height }) => `${width}×${height}`,
      ),
    ).toEqual(['1920×1080', '1080×1920', '720×720', '1080×1350', '3840×2160']);
    expect([shapeOf({ width: 1280, height: 720 }), shapeOf({ width: 640, height: 480 })]).toEqual(['16:9', null]);
  });
  it('a purpose says format, quality and lines: no larger than the reel, and small enough for mail', () => {
    const reel = { ...start(), size: { width: 1920, height: 1080 } };
    expect(outputFor('web', reel)).toEqual({ format: 'mp4', quality: 'good', lines: null, captions: 'burnt' });
    expect(outputFor('web', { ...reel, size: { width: 2160, height: 3840 } }).lines).toBe(1080);
    expect(outputFor('master', reel)).toEqual({ format: 'mp4', quality: 'best', lines: null, captions: 'beside' });
    expect(outputFor('proof', reel)).toMatchObject({ quality: 'draft', lines: 480 });
    expect(outputFor('sound', reel).format).toBe('wav');
    const long = (minutes: number) => {
      const [main, ...others] = reel.tracks;
      const items = main!.items.map((item) => ({ ...item, frames: minutes * 60 * 25 }));
      return { ...reel, tracks: [{ ...main!, items: items.slice(0, 1) }, ...others] } as Reel;
    };
    const mailed = (minutes: number) => outputFor('mail', long(minutes)).lines;
    expect([mailed(0.1), mailed(3), mailed(30)]).toEqual([null, expect.any(Number), 240]);
    const size = { width: Math.round((mailed(3)! * 16) / 9), height: mailed(3)! };
    expect(estimateOutput(long(3), { format: 'mp4', quality: 'good', size }).bytes).toBeLessThan(20.1e6);
    expect(purposes.map((each) => outputFor(each, start()).lines)).toEqual([null, null, null, 480, null]);
  });
  it('a guess grows with length, size and quality', () => {
    const of = (quality: 'draft' | 'best', width = 1280) =>
      estimateOutput(start(), { format: 'mp4', quality, size: { width, height: 720 } });
    expect(of('best').bytes).toBeGreaterThan(of('draft').bytes);
    expect(of('best', 2560).seconds).toBeGreaterThan(of('best').seconds);
    expect(estimateOutput(start(), { format: 'wav', quality: 'good', size: start().size }).bytes).toBeGreaterThan(
      8 * 192_000,
    );
  });
  it('what has to be moved or graded takes longer, and what this machine took before counts', () => {
    const seconds = (reel: Reel, pace = 1) =>
      estimateOutput(reel, { format: 'mp4', quality: 'good', size: start().size }, pace).seconds;
    // 200 frames of 0.92 megapixels at 0.011 s each, a hundredth of the length, and one second.
    expect(seconds(start())).toBeCloseTo(200 * 0.9216 * 0.011 + 0.08 + 1, 6);
    const steadied = edit(start(), {
      type: 'steady',
      clip: 'A',
      steady: { position: 1, rotation: 1, scale: 1, edges: 'crop' },
    });
    expect(seconds(steadied) - seconds(start())).toBeCloseTo(100 * 0.9216 * 0.025, 6);
    const crop = (path: [number, number, number][]) =>
      edit(start(), {
        type: 'framing',
        framings: [{ clip: 'A', framing: { subject: 'auto', zoom: 1, keys: [], path } }],
      });
    expect(
      seconds(
        crop([
          [0, 0.5, 0.5],
          [4, 0.5, 0.5],
        ]),
      ),
    ).toBeCloseTo(seconds(start()), 6);
    expect(
      seconds(
        crop([
          [0, 0.4, 0.5],
          [4, 0.6, 0.5],
        ]),
      ),
    ).toBeCloseTo(seconds(steadied), 6);
    expect([
      paceOf([]),
      paceOf([
        { guess: 10, tookSeconds: 30 },
        { guess: 10, tookSeconds: 5 },
        { guess: 20, tookSeconds: 20 },
        { guess: 1, tookSeconds: 1 },
      ]),
    ]).toEqual([1, 1]);
    expect(seconds(start(), 2) - 1.08).toBeCloseTo(2 * (seconds(start()) - 1.08), 6);
  });
});
