import { describe, expect, it } from 'vitest';
import { shownSize } from '#core/picture';
import type { StoredProbe } from '#data/schema';
import { codingOfStored } from './storedProbe';

const photo: StoredProbe = {
  kind: 'photo',
  durationSeconds: 0,
  rate: null,
  width: 300,
  height: 400,
  orientation: 6,
  hasSound: false,
  videoCodec: 'mjpeg',
  audioCodec: null,
  format: 'image2',
};

describe('how pictures are coded that an earlier version read', () => {
  it('a photo lies as was noted, and is shown as large as was noted', () => {
    const coding = codingOfStored(photo)!;
    expect(coding).toMatchObject({
      still: true,
      orientation: 6,
      width: 400,
      height: 300,
      matrix: 'bt601',
      fullRange: true,
    });
    expect(shownSize(coding)).toEqual({ width: 300, height: 400 });
    expect(codingOfStored({ ...photo, orientation: 1, videoCodec: 'png' })).toMatchObject({
      width: 300,
      matrix: 'rgb',
    });
  });
  it('of films nothing was noted; what is noted now stands', () => {
    expect(codingOfStored({ ...photo, kind: 'video' })).toBeNull();
    const coding = codingOfStored(photo)!;
    expect(codingOfStored({ ...photo, coding: { ...coding, orientation: 3 } })!.orientation).toBe(3);
    expect(codingOfStored({ ...photo, coding: null })).toBeNull();
  });
});
