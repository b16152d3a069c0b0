import { describe, expect, it } from 'vitest';
import { captionDefaults } from '#core/captions';
import { rates } from '#core/time';
import { malformedAt, musicDefaults, type Clip, type Reel } from '.';

const id = crypto.randomUUID();
const reel: Reel = {
  schema: 'BrightReel.Reel.1',
  name: 'Pond; [a]=b',
  rate: rates['29.97'],
  size: { width: 1280, height: 720 },
  loudnessLufs: -16,
  theme: 'Logbook',
  captions: captionDefaults,
  tracks: [
    {
      kind: 'picture',
      name: 'Main',
      items: [
        {
          kind: 'clip',
          id,
          media: id,
          name: "it's; drawtext",
          sourceIn: 1.25,
          frames: 20,
          speed: 50,
          into: { kind: 'dissolve', frames: 8 },
          look: { exposure: 0.1, contrast: 0, saturation: 0, temperature: 0, named: 'Ember', lut: id },
          framing: { subject: 'face:20.0', zoom: 1, keys: [], path: [[0, 0.5, 0.5]], follows: 'the speaker' },
          link: 'l',
          slot: 's',
          levelDb: -3,
          muted: true,
          fadeIn: 1,
          fadeOut: 2,
          fit: 'fill',
          move: { from: { x: 0, y: 0, width: 1, height: 1 }, to: { x: 0.1, y: 0.1, width: 0.5, height: 0.5 } },
          steady: { position: 0.5, rotation: 0.2, scale: 0, edges: 'crop' },
          reason: '74 of 100: 2 faces, close; a few words',
          // A new field of a clip does not compile here before it is listed.
        } satisfies Required<Clip>,
        { kind: 'gap', id, frames: 3 },
      ],
    },
  ],
  music: { ...musicDefaults, media: id, name: 'song' },
  markers: [{ id, frame: 3, note: 'a:b' }],
  titles: [{ id, kind: 'end', frame: 0, frames: 9, text: 'x', sub: 'y' }],
  logo: { media: id, corner: 'top left', size: 0.2, opacity: 0.9 },
  moved: [{ clip: { kind: 'clip', id, media: id, name: 'm', sourceIn: 0, frames: 2 }, before: null }],
};
const changed = (change: (copy: Record<string, never>) => void): Reel => {
  const copy = structuredClone(reel);
  change(copy as unknown as Record<string, never>);
  return copy;
};

describe('what a renderer may be given', () => {
  it('every reel that edits make, whatever people write into names and titles', () =>
    expect(malformedAt(reel)).toBeNull());
  it.each([
    ['logo.opacity', '0.5[x];movie=/etc/passwd'],
    ['logo.corner', 'top left,drawtext'],
    ['size.width', '1280'],
    ['rate.num', Number.NaN],
    ['rate.den', Infinity],
    ['tracks.0.items.0.frames', '20,metadata=print:file=/tmp/x'],
    ['tracks.0.items.0.into.kind', 'fade:x'],
    ['tracks.0.items.0.framing.path.0.1', '0.5'],
    ['tracks.0.kind', 'movie'],
    ['titles.0.frame', '[object Object]'],
    ['captions.colour', 'red'],
    ['captions.font', 'Arial:x'],
    ['music.levelDb', '-12'],
    ['name', 12],
    ['tracks.0.items.0.speed', () => 1],
  ])('not a text where a number or one of a few words belongs: %s', (path, value) => {
    const bad = changed((copy) => {
      const parts = path.split('.');
      const last = parts.pop()!;
      const holder = parts.reduce((at, part) => at[part]!, copy) as Record<string, unknown>;
      holder[last] = value;
    });
    expect(malformedAt(bad)).toBe(path);
  });
});
