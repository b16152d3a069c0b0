import { execFileSync } from 'node:child_process';
import { sigmaSeconds, steadyingPrice } from '#core/framing';
import type { CameraPath } from '#core/picture';
import { percentile } from '#core/signal';
import { add } from './table';

/**
 * The price of steadying beside what vid.stab itself decides: `vidstabtransform` with a fixed zoom prints how much it
 * enlarges. Its path is smoothed by a Gaussian of half its `smoothing` in frames, and its zoom leaves out the outermost
 * tenth of the shifts at each end (read from its source in memory), so ours is asked to cover nine frames in ten as well.
 * @param films each with its measured path, and the film and transforms that vid.stab made of the same frames
 */
export function checkSteadying(
  films: { name: string; path: CameraPath; film: string; transforms: string }[],
  shape: number,
): void {
  const apart: number[] = [];
  const rows: string[] = [];
  for (const { path, film, transforms } of films)
    for (const smoothing of [6, 12, 24]) {
      const seconds = smoothing / 2 / path.hz;
      let low = 0.001,
        high = 1;
      while (high - low > 1e-3) {
        const middle = (low + high) / 2;
        if (sigmaSeconds(middle) < seconds) low = middle;
        else high = middle;
      }
      const said = execFileSync('sh', [
        '-c',
        `ffmpeg -hide_banner -i "${film}" -vf "format=yuv420p,vidstabtransform=input=${transforms}:smoothing=${smoothing}:optzoom=1" -f null - 2>&1`,
      ]).toString();
      const theirs = Number(/Final zoom: (-?[\d.]+)/.exec(said)?.[1]);
      const ours =
        (steadyingPrice(path, { start: 0, end: path.dx.length / path.hz }, high, shape, 0.9).enlargement - 1) * 100;
      apart.push(Math.abs(ours - theirs));
      rows.push(`${ours.toFixed(1)}/${theirs.toFixed(1)}`);
    }
  const median = percentile(apart, 0.5);
  add({
    reading: 'steadying',
    what: 'predicted enlargement, median distance, points of %',
    ours: median.toFixed(2),
    reference: 'vidstabtransform optzoom',
    wanted: '< 3',
    reached: median < 3,
    source: `the same films; ours/theirs ${rows.join(' ')}`,
  });
}
