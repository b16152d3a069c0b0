// @vitest-environment jsdom
import { act, renderHook } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import {
  applyCommand,
  assembleReel,
  clipsOf,
  musicDefaults,
  reelFrames,
  type Reel,
  type ReelCommand,
  type Source,
} from '#core/reel';
import { rates } from '#core/time';
import { useMusicFit } from './useMusicFit';
import type { ReelDesk } from './useReelDesk';

const said: string[] = [];
vi.mock('sonner', () => ({ toast: (sentence: string) => said.push(sentence) }));
vi.mock('../readings/useReadings', () => ({ fetchReadings: () => Promise.resolve([]) }));

const sources = new Map<string, Source>([
  ['pond', { id: 'pond', name: 'pond.mp4', durationSeconds: 12 }],
  ['race', { id: 'race', name: 'race.mp4', durationSeconds: 60 }],
  ['song', { id: 'song', name: 'song.m4a', durationSeconds: 40, soundOnly: true }],
]);
let count = 0;
const makeId = () => `00000000-0000-4000-8000-${String(++count).padStart(12, '0')}`;
const reel: Reel = {
  ...assembleReel(
    'Race',
    [
      { media: 'pond', start: 0, end: 6, name: 'a' },
      { media: 'pond', start: 6, end: 12, name: 'b' },
    ],
    sources,
    rates['25'],
    { width: 1280, height: 720 },
    makeId,
  ),
  music: { ...musicDefaults, media: 'song', name: 'Song' },
};
const beats = Array.from({ length: 80 }, (_, index) => index / 2);

function open() {
  const edits: ReelCommand[] = [];
  const desk = {
    live: { edit: (command: ReelCommand) => edits.push(command) > 0 },
    musicBeats: { media: 'song', beats, bars: beats },
    sources,
    reel: { id: 'r', projectId: 'p' },
    readings: [],
    total: 12,
  } as unknown as ReelDesk;
  const { result } = renderHook(() => useMusicFit(desk, reel, 40));
  const after = () => {
    const made = applyCommand(reel, edits[0]!, sources);
    if (!made.ok) throw new Error(made.reason);
    return made.reel;
  };
  return { edits, after, fit: () => act(async () => void result.current.fit()) };
}

describe('a reel brought to the length of its music', () => {
  const asked: unknown[] = [];
  let answer = () => Promise.resolve(Response.json({ pieces: [] as unknown[] }));
  beforeEach(() => {
    said.length = 0;
    asked.length = 0;
    vi.stubGlobal('fetch', (_: string, init: RequestInit) => {
      asked.push(JSON.parse(init.body as string));
      return answer();
    });
  });
  afterEach(() => vi.unstubAllGlobals());

  it('picks others where its pieces have no more to show, in one step, and says so', async () => {
    answer = () =>
      Promise.resolve(
        Response.json({
          pieces: [
            { media: 'race', start: 10, end: 24, name: 'c' },
            { media: 'race', start: 30, end: 44, name: 'd' },
          ],
        }),
      );
    const { edits, after, fit } = open();
    await fit();
    await vi.waitFor(() => expect(edits).toHaveLength(1));
    // 40 s of music, 12 s of pieces: 28 s are asked for, none of what is shown.
    expect(asked).toMatchObject([
      {
        seconds: 28,
        used: [
          { media: 'pond', start: 0, end: 6 },
          { media: 'pond', start: 6 },
        ],
      },
    ]);
    expect(reelFrames(after())).toBe(1000);
    expect(clipsOf(after()).map(({ name }) => name)).toEqual(['a', 'c', 'd', 'b']);
    expect(said[0]).toMatch(/^2 pieces picked to fill it.*The reel ends with the music/);
  });
  it('with the server away does what it can', async () => {
    answer = () => Promise.reject(new TypeError('away'));
    const { edits, fit } = open();
    await fit();
    await vi.waitFor(() => expect(said).toHaveLength(1));
    expect(edits.length).toBeLessThanOrEqual(1);
    expect(said[0]).toMatch(/still lasts 0:28 longer|every cut lies on a beat/);
  });
});
