import type { Frame } from '#core/framing';
import { describe, expect, it } from 'vitest';
import { applyCommand, assembleReel, clipsOf, type Source } from '#core/reel';
import { rates } from '#core/time';
import { themeWithFaces } from './photoMoves';

const known = new Map<string, Source>([
  ['crew', { id: 'crew', name: 'crew.jpg', durationSeconds: 0, photo: true }],
  ['pond', { id: 'pond', name: 'pond.jpg', durationSeconds: 0, photo: true }],
  ['film', { id: 'film', name: 'film', durationSeconds: 20 }],
]);
const reel = () => {
  let next = 0;
  return assembleReel(
    'Photos',
    [
      { media: 'crew', start: 0, end: 3, name: 'Crew' },
      { media: 'film', start: 2, end: 5, name: 'Film' },
      { media: 'pond', start: 0, end: 3, name: 'Pond' },
      { media: 'crew', start: 0, end: 3, name: 'Crew' },
    ],
    known,
    rates['25'],
    { width: 1280, height: 720 },
    () => 'CFPD'[next++]!,
  );
};
/** Two faces in the upper left of the crew's photo; none on the pond. */
const faces: Frame[] = [
  { x: 0.1, y: 0.1, width: 0.1, height: 0.15 },
  { x: 0.25, y: 0.12, width: 0.1, height: 0.15 },
];
const themed = (theme: string | null, from = reel()) =>
  themeWithFaces(
    from,
    theme,
    (media) => known.get(media)?.photo === true,
    (media) => Promise.resolve(media === 'crew' ? faces : []),
  );
const moves = async (theme: string, from = reel()) => {
  const result = applyCommand(from, await themed(theme, from), known);
  if (!result.ok) throw new Error(result.reason);
  return new Map(clipsOf(result.reel).map((clip) => [clip.id, clip.move]));
};
const holds = (frame: Frame) =>
  faces.every(
    (face) =>
      face.x >= frame.x &&
      face.y >= frame.y &&
      face.x + face.width <= frame.x + frame.width + 1e-9 &&
      face.y + face.height <= frame.y + frame.height + 1e-9,
  );

describe('a theme moves photos by their faces', () => {
  it('towards them and away from them in turn, never cutting one; photos without faces move as the theme has it', async () => {
    const given = await moves('Landing stage');
    const [first, last] = [given.get('C')!, given.get('D')!];
    expect([first, last].every((move) => holds(move.from) && holds(move.to))).toBe(true);
    expect([first.from.width, last.to.width].sort()[1]).toBe(1);
    expect(Math.sign(first.to.width - first.from.width)).toBe(-Math.sign(last.to.width - last.from.width));
    // Near means near the faces: the nearer end lies in their half.
    const near = first.to.width < first.from.width ? first.to : first.from;
    expect(near.x + near.width / 2).toBeLessThan(0.5);
    const plain = applyCommand(reel(), { type: 'theme', theme: 'Landing stage' }, known);
    expect(given.get('P')).toEqual(plain.ok && clipsOf(plain.reel).find((clip) => clip.id === 'P')!.move);
    expect(given.get('F')).toBeUndefined();
  });
  it('a theme that moves nothing, and none, are one edit without moves', async () => {
    expect(await themed('Logbook')).toEqual({ type: 'theme', theme: 'Logbook' });
    expect(await themed(null)).toEqual({ type: 'theme', theme: null });
  });
  it('what was moved by hand keeps its way', async () => {
    const move = { from: { x: 0.1, y: 0.1, width: 0.5, height: 0.5 }, to: { x: 0.3, y: 0.3, width: 0.6, height: 0.6 } };
    const result = applyCommand(reel(), { type: 'stillMove', clip: 'C', move }, known);
    expect((await moves('Landing stage', result.ok ? result.reel : reel())).get('C')).toEqual(move);
  });
});
