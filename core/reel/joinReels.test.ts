import { describe, expect, it } from 'vitest';
import { rates } from '#core/time';
import {
  clipsOf,
  joinReels,
  musicDefaults,
  planHeard,
  reelFrames,
  soundTracks,
  type Clip,
  type Reel,
  type Source,
  type Track,
} from '.';
import { startOf } from './types';

let count = 0;
const makeId = () => `n${count++}`;
const clip = (media: string, frames: number, own: Partial<Clip> = {}): Clip => ({
  kind: 'clip',
  id: makeId(),
  media,
  name: media,
  sourceIn: 0,
  frames,
  ...own,
});
const reel = (name: string, tracks: Track[], own: Partial<Reel> = {}): Reel => ({
  schema: 'BrightReel.Reel.1',
  name,
  rate: rates['25'],
  size: { width: 16, height: 16 },
  tracks,
  ...own,
});
const main = (...items: Track['items']): Track => ({ kind: 'picture', name: 'Main', items });
const sources = new Map<string, Source>([
  ['song', { id: 'song', name: 'song.m4a', durationSeconds: 10, soundOnly: true }],
]);
const opening = reel('opening', [main(clip('a', 50))]);
const ending = reel('ending', [main(clip('c', 25))]);
const sounds = (joined: Reel) =>
  soundTracks(joined).flatMap((track) =>
    track.items.flatMap((item) =>
      item.kind === 'clip' ? [[item.media, startOf(track, item.id), item.frames, item.sourceIn] as const] : [],
    ),
  );

describe('reels one after the other', () => {
  it('a montage in the middle has its music, from its own first frame to its last', () => {
    const montage = reel('montage', [main(clip('b', 100, { muted: true }))], {
      music: {
        ...musicDefaults,
        media: 'song',
        name: 'Song',
        startSeconds: 2,
        levelDb: -3,
        fadeInSeconds: 0.2,
        fadeOutSeconds: 1,
      },
    });
    const joined = joinReels('all', [opening, montage, ending], makeId, sources);
    expect(reelFrames(joined)).toBe(175);
    expect(joined.music).toBeUndefined();
    expect(sounds(joined)).toEqual([['song', 50, 100, 50]]);
    expect(clipsOf(joined).find((each) => each.media === 'song')).toMatchObject({
      levelDb: -3,
      fadeIn: 5,
      fadeOut: 25,
    });
    // Heard there and nowhere else.
    const music = planHeard(joined)[1]!.filter((segment) => segment.gain > 0);
    expect(music.map(({ startFrame, frames }) => [startFrame, frames])).toEqual([[50, 100]]);
  });
  it('music that is shorter than its part begins anew, fading only at its ends', () => {
    const long = reel('long', [main(clip('b', 400))], {
      music: { ...musicDefaults, media: 'song', name: 'Song', startSeconds: 8 },
    });
    const joined = joinReels('all', [opening, long], makeId, sources);
    // Ten seconds are 250 frames; 50 are left from 8 s on.
    expect(sounds(joined)).toEqual([
      ['song', 50, 50, 200],
      ['song', 100, 250, 0],
      ['song', 350, 100, 0],
    ]);
    const [begin, middle, end] = clipsOf(joined).filter((each) => each.media === 'song');
    expect([begin!.fadeIn, begin!.fadeOut, middle!.fadeIn, middle!.fadeOut, end!.fadeIn]).toEqual([
      13,
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
    expect(end!.fadeOut).toBe(63);
  });
  it('music of the first lies under the whole where that is wished', () => {
    const music = { ...musicDefaults, media: 'song', name: 'Song' };
    expect(joinReels('all', [{ ...opening, music }, ending], makeId, sources, 'first')).toMatchObject({
      music,
      tracks: [{ name: 'Main' }],
    });
  });
  it('sounds and pictures beside the main track come along, in step, with what their tracks said', () => {
    const link = makeId();
    const part = reel(
      'part',
      [
        { ...main(clip('b', 60, { link, muted: true })), levelDb: -2 },
        { kind: 'picture', name: 'Above 1', items: [{ kind: 'gap', id: makeId(), frames: 10 }, clip('over', 70)] },
        {
          kind: 'sound',
          name: 'Voice',
          levelDb: -6,
          items: [{ kind: 'gap', id: makeId(), frames: 5 }, clip('voice', 40, { link, levelDb: 1 })],
        },
      ],
      { look: { exposure: 0.5, contrast: 0, saturation: 0, temperature: 0 } },
    );
    const joined = joinReels('twice', [part, opening, part], makeId, sources);
    // The part lasts as long as its longest track of pictures: 80 frames.
    expect(reelFrames(joined)).toBe(80 + 50 + 80);
    const at = (media: string) =>
      joined.tracks.flatMap((track) =>
        track.items.flatMap((item) => (item.kind === 'clip' && item.media === media ? [startOf(track, item.id)] : [])),
      );
    expect([at('b'), at('a'), at('over'), at('voice')]).toEqual([[0, 130], [80], [10, 140], [5, 135]]);
    const voices = clipsOf(joined).filter((each) => each.media === 'voice');
    expect(voices.map((each) => each.levelDb)).toEqual([-5, -5]);
    // The same reel stands there twice; each picture is linked with its own sound.
    const links = clipsOf(joined)
      .filter((each) => each.media === 'b')
      .map((each) => each.link);
    expect([links, new Set(links).size]).toEqual([voices.map((each) => each.link), 2]);
    expect(new Set(joined.tracks.flatMap((track) => track.items.map((item) => item.id))).size).toBe(
      joined.tracks.flatMap((track) => track.items).length,
    );
    expect(
      clipsOf(joined)
        .filter((each) => each.look)
        .map((each) => each.media)
        .sort(),
    ).toEqual(['b', 'b', 'over', 'over']);
  });
  it('titles stand over the part they belong to', () => {
    const titled = { ...ending, titles: [{ id: 't', kind: 'end' as const, frame: 5, frames: 20, text: 'See you' }] };
    expect(joinReels('all', [titled, opening, titled], makeId, sources).titles).toMatchObject([
      { frame: 5 },
      { frame: 80 },
    ]);
  });
});
