import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { MotionEstimator, cameraRuns, type CameraPath, type Gray } from '#core/picture';
import { percentile } from '#core/signal';
import type { Range } from '#core/time';
import { ffmpeg, realPicture } from '../../media/testMedia';
import { checkSteadying } from './steadying';
import { add, f1OfSeconds, gauss, random } from './table';

const hz = 30;
const width = 320,
  height = 180;

interface View {
  /** Where the camera looks, in picture widths; turn in radians; zoom as a logarithm. */
  x: number;
  y: number;
  turn: number;
  zoom: number;
}
interface Film {
  name: string;
  seconds: number;
  at(t: number): View;
  shaky: Range[];
  whips: Range[];
  /** Exposures per frame: motion blur. */
  blur: number;
  thing?: boolean;
}

const still: View = { x: 0, y: 0, turn: 0, zoom: 0 };
/** A wander of 2 to 9 Hz: eight sines of random phase, `size` picture widths RMS in each direction. */
function wander(size: number): (t: number) => View {
  const waves = Array.from({ length: 8 }, () => ({
    hertz: 2 + 7 * random(),
    a: 2 * Math.PI * random(),
    b: 2 * Math.PI * random(),
    c: 2 * Math.PI * random(),
  }));
  return (t) => {
    let x = 0,
      y = 0,
      turn = 0;
    for (const { hertz, a, b, c } of waves) {
      x += Math.sin(2 * Math.PI * hertz * t + a);
      y += Math.sin(2 * Math.PI * hertz * t + b);
      turn += Math.sin(2 * Math.PI * hertz * t + c);
    }
    return { x: (size * x) / 2, y: (size * y) / 2, turn: (size * turn) / 3, zoom: 0 };
  };
}
const sum = (a: View, b: View, share = 1): View => ({
  x: a.x + share * b.x,
  y: a.y + share * b.y,
  turn: a.turn + share * b.turn,
  zoom: a.zoom + share * b.zoom,
});
const ease = (t: number, from: number, to: number) => {
  const s = Math.min(1, Math.max(0, (t - from) / (to - from)));
  return s * s * (3 - 2 * s);
};

function films(): Film[] {
  const slight = wander(0.0025),
    low = wander(0.012),
    strong = wander(0.022),
    worst = wander(0.035),
    inPan = wander(0.022);
  const bursts: Range = { start: 2.5, end: 5.5 };
  const burst = (t: number) =>
    ease(t, bursts.start - 0.1, bursts.start + 0.1) * (1 - ease(t, bursts.end - 0.1, bursts.end + 0.1));
  return [
    { name: 'still', seconds: 4, at: () => still, shaky: [], whips: [], blur: 1 },
    { name: 'slow pan', seconds: 8, at: (t) => ({ ...still, x: 0.05 * t }), shaky: [], whips: [], blur: 2 },
    { name: 'zoom', seconds: 6, at: (t) => ({ ...still, zoom: 0.05 * t }), shaky: [], whips: [], blur: 1 },
    { name: 'slight handheld', seconds: 8, at: slight, shaky: [], whips: [], blur: 2 },
    ...(
      [
        ['shake, some', low],
        ['shake, strong', strong],
        ['shake, severe', worst],
      ] as const
    ).map(([name, shake]): Film => ({
      name,
      seconds: 8,
      at: (t) => sum(slight(t), shake(t), burst(t)),
      shaky: [bursts],
      whips: [],
      blur: 4,
    })),
    {
      name: 'whip pan',
      seconds: 8,
      at: (t) => sum(slight(t), { ...still, x: 0.75 * ease(t, 4, 4.4) }),
      shaky: [],
      whips: [{ start: 4, end: 4.4 }],
      blur: 6,
    },
    {
      name: 'shake in a pan',
      seconds: 8,
      at: (t) => sum({ ...still, x: 0.05 * t }, inPan(t), burst(t)),
      shaky: [bursts],
      whips: [],
      blur: 4,
    },
    {
      name: 'a thing over a third of a still picture',
      seconds: 8,
      at: () => still,
      shaky: [],
      whips: [],
      blur: 1,
      thing: true,
    },
  ];
}

/** A real photograph, 2.4 times as wide as the film. */
function photograph(name: string): Gray {
  const [w, h] = [width * 2.4, height * 2.4];
  return {
    width: w,
    height: h,
    data: new Uint8Array(
      ffmpeg(
        '-i',
        realPicture(name),
        '-vf',
        `scale=${w}:${h}:force_original_aspect_ratio=increase:flags=area,crop=${w}:${h},format=gray`,
        '-frames:v',
        '1',
        '-f',
        'rawvideo',
        '-',
      ),
    ),
  };
}

function shoot({ at, blur, thing }: Film, photo: Gray, other: Gray, frame: number): Uint8Array {
  const out = new Float32Array(width * height);
  for (let exposure = 0; exposure < blur; exposure++) {
    const view = at((frame + (blur > 1 ? (0.5 * exposure) / blur : 0)) / hz);
    const scale = Math.exp(-view.zoom);
    const cos = Math.cos(view.turn) * scale,
      sin = Math.sin(view.turn) * scale;
    const cx = photo.width / 2 + view.x * width - 0.25 * width,
      cy = photo.height / 2 + view.y * width;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const u = x - width / 2,
          v = y - height / 2;
        out[y * width + x]! += sample(photo, cx + cos * u - sin * v, cy + sin * u + cos * v) / blur;
      }
  }
  if (thing)
    for (let y = 30; y < 170; y++)
      for (let x = 0; x < 135; x++) {
        const left = frame * 1.6 - 135;
        if (x + left >= 0 && x + left < width - 1)
          out[y * width + Math.round(x + left)] = sample(other, x + 300, y + 100);
      }
  return Uint8Array.from(out, (value) => Math.max(0, Math.min(255, Math.round(value + 1.2 * gauss()))));
}

function sample({ data, width: w, height: h }: Gray, x: number, y: number): number {
  const u = Math.max(0, Math.min(w - 1.001, x)),
    v = Math.max(0, Math.min(h - 1.001, y));
  const i = Math.floor(u),
    j = Math.floor(v);
  const a = u - i,
    b = v - j,
    at = j * w + i;
  return (data[at]! * (1 - a) + data[at + 1]! * a) * (1 - b) + (data[at + w]! * (1 - a) + data[at + w + 1]! * a) * b;
}

/** Shifts of the picture per frame out of vid.stab's file: the median of its local motions. */
function vidstabShifts(
  { film, transforms: trf }: { film: string; transforms: string },
  frames: Uint8Array[],
): { x: number; y: number }[] {
  spawnSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-y',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'gray',
      '-s',
      `${width}x${height}`,
      '-r',
      String(hz),
      '-i',
      '-',
      '-c:v',
      'ffv1',
      film,
    ],
    { input: Buffer.concat(frames) },
  );
  ffmpeg(
    '-i',
    film,
    '-vf',
    `format=yuv420p,vidstabdetect=result=${trf}:shakiness=10:accuracy=15:mincontrast=0.1`,
    '-f',
    'null',
    '-',
  );
  return readFileSync(trf, 'utf8')
    .split('\n')
    .filter((line) => line.startsWith('Frame'))
    .map((line) => {
      const motions = [...line.matchAll(/\(LM (-?\d+) (-?\d+) /g)].map(
        (match) => [Number(match[1]), Number(match[2])] as const,
      );
      return {
        x: percentile(
          motions.map(([x]) => x),
          0.5,
        ),
        y: percentile(
          motions.map(([, y]) => y),
          0.5,
        ),
      };
    });
}

export function checkCamera(folder: string): void {
  const photos = ['building.jpg', 'home.jpg'].map(photograph);
  const found: Range[] = [],
    truth: Range[] = [];
  const ourErrors: number[] = [],
    theirErrors: number[] = [];
  let whipsFound = 0,
    whips = 0,
    whipsShaky = 0,
    falseShaky = 0,
    thingMotion = 0;
  let offset = 0;
  const toSteady: Parameters<typeof checkSteadying>[0] = [];
  for (const film of films())
    for (const [index, photo] of photos.entries()) {
      const estimator = new MotionEstimator();
      const count = film.seconds * hz;
      const frames = Array.from({ length: count }, (_, frame) =>
        shoot(film, photo, photos[(index + 1) % photos.length]!, frame),
      );
      const motions = frames.map((data) => estimator.next({ width, height, data }));
      const of = (key: 'dx' | 'dy' | 'rotation' | 'zoom' | 'confidence') =>
        Float32Array.from(motions, (motion) => motion[key]);
      const path: CameraPath = {
        hz,
        dx: of('dx'),
        dy: of('dy'),
        rotation: of('rotation'),
        zoom: of('zoom'),
        confidence: of('confidence'),
        cuts: [],
      };
      const runs = cameraRuns(path, film.seconds);
      const files = {
        film: join(folder, `${film.name.replace(/\W/g, '')}.mkv`),
        transforms: join(folder, `${film.name.replace(/\W/g, '')}.trf`),
      };
      const theirs = index === 0 && film.name !== 'zoom' ? vidstabShifts(files, frames) : null;
      if (theirs && /shake,|slight/.test(film.name)) toSteady.push({ name: film.name, path, ...files });
      for (let frame = 1; frame < count; frame++) {
        // A frame shows the mean of its exposures.
        const middle = film.blur > 1 ? (0.25 * (film.blur - 1)) / film.blur : 0;
        const [a, b] = [film.at((frame - 1 + middle) / hz), film.at((frame + middle) / hz)];
        const inWhip = film.whips.some((whip) => frame / hz > whip.start - 0.1 && frame / hz < whip.end + 0.1);
        const scale = Math.exp(-(a.zoom + b.zoom) / 2);
        const [wx, wy] = [(b.x - a.x) * width, (b.y - a.y) * width];
        const [cos, sin] = [Math.cos(-(a.turn + b.turn) / 2), Math.sin(-(a.turn + b.turn) / 2)];
        const [tx, ty] = [-(cos * wx - sin * wy) / scale, -(sin * wx + cos * wy) / scale];
        if (!inWhip) ourErrors.push(Math.hypot(motions[frame]!.dx * width - tx, motions[frame]!.dy * width - ty));
        if (theirs?.[frame - 1] && !inWhip)
          theirErrors.push(
            Math.hypot(theirs[frame - 1]!.x + tx, theirs[frame - 1]!.y + ty) <
              Math.hypot(theirs[frame - 1]!.x - tx, theirs[frame - 1]!.y - ty)
              ? Math.hypot(theirs[frame - 1]!.x + tx, theirs[frame - 1]!.y + ty)
              : Math.hypot(theirs[frame - 1]!.x - tx, theirs[frame - 1]!.y - ty),
          );
      }
      const later = (run: Range) => ({ start: run.start + offset, end: run.end + offset });
      const shaky = runs.filter((run) => run.kind === 'shaky');
      found.push(...shaky.map(later));
      truth.push(...film.shaky.map(later));
      if (film.shaky.length === 0) falseShaky += shaky.length;
      whips += film.whips.length;
      whipsFound += film.whips.filter((whip) =>
        runs.some((run) => run.kind === 'whip' && run.start < whip.end && run.end > whip.start),
      ).length;
      whipsShaky += film.whips.filter((whip) =>
        shaky.some((run) => run.start < whip.end && run.end > whip.start),
      ).length;
      if (film.thing)
        thingMotion = Math.max(
          thingMotion,
          ...motions.map((motion) => Math.hypot(motion.dx, motion.dy) * width * (motion.confidence > 0.3 ? 1 : 0)),
        );
      offset += film.seconds + 5;
    }
  const source = 'photographs of opencv-doc, paths made here';
  const median = percentile(ourErrors, 0.5),
    high = percentile(ourErrors, 0.95);
  add({
    reading: 'camera',
    what: 'shift per frame, median error, px of 320',
    ours: median.toFixed(3),
    reference: `${percentile(theirErrors, 0.5).toFixed(3)} vidstabdetect`,
    wanted: '< 0.5',
    reached: median < 0.5,
    source,
  });
  add({
    reading: 'camera',
    what: 'shift per frame, 95 % of errors under, px of 320',
    ours: high.toFixed(3),
    reference: `${percentile(theirErrors, 0.95).toFixed(3)} vidstabdetect`,
    wanted: '< 0.5',
    reached: high < 0.5,
    source,
  });
  const f1 = f1OfSeconds(found, truth);
  add({
    reading: 'camera',
    what: 'shaky, F1 of seconds',
    ours: f1.toFixed(3),
    wanted: '0.9',
    reached: f1 >= 0.9,
    source,
  });
  add({
    reading: 'camera',
    what: 'steady films with a shaky run',
    ours: String(falseShaky),
    wanted: '0',
    reached: falseShaky === 0,
    source,
  });
  add({
    reading: 'camera',
    what: 'whip pans found',
    ours: `${whipsFound} of ${whips}`,
    reached: whipsFound === whips,
    wanted: 'all',
    source,
  });
  add({
    reading: 'camera',
    what: 'whip pans called shaky',
    ours: String(whipsShaky),
    wanted: '0',
    reached: whipsShaky === 0,
    source,
  });
  add({
    reading: 'camera',
    what: 'largest shift a thing fakes, px of 320',
    ours: thingMotion.toFixed(2),
    wanted: '< 0.5',
    reached: thingMotion < 0.5,
    source,
  });
  checkSteadying(toSteady, height / width);
}
