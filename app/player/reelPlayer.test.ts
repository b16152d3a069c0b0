import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import {
  assembleReel,
  applyCommand,
  planHeard,
  planPictures,
  type Reel,
  type ReelCommand,
  type Source,
} from '#core/reel';
import { rates } from '#core/time';
import { Decks } from './decks';
import { ReelPlayer } from './reelPlayer';

/** Media elements, sound and frames that the test drives by hand; a seek ends when the test says so. */
class FakeMedia extends EventTarget {
  static all: FakeMedia[] = [];
  src = '';
  preload = '';
  muted = false;
  playsInline = false;
  preservesPitch = true;
  playbackRate = 1;
  volume = 1;
  readyState = 4;
  videoWidth = 1280;
  videoHeight = 720;
  paused = true;
  ended = false;
  seeking = false;
  error = null;
  duration = 100;
  seeks: number[] = [];
  onloadedmetadata: (() => void) | null = null;
  private at = 0;
  constructor() {
    super();
    FakeMedia.all.push(this);
  }
  get currentTime() {
    return this.at;
  }
  set currentTime(value: number) {
    this.at = value;
    this.seeking = true;
    this.seeks.push(value);
  }
  /** The seek under way has come to its end. */
  arrive() {
    this.seeking = false;
    this.dispatchEvent(new Event('seeked'));
  }
  go(seconds: number) {
    if (!this.paused) this.at += seconds * this.playbackRate;
  }
  play() {
    this.paused = false;
    return Promise.resolve();
  }
  pause() {
    this.paused = true;
  }
  removeAttribute() {
    this.src = '';
  }
  load() {
    /* nothing to load */
  }
}
class FakeGain {
  value = 0;
  set: number[] = [];
  setTargetAtTime(value: number) {
    this.value = value;
    this.set.push(value);
  }
  setValueAtTime(value: number) {
    this.value = value;
  }
}
const gains = new Map<FakeMedia, FakeGain>();
class FakeContext {
  currentTime = 0;
  outputLatency = 0;
  destination = {};
  createGain() {
    return { gain: new FakeGain(), context: this, connect: () => this.destination };
  }
  createMediaElementSource(element: FakeMedia) {
    return {
      connect: (to: { gain: FakeGain }) => {
        gains.set(element, to.gain);
        return { connect: () => undefined };
      },
    };
  }
  resume() {
    return Promise.resolve();
  }
  close() {
    return Promise.resolve();
  }
}

let frames: (() => void)[] = [];
let now = 0;
/** Lets time go by in frames of a sixtieth of a second; elements that play go on. */
function run(seconds: number) {
  for (let step = 0; step < Math.round(seconds * 60); step++) {
    now += 1000 / 60;
    for (const media of FakeMedia.all) if (!media.seeking) media.go(1 / 60);
    const due = frames;
    frames = [];
    for (const frame of due) frame();
  }
}
const arriveAll = () => {
  for (const media of FakeMedia.all) if (media.seeking) media.arrive();
};

beforeEach(() => {
  [frames, now, FakeMedia.all] = [[], 0, []];
  gains.clear();
  vi.stubGlobal('requestAnimationFrame', (frame: () => void) => frames.push(frame));
  vi.stubGlobal('cancelAnimationFrame', () => {
    frames = [];
  });
  vi.stubGlobal('AudioContext', FakeContext);
  vi.stubGlobal('HTMLVideoElement', FakeMedia);
  vi.stubGlobal('Audio', FakeMedia);
  vi.stubGlobal('document', {
    fonts: { ready: Promise.resolve(), status: 'loaded' },
    createElement: (kind: string) => (kind === 'canvas' ? {} : new FakeMedia()),
  });
  vi.spyOn(performance, 'now').mockImplementation(() => now);
});
afterEach(() => vi.unstubAllGlobals());

const known = new Map<string, Source>(['a', 'b'].map((id) => [id, { id, name: id, durationSeconds: 100 }]));
/** Two seconds of a from 10 on, two of b from 30 on, two of a from 50 on. */
function reelWith(...commands: ReelCommand[]): Reel {
  let next = 0;
  const reel = assembleReel(
    'Test',
    [
      { media: 'a', start: 10, end: 12, name: 'A' },
      { media: 'b', start: 30, end: 32, name: 'B' },
      { media: 'a', start: 50, end: 52, name: 'C' },
    ],
    known,
    rates['25'],
    { width: 1280, height: 720 },
    () => 'ABC'[next++]!,
  );
  return commands.reduce((before, command) => {
    const result = applyCommand(before, command, known);
    if (!result.ok) throw new Error(result.reason);
    return result.reel;
  }, reel);
}
function playerOf(reel: Reel) {
  const player = new ReelPlayer({
    sourceOf: (media) => ({ address: `/media/${media}`, photo: false }),
    tableOf: () => null,
    viewOf: () => null,
  });
  player.setPlan({ rate: reel.rate, reel, pictures: planPictures(reel), sounds: planHeard(reel) });
  return player;
}
const shows = (address: string, near: number) =>
  FakeMedia.all.find((media) => media.src === address && Math.abs(media.currentTime - near) < 0.05);

describe('the reel player', () => {
  it('has what is seen first, and what comes next, standing at their first frames', () => {
    playerOf(reelWith());
    expect([shows('/media/a', 10), shows('/media/b', 30)].every(Boolean)).toBe(true);
  });
  it('plays over cuts without a gap: time goes on evenly, and each piece runs in its own element', async () => {
    const player = playerOf(reelWith());
    arriveAll();
    await player.play();
    const told: number[] = [];
    for (let step = 0; step < 55; step++) {
      run(0.1);
      arriveAll();
      told.push(player.seconds);
    }
    told.forEach((seconds, index) =>
      expect(Math.abs(seconds - (index + 1) * 0.1), `after ${((index + 1) / 10).toFixed(1)} s`).toBeLessThan(0.06),
    );
    const running = FakeMedia.all.filter((media) => !media.paused);
    expect(running.map((media) => media.src)).toEqual(['/media/a']);
    expect(Math.abs(running[0]!.currentTime - 51.5)).toBeLessThan(0.06);
    run(1);
    expect([player.seconds, FakeMedia.all.some((media) => !media.paused)]).toEqual([6, false]);
  });
  it('has the next step ready when steps follow one another, in whatever piece it falls', () => {
    const player = playerOf(reelWith());
    arriveAll();
    const sought = (seconds: number) => {
      const before = new Map(FakeMedia.all.map((media) => [media, media.seeks.length]));
      player.seek(seconds);
      const anew = FakeMedia.all.filter((media) => media.seeks.length > (before.get(media) ?? 0));
      arriveAll();
      // The picture is drawn, then the next step is expected.
      run(0.1);
      arriveAll();
      return anew.map((media) => media.src);
    };
    expect(sought(0.5)).toContain('/media/a');
    expect(sought(1)).toEqual([]);
    expect(sought(1.5)).toEqual([]);
    // The next piece is another file; its element was brought half a second into it.
    expect(sought(2)).toEqual([]);
    expect(sought(2.5)).toEqual([]);
    expect(sought(3.9)).toEqual(['/media/b']);
  });
  it('waits for a picture that is still being sought, and goes on from there', async () => {
    const player = playerOf(reelWith());
    await player.play();
    run(0.5);
    expect(player.seconds).toBeLessThan(0.02);
    arriveAll();
    run(0.5);
    expect(player.seconds).toBeGreaterThan(0.4);
  });
  it('a piece twice as fast runs its element twice as fast, and takes half the time', async () => {
    const player = playerOf(reelWith({ type: 'speed', clip: 'A', percent: 200 }));
    arriveAll();
    await player.play();
    run(0.5);
    const media = FakeMedia.all.find((each) => !each.paused)!;
    expect([media.playbackRate, Math.abs(media.currentTime - 11) < 0.08]).toEqual([2, true]);
    expect(Math.abs(player.seconds - 0.5)).toBeLessThan(0.05);
  });
  it('only what is heard is loud; in the middle of a dissolve both are, with equal power', async () => {
    const player = playerOf(reelWith({ type: 'transition', clip: 'B', into: { kind: 'dissolve', frames: 20 } }));
    arriveAll();
    await player.play();
    run(0.8);
    const level = (address: string) =>
      gains.get(FakeMedia.all.find((media) => media.src === address && !media.paused)!)?.value ?? 0;
    expect([level('/media/a'), level('/media/b')]).toEqual([1, 0]);
    arriveAll();
    for (let step = 0; step < 12 && player.seconds < 1.99; step++) {
      run(0.1);
      arriveAll();
    }
    const [from, to] = [level('/media/a'), level('/media/b')];
    expect(Math.abs(from - to)).toBeLessThan(0.35);
    expect(from ** 2 + to ** 2).toBeCloseTo(1, 1);
  });
  it('a muted piece plays without a sound', async () => {
    const player = playerOf(reelWith({ type: 'sound', clip: 'A', muted: true }));
    arriveAll();
    await player.play();
    run(0.3);
    expect(gains.get(FakeMedia.all.find((media) => !media.paused)!)!.value).toBe(0);
  });
  it('a held frame stands still while time goes on', async () => {
    const player = playerOf(reelWith({ type: 'hold', clip: 'A', at: 0, frames: 25, newId: 'H' }));
    arriveAll();
    await player.play();
    run(0.5);
    expect(Math.abs(player.seconds - 0.5)).toBeLessThan(0.05);
    expect(FakeMedia.all.every((media) => media.paused)).toBe(true);
  });
  it('pausing stops everything where it is', async () => {
    const player = playerOf(reelWith());
    arriveAll();
    await player.play();
    run(1);
    player.pause();
    const at = player.seconds;
    run(1);
    expect([player.seconds, FakeMedia.all.every((media) => media.paused)]).toEqual([at, true]);
  });
});

describe('seeks of a long drag', () => {
  it('let the one under way come to its picture; then only the last one is made', () => {
    const decks = new Decks('video', 5, () => undefined);
    const media = decks.cue('A', '/media/a', 1).element as unknown as FakeMedia;
    for (const seconds of [2, 3, 4]) decks.cue('A', '/media/a', seconds);
    expect(media.seeks.map(Math.round)).toEqual([1]);
    media.arrive();
    run(0.02);
    expect(media.seeks.map(Math.round)).toEqual([1, 4]);
    media.arrive();
    run(0.02);
    expect(media.seeks).toHaveLength(2);
  });
  it('one that is not wanted any more is forgotten', () => {
    const decks = new Decks('video', 5, () => undefined);
    const media = decks.cue('A', '/media/a', 1).element as unknown as FakeMedia;
    decks.cue('A', '/media/a', 2);
    decks.cue('A', '/media/a', 1);
    media.arrive();
    run(0.02);
    expect(media.seeks.map(Math.round)).toEqual([1]);
  });
  it('an element that is free and holds the same file is taken before a new one is opened', () => {
    const decks = new Decks('video', 2, () => undefined);
    const first = decks.cue('A', '/media/a', 1).element;
    decks.cue('B', '/media/b', 1);
    decks.release(new Set(['B']));
    expect(decks.cue('C', '/media/a', 5).element).toBe(first);
    // Both are taken: the one that was used longest ago plays the next piece.
    expect(decks.cue('D', '/media/d', 5).address).toBe('/media/d');
    expect([decks.find('B'), decks.all().length]).toEqual([null, 2]);
  });
});
