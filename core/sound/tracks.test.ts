import { describe, expect, it } from 'vitest';
import {
  channelsOf,
  hasChoice,
  proposeSound,
  readSoundChoice,
  writeSoundChoice,
  type HeardChannel,
  type SoundTrack,
} from '.';

const track = (channels: number, layout: string | null = null): SoundTrack => ({
  channels,
  layout,
  codec: 'aac',
  sampleRate: 48_000,
  language: null,
  title: null,
});
const all = (of: number) => ({ track: of, channel: null });
const heard = (of: number, channel: number, speech: number, level = -25, clarity = 20): HeardChannel => ({
  track: of,
  channel,
  speech,
  clarity,
  level,
});

describe('choices as text', () => {
  it.each([
    ['0', [all(0)]],
    ['1.0+2', [{ track: 1, channel: 0 }, all(2)]],
    ['-', []],
  ])('%s', (text, choice) => {
    expect(readSoundChoice(text)).toEqual(choice);
    expect(writeSoundChoice(choice)).toBe(text);
  });
  it.each(['', '+', '0.', '1,2', '0;1', '100', '-1'])('“%s” is none', (text) =>
    expect(readSoundChoice(text)).toBeNull(),
  );
  it('are held against what a file has', () => {
    const tracks = [track(2), track(1)];
    expect(hasChoice(tracks, [{ track: 0, channel: 1 }, all(1)])).toBe(true);
    expect(hasChoice(tracks, [all(2)])).toBe(false);
    expect(hasChoice(tracks, [{ track: 1, channel: 1 }])).toBe(false);
    expect(hasChoice(tracks, [all(1), all(1)])).toBe(false);
  });
  it('one channel is measured as one, more as two', () => {
    const tracks = [track(6), track(1)];
    expect(
      [[all(0)], [all(1)], [{ track: 0, channel: 3 }], [all(1), all(0)]].map((choice) => channelsOf(tracks, choice)),
    ).toEqual([2, 1, 1, 2]);
  });
});

describe('what is proposed', () => {
  it('the track in which somebody speaks', () =>
    expect(proposeSound([track(1), track(1)], [heard(0, 0, 0.02), heard(1, 0, 0.6)])).toEqual([all(1)]));
  it('the first of two that are nearly alike: a camera and its backup', () =>
    expect(proposeSound([track(1), track(1)], [heard(0, 0, 0.6), heard(1, 0, 0.62)])).toEqual([all(0)]));
  it('the clearer of two that hear the same voice', () =>
    expect(proposeSound([track(1), track(1)], [heard(0, 0, 0.6, -30, 4), heard(1, 0, 0.6, -24, 22)])).toEqual([
      all(1),
    ]));
  it('one channel of a recorder, but all of a surround track', () => {
    const four = [heard(0, 0, 0), heard(0, 1, 0.7), heard(0, 2, 0.1), heard(0, 3, 0)];
    expect(proposeSound([track(4)], four)).toEqual([{ track: 0, channel: 1 }]);
    expect(proposeSound([track(6, '5.1(side)')], [...four, heard(0, 4, 0), heard(0, 5, 0)])).toEqual([all(0)]);
  });
  it('one side of stereo only when the other holds nothing', () => {
    expect(proposeSound([track(2)], [heard(0, 0, 0.6), heard(0, 1, 0.1, -35)])).toEqual([all(0)]);
    expect(proposeSound([track(2)], [heard(0, 0, 0.6), heard(0, 1, 0, -90)])).toEqual([{ track: 0, channel: 0 }]);
    // Also where nobody listened for voices.
    const level = (channel: number, db: number) => ({ ...heard(0, channel, 0, db), speech: null });
    expect(proposeSound([track(2)], [level(0, -90), level(1, -20)])).toEqual([{ track: 0, channel: 1 }]);
    expect(proposeSound([track(2)], [level(0, -40), level(1, -20)])).toEqual([all(0)]);
  });
  it('without any speech the first that sounds; without any sound the first', () => {
    expect(proposeSound([track(1), track(1)], [heard(0, 0, 0, -95), heard(1, 0, 0, -20)])).toEqual([all(1)]);
    expect(proposeSound([track(1), track(1)], [heard(0, 0, 0, -95), heard(1, 0, 0, -95)])).toEqual([all(0)]);
  });
});
