import { join } from 'node:path';
import { expect, it } from 'vitest';
import { steadyingPrice } from '#core/framing';
import { MotionEstimator, type CameraPath } from '#core/picture';
import { applyCommand, assembleReel, type Source } from '#core/reel';
import { rates } from '#core/time';
import { renderReel } from './render';
import { decodeGray, ffmpeg, realPicture, testFolder } from '../testMedia';

const folder = testFolder();
const hz = 25;

/** How the picture of a film moves, as the reading measures it. */
function pathOf(file: string): CameraPath {
  const estimator = new MotionEstimator();
  const grey = decodeGray(file, 320, 180);
  const motions = Array.from({ length: grey.length / (320 * 180) }, (_, frame) =>
    estimator.next({ width: 320, height: 180, data: grey.slice(frame * 320 * 180, (frame + 1) * 320 * 180) }),
  );
  const of = (key: 'dx' | 'dy' | 'rotation' | 'zoom' | 'confidence') =>
    Float32Array.from(motions, (motion) => motion[key]);
  return {
    hz,
    dx: of('dx'),
    dy: of('dy'),
    rotation: of('rotation'),
    zoom: of('zoom'),
    confidence: of('confidence'),
    cuts: [],
  };
}
const rms = (values: Float32Array) =>
  Math.sqrt(values.slice(10, -10).reduce((sum, value) => sum + value * value, 0) / (values.length - 20));

// Real picture of Debian's opencv-doc, shaken by a known hand: 3 and 5 Hz, 1.5 % of the width, and turned by half a degree.
it('a shaken film comes out steady, and shows no border', async () => {
  const shaken = join(folder, 'shaken.mp4');
  ffmpeg(
    '-loop',
    '1',
    '-framerate',
    String(hz),
    '-t',
    '4',
    '-i',
    realPicture('building.jpg'),
    '-vf',
    `scale=1000:-2,rotate='0.009*sin(2*PI*2.3*t)',crop=640:360:'(iw-640)/2+10*sin(2*PI*3*t)':'(ih-360)/2+8*cos(2*PI*5*t)'`,
    '-pix_fmt',
    'yuv420p',
    '-crf',
    '14',
    shaken,
  );
  const before = pathOf(shaken);
  const source: Source = { id: 's', name: 's.mp4', durationSeconds: 4 };
  const known = new Map([['s', source]]);
  const plain = assembleReel(
    'Steady',
    [{ media: 's', start: 0, end: 4, name: 'S' }],
    known,
    rates['25'],
    { width: 640, height: 360 },
    () => 'S',
  );
  const result = applyCommand(
    plain,
    { type: 'steady', clip: 'S', steady: { position: 0.8, rotation: 0.8, scale: 0.8, edges: 'crop' } },
    known,
  );
  if (!result.ok) throw new Error(result.reason);
  const file = join(folder, 'steady.mp4');
  await renderReel(
    result.reel,
    new Map([['s', { file: shaken, hasPicture: true, hasSound: false, photo: false, width: 640, height: 360 }]]),
    file,
    { size: plain.size, quality: 'best', pathOf: () => Promise.resolve(before) },
  );
  const after = pathOf(file);
  expect(after.dx.length).toBe(100);
  for (const key of ['dx', 'dy', 'rotation'] as const)
    expect(rms(after[key]) / rms(before[key]), key).toBeLessThan(0.25);
  // What was said beforehand: the film is a little closer, by as much as the price promised.
  const price = steadyingPrice(before, { start: 0, end: 4 }, 0.8, 9 / 16, 1);
  expect(price.cropShare).toBeGreaterThan(0.03);
  expect(price.cropShare).toBeLessThan(0.25);
  // No black border anywhere: the photograph has no black row of pixels.
  const edge = decodeGray(file, 32, 18);
  for (let frame = 0; frame < 100; frame++)
    for (const row of [0, 17])
      expect(Math.max(...edge.slice((frame * 18 + row) * 32, (frame * 18 + row) * 32 + 32))).toBeGreaterThan(25);
});
