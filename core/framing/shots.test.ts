import { describe, expect, it } from 'vitest';
import type { FaceTrack } from '#core/picture';
import { shotsToWatch, type Watched } from '.';

const track = (start: number, end: number) => ({ start, end }) as FaceTrack;
/** Three shots: 0 to 4, 4 to 8, 8 to 12; two faces in the second and the third. */
const watched: Pick<Watched, 'tracks' | 'cuts' | 'mouths'> = {
  cuts: [4, 8],
  tracks: [track(0, 12), track(4, 8), track(8.5, 12)],
  mouths: [],
};

describe('shots in which somebody has to be chosen', () => {
  it('are whole shots with two faces that a piece shows', () => {
    expect(shotsToWatch(watched, [{ start: 0, end: 12 }], 12)).toEqual([
      { start: 4, end: 8 },
      { start: 8, end: 12 },
    ]);
    expect(shotsToWatch(watched, [{ start: 1, end: 5 }], 12)).toEqual([{ start: 4, end: 8 }]);
    expect(shotsToWatch(watched, [{ start: 0, end: 4 }], 12)).toEqual([]);
  });
  it('not such as were watched already', () => {
    const mouths = [{ track: '0', start: 4.01, hz: 10, values: new Float32Array(1) }];
    expect(shotsToWatch({ ...watched, mouths }, [{ start: 0, end: 12 }], 12)).toEqual([{ start: 8, end: 12 }]);
  });
  it('a glimpse of a second face is none, nor is a flash of a shot', () => {
    const glimpse = { ...watched, tracks: [track(0, 12), track(4, 4.15)] };
    expect(shotsToWatch(glimpse, [{ start: 0, end: 12 }], 12)).toEqual([]);
    const flash = { ...watched, cuts: [4, 4.25], tracks: [track(0, 12), track(4, 4.25)] };
    expect(shotsToWatch(flash, [{ start: 0, end: 12 }], 12)).toEqual([]);
  });
});
