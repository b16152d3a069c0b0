import { describe, expect, it } from 'vitest';
import { faceTracks, groupPeople, planes, showsWho, type FaceBox, type FaceSample, type LookedTrack } from '.';
import { isPassing, sizeClass } from './tracks';

const face = (x: number, more: Partial<FaceBox> = {}): FaceBox => ({
  x,
  y: 0.3,
  width: 0.1,
  height: 0.18,
  score: 0.95,
  ...more,
});
const samples = (seconds: number, of: (t: number) => FaceBox[]): FaceSample[] =>
  Array.from({ length: seconds * 2 }, (_, index) => ({ time: index / 2, boxes: of(index / 2) }));

describe('face tracks', () => {
  it('follows a face that walks, places entry and exit half way between samples', () => {
    const tracks = faceTracks(
      samples(10, (t) => (t >= 2 && t <= 6 ? [face(0.1 + 0.05 * (t - 2))] : [])),
      [],
      10,
    );
    expect(tracks).toHaveLength(1);
    expect([tracks[0]!.start, tracks[0]!.end, tracks[0]!.boxes.length]).toEqual([1.75, 6.25, 9]);
  });
  it('keeps two faces apart that pass each other, and bridges a missed sample', () => {
    const tracks = faceTracks(
      samples(8, (t) => [face(0.1 + 0.04 * t), ...(t === 3 ? [] : [face(0.7 - 0.04 * t, { y: 0.6 })])]),
      [],
      8,
    );
    expect(tracks.map((track) => track.boxes.length).sort()).toEqual([15, 16]);
  });
  it('a cut ends a track exactly at the cut', () => {
    const tracks = faceTracks(
      samples(6, () => [face(0.4)]),
      [3.1],
      6,
    );
    expect(tracks.map(({ start, end }) => [start, end])).toEqual([
      [0, 3.1],
      [3.1, 6],
    ]);
  });
  it('another face at the same place begins another track', () => {
    const tracks = faceTracks(
      samples(4, (t) => [face(0.4, { descriptor: t < 2 ? [0, 0] : [1, 0] })]),
      [],
      4,
    );
    expect(tracks).toHaveLength(2);
    expect(tracks.map((track) => track.descriptor)).toEqual([
      [0, 0],
      [1, 0],
    ]);
  });
  it('a single weak box is a passing mistake', () => {
    expect(
      isPassing(
        faceTracks(
          samples(3, (t) => (t === 1 ? [face(0.4, { score: 0.6 })] : [])),
          [],
          3,
        )[0]!,
      ),
    ).toBe(true);
  });
  it('a face out of focus does not say who it is', () => {
    const [track] = faceTracks(
      samples(6, () => [face(0.4, { descriptor: [0, 1] })]),
      [],
      6,
    );
    expect([
      showsWho(track!, []),
      showsWho(track!, [{ start: 0, end: 2 }]),
      showsWho(track!, [{ start: 0, end: 4 }]),
    ]).toEqual([true, true, false]);
  });
  it('sizes: close, medium, wide', () =>
    expect([sizeClass(0.4), sizeClass(0.2), sizeClass(0.06)]).toEqual(['close', 'medium', 'wide']));
});

describe('people', () => {
  const track = (key: string, start: number, descriptor: number[], media = 'm'): LookedTrack => ({
    key,
    media,
    start,
    end: start + 2,
    descriptor,
  });
  it('joins what looks alike and keeps apart what does not, longest first', () => {
    const groups = groupPeople([
      track('a1', 0, [0, 0]),
      track('b1', 0.5, [1, 0]),
      track('a2', 10, [0.1, 0]),
      track('a3', 4, [0, 0.1], 'n'),
      track('b2', 20, [1, 0.1]),
    ]);
    expect(groups.map((group) => group.tracks)).toEqual([
      ['a1', 'a2', 'a3'],
      ['b1', 'b2'],
    ]);
  });
  it('two faces in one picture are two persons however alike they look', () => {
    expect(groupPeople([track('twin1', 0, [0, 0]), track('twin2', 0.5, [0, 0])])).toHaveLength(2);
  });
  it('what a person decided stays: named ones are never joined, others may join them', () => {
    const all = [track('a1', 0, [0, 0]), track('a2', 10, [0.05, 0]), track('a3', 20, [0.02, 0])];
    const groups = groupPeople(all, [
      { id: 'p', tracks: ['a1'] },
      { id: 'q', tracks: ['a2'] },
    ]);
    expect(groups.map((group) => group.id).sort()).toEqual(['p', 'q']);
    expect(groups.flatMap((group) => group.tracks).sort()).toEqual(['a1', 'a2', 'a3']);
    expect(groups.find((group) => group.id === 'p')!.tracks).toContain('a1');
  });
});

it('planes: halves a picture by means, keeps colours in their planes, is black outside', () => {
  const data = new Uint8Array(4 * 4 * 3);
  for (let pixel = 0; pixel < 16; pixel++) data.set([pixel % 4 < 2 ? 100 : 200, 50, pixel < 8 ? 0 : 80], pixel * 3);
  const out = planes({ width: 4, height: 4, data }, { x: 0, y: 0, width: 1, height: 1 }, 2, 2);
  // By hand: a triangle two pixels wide to each side weighs .125, .375, .375, .125; the outermost tap lies in the black.
  expect(out[0]).toBeCloseTo((100 * 0.75 + 200 * 0.125) * 0.875, 3);
  expect(out[1]).toBeCloseTo((100 * 0.125 + 200 * 0.75) * 0.875, 3);
  for (let at = 4; at < 8; at++) expect(out[at]).toBeCloseTo(50 * 0.875 ** 2, 3);
  const beside = planes({ width: 4, height: 4, data }, { x: 1, y: 0, width: 1, height: 1 }, 2, 2);
  expect(beside[1]).toBe(0);
});
