import { MotionEstimator, exposure, lookGrid, noiseLevel, sharpness, type Gray } from '#core/picture';
import { fineColumns, fineHz, fineRows, lookColumns, lookHz, lookRows } from '#core/readings';
import type { Trace } from '#core/signal';
import { framesPerSecond } from '#core/time';
import { fixedBlocks } from './blocks';
import { everyFrames, type ReadPlan } from './readPlan';

const everyFrame = [
  'camera.dx',
  'camera.dy',
  'camera.rotation',
  'camera.zoom',
  'camera.confidence',
  'things.amount',
  'things.share',
  'things.x',
  'things.y',
  'frame.unmatched',
  'frame.change',
  'frame.mean',
] as const;
const tenTimes = ['frame.sharpness', 'light.mean', 'light.dark', 'light.bright', 'light.contrast'] as const;
type Name = (typeof everyFrame)[number] | (typeof tenTimes)[number] | 'frame.noise';

export interface MeasuredPicture {
  frames: number;
  seconds: number;
  traces: Trace[];
  look: Float32Array;
  fine: Float32Array;
}

/** Motion, light, focus and noise of the small grey frames; native rate, ten and two times a second. */
export async function measurePicture(
  stream: AsyncIterable<Uint8Array>,
  plan: Pick<ReadPlan, 'rate' | 'gray'>,
  onProgress: (seconds: number) => void,
): Promise<MeasuredPicture> {
  const fps = framesPerSecond(plan.rate);
  const { width, height } = plan.gray;
  const values = new Map<Name, number[]>(
    [...everyFrame, ...tenTimes, 'frame.noise' as const].map((name) => [name, []]),
  );
  const push = (name: Name, value: number) => values.get(name)!.push(value);
  const estimator = new MotionEstimator();
  const look: number[] = [];
  const fine: number[] = [];
  const { light: every, noise: seldom } = everyFrames(fps);
  let frames = 0;
  for await (const data of fixedBlocks(stream, width * height)) {
    const picture: Gray = { width, height, data };
    const motion = estimator.next(picture);
    push('camera.dx', motion.dx);
    push('camera.dy', motion.dy);
    push('camera.rotation', motion.rotation);
    push('camera.zoom', motion.zoom);
    push('camera.confidence', motion.confidence);
    push('things.amount', motion.things);
    push('things.share', motion.thingsShare);
    push('things.x', motion.thingsX);
    push('things.y', motion.thingsY);
    push('frame.unmatched', motion.unmatched);
    push('frame.change', frames === 0 ? 255 : motion.change);
    push('frame.mean', motion.mean);
    if (frames % every === 0) {
      const light = exposure(picture);
      push('frame.sharpness', sharpness(picture));
      push('light.mean', light.mean);
      push('light.dark', light.dark);
      push('light.bright', light.bright);
      push('light.contrast', light.contrast);
    }
    if (frames % seldom === 0) push('frame.noise', noiseLevel(picture));
    while (look.length / (lookColumns * lookRows) <= (frames / fps) * lookHz)
      look.push(...lookGrid(picture, lookColumns, lookRows));
    while (fine.length / (fineColumns * fineRows) <= (frames / fps) * fineHz)
      fine.push(...lookGrid(picture, fineColumns, fineRows));
    if (++frames % 30 === 0) onProgress(frames / fps);
  }
  const rateOf = (name: Name) =>
    name === 'frame.noise' ? fps / seldom : (tenTimes as readonly string[]).includes(name) ? fps / every : fps;
  const traces = [...values].map(([name, list]): Trace => ({
    name,
    hz: rateOf(name),
    start: 0,
    values: Float32Array.from(list),
  }));
  return { frames, seconds: frames / fps, traces, look: Float32Array.from(look), fine: Float32Array.from(fine) };
}
