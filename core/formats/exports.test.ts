import { describe, expect, it } from 'vitest';
import { approximateCanvas, captionDefaults, captionFonts, captionsAss } from '#core/captions';
import {
  musicDefaults,
  reelFrames,
  transitionKinds,
  type Clip,
  type Reel,
  type ReelItem,
  type Track,
} from '#core/reel';
import { seededRandom, type Random } from '#core/signal';
import { hasDropFrame, rates, type Rate } from '#core/time';
import type { Word } from '#core/words';
import {
  captionCues,
  captionTracks,
  readEdl,
  readOtio,
  wordsInReel,
  writeAss,
  writeChapters,
  writeEdl,
  writeOtio,
  writePieces,
  writeSrt,
  writeVtt,
  type SourceInfo,
} from '.';

const infos: SourceInfo[] = [
  { id: 'film', name: 'race day.mp4', hash: 'h1', durationSeconds: 100 },
  { id: 'photo', name: 'paper, "sails".jpg', hash: null, durationSeconds: 0, photo: true },
  { id: 'voice', name: 'voice.wav', hash: 'h3', durationSeconds: 60, soundOnly: true },
];
const words: Word[] = Array.from({ length: 90 }, (_, index) => ({
  text: index % 7 ? 'paddle' : '{\\b1}<b>&',
  start: index,
  end: index + 0.8,
  confidence: 1,
}));
const odd: Rate[] = [
  ...Object.values(rates),
  { num: 12, den: 1 },
  { num: 25, den: 2 },
  { num: 120_000, den: 1001 },
  { num: 240, den: 1 },
  { num: 1, den: 1 },
];

/** Any reel that passes the checks of what is saved, also such as no edit of ours would make. */
function anyReel(random: Random): Reel {
  const below = (count: number) => Math.floor(random() * count);
  const one = <T>(list: readonly T[]): T => list[below(list.length)]!;
  const maybe = <T>(value: T, share = 0.4): T | undefined => (random() < share ? value : undefined);
  const clip = (kind: Track['kind'], id: string): Clip => {
    const media = kind === 'sound' ? one(['film', 'voice']) : one(['film', 'film', 'photo', 'gone']);
    return {
      kind: 'clip',
      id,
      media,
      name: one(['A', 'two\nlines', '“quoted”', '']),
      frames: 1 + below(90),
      sourceIn: media === 'photo' ? 0 : one([0, 0, 1, below(2000), below(200_000) / 100]),
      ...(maybe(1) ? { into: { kind: one(transitionKinds), frames: 2 + below(60) } } : {}),
      ...(maybe(1) ? { speed: one([0, 25, 33, 100, 400]) } : {}),
      ...(maybe(1) ? { fadeIn: below(200), fadeOut: below(200) } : {}),
      ...(maybe(1) ? { muted: true } : {}),
      ...(maybe(1) ? { levelDb: -60 + below(80) } : {}),
    };
  };
  const track = (kind: Track['kind'], name: string): Track => ({
    kind,
    name,
    ...(maybe(1) ? { muted: true } : {}),
    items: Array.from({ length: below(7) }, (_, index): ReelItem =>
      random() < 0.2 ? { kind: 'gap', id: `${name}${index}`, frames: 1 + below(50) } : clip(kind, `${name}${index}`),
    ),
  });
  const tracks = [
    track('picture', 'Main'),
    ...Array.from({ length: below(3) }, (_, index) => track('picture', `Above ${index}`)),
    ...Array.from({ length: below(3) }, (_, index) => track('sound', `Sound ${index}`)),
  ];
  return {
    schema: 'BrightReel.Reel.1',
    name: one(['Pond', 'a\r\nb', '']),
    rate: one(odd),
    size: { width: 16 + below(4000), height: 16 + below(4000) },
    tracks,
    ...(maybe(1) ? { music: { ...musicDefaults, media: 'voice', name: 'song', startSeconds: below(100) } } : {}),
    ...(maybe(1) ? { captions: captionDefaults } : {}),
    ...(maybe(1) ? { markers: [{ id: 'm', frame: below(500), note: 'a, "b"' }] } : {}),
    ...(maybe(1)
      ? { titles: [{ id: 't', kind: 'lower' as const, frame: below(500), frames: 2 + below(90), text: 'The builder' }] }
      : {}),
  };
}

describe('no document that can be saved makes an export fail', () => {
  const reels = Array.from({ length: 1500 }, (_, seed) => anyReel(seededRandom(seed + 1)));
  let next = 0;
  const makeId = () => `n${next++}`;

  it('edit decision lists, which can be read again and whose times never go back', () => {
    for (const reel of reels) {
      for (const drop of hasDropFrame(reel.rate) ? [true, false] : [false]) {
        const text = writeEdl(reel, infos, { drop });
        // Levels alone may lie below nothing.
        expect(text.replace(/^\* LEVEL: .*$/gm, '')).not.toMatch(/NaN|undefined|-\d/);
        // A reel of nothing, or of sounds under no picture, has no picture to read again.
        if (reel.rate.num / reel.rate.den <= 60 && /^\d{3,} {2}\S+\s+[BV] /m.test(text))
          expect(readEdl(text, reel.rate, makeId).tracks.length).toBeGreaterThan(0);
      }
    }
  });
  it('a dissolve into a photo, and into a film that starts with its first frame', () => {
    for (const media of ['photo', 'film']) {
      const clip = (id: string, own: Partial<Clip>): Clip => ({
        kind: 'clip',
        id,
        media: 'film',
        name: id,
        sourceIn: 100,
        frames: 50,
        ...own,
      });
      const reel: Reel = {
        schema: 'BrightReel.Reel.1',
        name: 'x',
        rate: rates['25'],
        size: { width: 16, height: 16 },
        tracks: [
          {
            kind: 'picture',
            name: 'Main',
            items: [clip('a', {}), clip('b', { media, sourceIn: 0, into: { kind: 'dissolve', frames: 20 } })],
          },
        ],
      };
      // By hand: the dissolve begins ten frames before the cut at frame 50; what lies before the source's beginning is its first frame.
      expect(writeEdl(reel, infos)).toMatch(
        /002 {2}\w+\s+B {5}D {4}020 00:00:00:00 00:00:02:10 01:00:01:15 01:00:04:00/,
      );
    }
  });
  it('OpenTimelineIO keeps every piece and its length', () => {
    for (const reel of reels)
      expect(reelFrames({ ...reel, ...(readOtio(writeOtio(reel, infos), makeId) as object) })).toBe(reelFrames(reel));
  });
  it('tables, chapters and captions', () => {
    for (const reel of reels) {
      const heard = wordsInReel(reel, (media) => (media === 'film' ? words : []));
      const cues = captionCues(heard, reel.captions?.letters);
      const texts = [
        writePieces(reel, infos),
        writeChapters(reel),
        writeSrt(cues),
        writeVtt(cues),
        writeAss(cues, reel.size),
      ];
      if (reel.captions)
        texts.push(
          captionsAss(
            approximateCanvas(),
            captionTracks(reel, { wordsOf: (media) => (media === 'film' ? words : []) }),
            reel.size,
            captionFonts[reel.captions.font].family,
          ),
        );
      for (const text of texts) expect(text).not.toMatch(/NaN|undefined/);
    }
  });
});
