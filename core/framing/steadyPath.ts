import type { Steady } from './types';
import type { CameraPath } from '#core/picture';

import type { Range } from '#core/time';
import { corrections, enlargementOver, sigmaSeconds } from './steadying';
import type { View } from './view';

/**
 * The views that make a piece steady, one for each of its frames: the camera's path is smoothed (see `steadyingPrice`)
 * and every frame is seen from where the smooth path lies.
 * @param run stretch of the source that the piece shows, in seconds
 * @param times of the frames wanted, in seconds of the source
 * @param shape height ÷ width of the source
 */
export function steadyViews(
  path: CameraPath,
  run: Range,
  steady: Steady,
  times: readonly number[],
  shape: number,
): View[] {
  const { from, off } = corrections(
    path,
    run,
    [steady.position, steady.position, steady.rotation, steady.scale].map((strength) => sigmaSeconds(strength)) as [
      number,
      number,
      number,
      number,
    ],
  );
  const [x, y, turn, zoom] = off;
  const enlargement = steady.edges === 'crop' ? enlargementOver(off, shape, 1) : 1;
  return times.map((time) => {
    // Positions lie between frames where the rates differ.
    const place = Math.min(x.length - 1, Math.max(0, time * path.hz - from));
    const [low, share] = [Math.floor(place), place % 1];
    const at = (values: Float32Array) =>
      (values[low] ?? 0) * (1 - share) + (values[Math.min(values.length - 1, low + 1)] ?? 0) * share;
    // Positions are those of the picture's content: to move it one way, the view goes the other.
    return { x: 0.5 - at(x), y: 0.5 - at(y) / shape, turn: -at(turn), width: Math.exp(-at(zoom)) / enlargement };
  });
}
