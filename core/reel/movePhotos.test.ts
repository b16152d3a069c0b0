import { expect, it } from 'vitest';
import { rates } from '#core/time';
import { assembleReel, movePhotos, type Source } from '.';

it('photos move towards their faces and away by turns; films and what moves already stay as they are', () => {
  const source = (id: string, photo: boolean): [string, Source] => [
    id,
    { id, name: id, durationSeconds: photo ? 0 : 10, photo, soundOnly: false },
  ];
  const sources = new Map([source('film', false), source('one', true), source('two', true)]);
  let next = 0;
  const piece = (media: string) => ({ media, start: 0, end: 4, name: media });
  const reel = assembleReel(
    'Pond',
    [piece('one'), piece('film'), piece('two')],
    sources,
    rates['25'],
    { width: 1280, height: 720 },
    () => `c${next++}`,
  );
  const face = { x: 0.7, y: 0.2, width: 0.1, height: 0.2 };
  const moved = movePhotos(reel, (media) => (media === 'film' ? null : media === 'one' ? [face] : []));
  const [one, film, two] = moved.tracks[0]!.items as { move?: { from: typeof face; to: typeof face } }[];
  // The first ends with its face well inside; the second, without faces, begins near and ends whole.
  expect(one!.move!.from.width).toBe(1);
  const { to } = one!.move!;
  expect(to.x).toBeLessThan(face.x);
  expect(to.x + to.width).toBeGreaterThan(face.x + face.width);
  expect(to.width).toBeLessThan(0.7);
  expect(two!.move!.from.width).toBeLessThan(1);
  expect(two!.move!.to.width).toBe(1);
  expect(film).not.toHaveProperty('move');
  expect(movePhotos(moved, (media) => (media === 'film' ? null : []))).toEqual(moved);
});
