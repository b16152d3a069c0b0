import { describe, expect, it } from 'vitest';
import { takeUp, type Carried, type Clip, type Reel, type Source } from '#core/reel';
import { rates } from '#core/time';
import { readCarried, writeCarried } from './clipping';
import { FormatError, type SourceInfo } from './source';

const sources = new Map<string, Source & SourceInfo>(
  [
    { id: 'film', name: 'pond.mp4', hash: 'aa', durationSeconds: 60 },
    { id: 'photo', name: 'crew.jpg', hash: 'bb', durationSeconds: 0, photo: true },
    { id: 'recorder', name: 'voice.wav', hash: 'cc', durationSeconds: 90, soundOnly: true },
  ].map((each) => [each.id, each]),
);
const clip = (id: string, media: string, own: Partial<Clip> = {}): Clip => ({
  kind: 'clip',
  id,
  media,
  name: `piece ${id}`,
  sourceIn: 50,
  frames: 75,
  ...own,
});
const reel: Reel = {
  schema: 'BrightReel.Reel.1',
  name: 'Pond',
  rate: rates['29.97'],
  size: { width: 1280, height: 720 },
  tracks: [
    {
      kind: 'picture',
      name: 'Main',
      items: [
        clip('a', 'film', { speed: 50, levelDb: -6, link: 'a', fadeIn: 5 }),
        { kind: 'gap', id: 'g', frames: 20 },
        clip('b', 'photo', { muted: true, into: { kind: 'dissolve', frames: 10 } }),
        clip('c', 'film', { steady: { position: 0.5, rotation: 0.5, scale: 0.2, edges: 'crop' } }),
      ],
    },
    {
      kind: 'sound',
      name: 'Recorder',
      items: [{ kind: 'gap', id: 'h', frames: 6 }, clip('s', 'recorder', { link: 'a', frames: 60 })],
    },
  ],
};
/** What belongs to the pieces themselves. */
const bare = ({ pieces, rate }: Carried) => ({
  rate,
  pieces: pieces.map(({ clip: { id: _, link: __, into: ___, ...own }, sounds, soundOnly }) => ({
    own,
    soundOnly,
    sounds: sounds.map(({ clip: sound, offset }) => [sound.media, sound.sourceIn, sound.frames, offset]),
  })),
});
let ids = 0;
const newId = () => `n${ids++}`;

describe('pieces on the clipboard', () => {
  it('come back as they were: speed, level, fades, steadying, and their separate sounds in step', () => {
    const carried = takeUp(reel, new Set(['a', 'b', 'c', 's']));
    const text = writeCarried(carried, sources, newId)!;
    const back = readCarried(text, sources, newId);
    expect(back.missing).toEqual([]);
    expect(bare(back.carried)).toEqual(bare(carried));
    expect(bare(back.carried).pieces[0]!.sounds).toEqual([['recorder', 50, 60, 6]]);
  });
  it('a sound by itself stays one', () => {
    const carried = takeUp(reel, new Set(['s']));
    const back = readCarried(writeCarried(carried, sources, newId)!, sources, newId);
    expect(back.carried.pieces.map(({ soundOnly, clip: own }) => [soundOnly, own.media])).toEqual([[true, 'recorder']]);
  });
  it('of another project are found by their content, and what is not there is named', () => {
    const text = writeCarried(takeUp(reel, new Set(['a', 'b'])), sources, newId)!;
    const elsewhere = new Map([['x', { ...sources.get('film')!, id: 'x', name: 'renamed.mp4' }]]);
    const { carried, missing } = readCarried(text, elsewhere, newId);
    expect(carried.pieces.map((piece) => piece.clip.media)).toEqual(['x']);
    expect(missing).toEqual(['voice.wav', 'crew.jpg'].sort((a, b) => missing.indexOf(a) - missing.indexOf(b)));
  });
  it('nothing gives nothing, and what is no timeline is refused', () => {
    expect(writeCarried({ pieces: [], rate: rates['25'] }, sources, newId)).toBeNull();
    for (const text of ['', 'boats', '[]', '{"OTIO_SCHEMA":"Clip.2"}'])
      expect(() => readCarried(text, sources, newId)).toThrow(FormatError);
  });
});
