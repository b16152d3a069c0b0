import { describe, expect, it } from 'vitest';
import {
  MotionEstimator,
  blazeAnchors,
  cameraRuns,
  cameraTraces,
  decodeFaces,
  exposure,
  hardCuts,
  intersectionOverUnion,
  lightScore,
  lookGrid,
  luma709,
  persistentFaces,
  scenesBetween,
  sharpness,
  type CameraPath,
  type Gray,
} from '.';
import { fitSimilarity } from './similarity';
import { halve } from './gray';

/** A textured world larger than the picture: value noise in three octaves from a hash, like grass before trees before sky. */
function world(x: number, y: number): number {
  const cell = (cx: number, cy: number) => ((Math.imul(cx * 374761393 + cy * 668265263, 1274126177) >>> 8) & 255) / 255;
  const mix = (a: number, b: number, t: number) => a + (b - a) * t;
  const octave = (size: number) => {
    const gx = Math.floor(x / size),
      gy = Math.floor(y / size),
      fx = x / size - gx,
      fy = y / size - gy;
    return mix(mix(cell(gx, gy), cell(gx + 1, gy), fx), mix(cell(gx, gy + 1), cell(gx + 1, gy + 1), fx), fy);
  };
  return 20 + 90 * octave(70) + 60 * octave(22) + 50 * octave(8);
}

function view(cx: number, cy: number, roll = 0, zoom = 1, paint?: (x: number, y: number) => number | null): Gray {
  const width = 320,
    height = 180;
  const data = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const u = (x - 160) / zoom,
        v = (y - 90) / zoom;
      data[y * width + x] =
        paint?.(x, y) ??
        world(cx + u * Math.cos(roll) - v * Math.sin(roll), cy + u * Math.sin(roll) + v * Math.cos(roll));
    }
  return { width, height, data };
}

function between(a: Gray, b: Gray) {
  const estimator = new MotionEstimator();
  estimator.next(a);
  return estimator.next(b);
}

describe('global motion', () => {
  it.each([
    [0.5, 0.25],
    [3.3, -1.7],
    [11, 6],
    [-24, 9],
    [70, -3],
  ])('measures a camera shift of (%f, %f) within 0.3 pixels of 320', (sx, sy) => {
    const motion = between(view(1000, 700), view(1000 + sx, 700 + sy));
    expect(Math.abs(motion.dx * 320 + sx)).toBeLessThan(0.3);
    expect(Math.abs(motion.dy * 320 + sy)).toBeLessThan(0.3);
    expect(motion.confidence).toBeGreaterThan(0.6);
  });
  it('measures roll and zoom', () => {
    expect(between(view(1000, 700), view(1000, 700, 0.02)).rotation).toBeCloseTo(-0.02, 2);
    expect(between(view(1000, 700), view(1000, 700, 0, 1.03)).zoom).toBeCloseTo(Math.log(1.03), 2);
  });
  it('takes a thing that fills a fifth of the picture for a thing, not for the camera', () => {
    const thing = (shift: number) => (x: number, y: number) =>
      x > 60 && x < 180 && y > 40 && y < 140 ? world(x - shift + 5000, y + 300) : null;
    const motion = between(view(1000, 700, 0, 1, thing(0)), view(1000, 700, 0, 1, thing(6)));
    expect(Math.abs(motion.dx * 320)).toBeLessThan(0.2);
    expect(motion.thingsShare).toBeGreaterThan(0.1);
    expect(motion.things * 320).toBeGreaterThan(0.7);
    expect(motion.thingsX).toBeCloseTo(120 / 320, 1);
  });
  it('calls another place unmatched, a repeated picture still', () => {
    expect(
      between(view(1000, 700), view(9000, 4000)).unmatched + 1 - between(view(1000, 700), view(9000, 4000)).confidence,
    ).toBeGreaterThan(1);
    expect(between(view(10, 20), view(10, 20))).toMatchObject({ dx: 0, change: 0, confidence: 1 });
  });
});

describe('similarity fit', () => {
  const vectors = Array.from({ length: 60 }, (_, i) => {
    const x = (i % 10) * 32,
      y = Math.floor(i / 10) * 30;
    return { x, y, vx: 2 + 0.01 * (x - 160) - 0.02 * (y - 90), vy: -1 + 0.02 * (x - 160) + 0.01 * (y - 90) };
  });
  it('finds the exact model with a third of outliers', () => {
    const spoiled = vectors.map((vector, index) => (index % 3 === 0 ? { ...vector, vx: 9, vy: 9 } : vector));
    const { model, inliers } = fitSimilarity(spoiled, 160, 90);
    expect(model.tx).toBeCloseTo(2, 4);
    expect(model.ty).toBeCloseTo(-1, 4);
    expect(model.a).toBeCloseTo(0.01, 5);
    expect(model.b).toBeCloseTo(0.02, 5);
    expect(inliers).toBeCloseTo(2 / 3, 1);
  });
});

describe('camera classes', () => {
  const hz = 30;
  const path = (x: (t: number) => number, seconds = 8): CameraPath => {
    const count = seconds * hz;
    const zero = () => new Float32Array(count);
    const dx = Float32Array.from({ length: count }, (_, i) => (i ? -(x(i / hz) - x((i - 1) / hz)) : 0));
    return { hz, dx, dy: zero(), rotation: zero(), zoom: zero(), confidence: zero().fill(1), cuts: [] };
  };
  const wobble = (t: number) => Math.sin(2 * Math.PI * 4 * t) + 0.7 * Math.sin(2 * Math.PI * 6.3 * t);
  const kinds = (of: CameraPath) => cameraRuns(of, of.dx.length / hz).map((run) => run.kind);

  it('still, slight handheld wander, and a smooth pan with its direction', () => {
    expect(kinds(path(() => 0))).toEqual(['still']);
    expect(kinds(path((t) => 0.001 * wobble(t)))).toEqual(['still']);
    const pan = cameraRuns(
      path((t) => 0.1 * Math.min(Math.max(t - 2, 0), 4)),
      8,
    );
    expect(pan.map((run) => run.kind)).toEqual(['still', 'smooth', 'still']);
    expect(pan[1]).toMatchObject({ direction: 'right' });
    expect(pan[1]!.start).toBeCloseTo(2, 0);
  });
  it('severe shake is shaky, also inside a pan, and padded', () => {
    const burst = (t: number) => (t > 3 && t < 5 ? 0.015 * wobble(t) : 0);
    const shaky = cameraRuns(
      path((t) => burst(t)),
      8,
    ).find((run) => run.kind === 'shaky')!;
    expect(shaky.start).toBeGreaterThan(2.2);
    expect(shaky.start).toBeLessThan(3);
    expect(shaky.end).toBeGreaterThan(5);
    expect(kinds(path((t) => 0.08 * t + burst(t)))).toContain('shaky');
  });
  it('a whip pan is a whip, not shake', () => {
    const runs = cameraRuns(
      path((t) => 0.8 * Math.min(1, Math.max(0, (t - 4) / 0.4))),
      8,
    );
    expect(runs.map((run) => run.kind)).toEqual(['still', 'whip', 'still']);
    expect(runs[1]!.start).toBeCloseTo(4, 0);
  });
  it('measures shake as the RMS of the wander, 1 at 2 % of the width', () => {
    const { shake } = cameraTraces(path((t) => 0.01 * Math.SQRT2 * Math.sin(2 * Math.PI * 5 * t)));
    expect(shake[120]).toBeCloseTo(0.5, 1);
  });
});

describe('hard cuts', () => {
  const quiet = () => ({ unmatched: new Float32Array(90), confidence: new Float32Array(90).fill(1) });
  it('one frame that matches nothing is a cut; a stretch of them is not', () => {
    const { unmatched, confidence } = quiet();
    unmatched[30] = 0.9;
    confidence[30] = 0.05;
    for (let index = 60; index < 72; index++) confidence[index] = 0.1;
    expect(hardCuts(unmatched, confidence, 30)).toEqual([1]);
  });
  it('sensitivity moves the threshold', () => {
    const { unmatched, confidence } = quiet();
    unmatched[45] = 0.3;
    confidence[45] = 0.6;
    expect(hardCuts(unmatched, confidence, 30, 0.1)).toEqual([]);
    expect(hardCuts(unmatched, confidence, 30, 0.9)).toEqual([1.5]);
  });
  it('makes scenes without gaps', () => {
    expect(scenesBetween([2, 2.1, 5], 8)).toEqual([
      { start: 0, end: 2 },
      { start: 2, end: 5 },
      { start: 5, end: 8 },
    ]);
  });
});

describe('picture quality', () => {
  const blur = (picture: Gray, radius: number): Gray => {
    const data = new Uint8Array(picture.data.length);
    for (let y = 0; y < 180; y++)
      for (let x = 0; x < 320; x++) {
        let sum = 0,
          count = 0;
        for (let dy = -radius; dy <= radius; dy++)
          for (let dx = -radius; dx <= radius; dx++) {
            const px = x + dx,
              py = y + dy;
            if (px >= 0 && py >= 0 && px < 320 && py < 180) {
              sum += picture.data[py * 320 + px]!;
              count++;
            }
          }
        data[y * 320 + x] = sum / count;
      }
    return { width: 320, height: 180, data };
  };
  it('sharpness falls with blur, and a plain background does not hurt', () => {
    const noise = (x: number, y: number) => (((x >> 4) + (y >> 4)) % 2) * 180 + 30;
    const full = view(0, 0, 0, 1, noise);
    const half = view(0, 0, 0, 1, (x, y) => (x < 200 ? 120 : noise(x, y)));
    const twice = (radius: number) => sharpness(blur(blur(full, radius), radius));
    expect(sharpness(blur(full, 1))).toBeLessThan(sharpness(full));
    expect(twice(1)).toBeLessThan(sharpness(blur(full, 1)));
    expect(Math.abs(sharpness(half) - sharpness(full))).toBeLessThan(0.1);
  });
  it('judges light', () => {
    const flat = (value: number): Gray => ({ width: 10, height: 10, data: new Uint8Array(100).fill(value) });
    expect(exposure(flat(0))).toMatchObject({ mean: 0, dark: 1, bright: 0, contrast: 0 });
    expect(lightScore({ mean: 0.45, dark: 0.02, bright: 0.01, contrast: 0.2 })).toBe(1);
    expect(lightScore(exposure(flat(3)))).toBe(0);
    expect(lightScore({ mean: 0.8, dark: 0, bright: 0.5, contrast: 0.2 })).toBeLessThan(0.3);
  });
  // ITU-R BT.709-6, item 3.2: luma of the primaries.
  it('uses BT.709 luma', () => {
    expect(luma709(1, 1, 1)).toBeCloseTo(1, 12);
    expect([luma709(1, 0, 0), luma709(0, 1, 0), luma709(0, 0, 1)]).toEqual([0.2126, 0.7152, 0.0722]);
  });
  it('halves by means of four and grids by means of cells', () => {
    expect([...halve({ width: 4, height: 2, data: Uint8Array.from([0, 4, 8, 8, 4, 8, 8, 8]) }).data]).toEqual([4, 8]);
    expect([
      ...lookGrid({ width: 4, height: 2, data: Uint8Array.from([0, 0, 255, 255, 0, 0, 255, 255]) }, 2, 1),
    ]).toEqual([0, 1]);
  });
});

describe('faces', () => {
  it('has 896 anchors, the first in the middle of the first stride-16 cell', () => {
    const anchors = blazeAnchors();
    expect(anchors.length).toBe(896 * 2);
    expect(anchors[0]).toBeCloseTo(8 / 256, 6);
    expect(anchors[512 * 2]).toBeCloseTo(16 / 256, 6);
  });
  it('decodes offsets in 256ths, undoes the letterbox, and keeps one of two like boxes', () => {
    const scores = new Float32Array(896).fill(-9);
    const boxes = new Float32Array(896 * 16);
    const anchors = blazeAnchors();
    for (const [index, logit] of [
      [100, 3],
      [102, 2],
    ] as const) {
      scores[index] = logit;
      boxes.set([(0.5 - anchors[index * 2]!) * 256, (0.5 - anchors[index * 2 + 1]!) * 256, 64, 64], index * 16);
    }
    const [face, ...more] = decodeFaces(scores, boxes, anchors, { x: 0, y: 0.21875, width: 1, height: 0.5625 });
    expect(more).toEqual([]);
    expect(face!.x).toBeCloseTo(0.375, 5);
    expect(face!.width).toBeCloseTo(0.25, 5);
    expect(face!.height).toBeCloseTo(0.25 / 0.5625, 5);
    expect(face!.y + face!.height / 2).toBeCloseTo(0.5, 5);
    expect(face!.score).toBeCloseTo(1 / (1 + Math.exp(-3)), 6);
  });
  it('drops a weak face seen once, keeps one that stays', () => {
    const face = { x: 0.4, y: 0.4, width: 0.1, height: 0.1, score: 0.6 };
    const stray = { ...face, x: 0.8 };
    const samples = [
      { time: 0, boxes: [face] },
      { time: 0.5, boxes: [face, stray] },
      { time: 1, boxes: [{ ...face, x: 0.42 }] },
    ];
    expect(persistentFaces(samples).map((sample) => sample.boxes.length)).toEqual([1, 1, 1]);
    const crew = [0.95, 0.88, 0.75, 0.4].map((score, index) => ({
      x: index / 5,
      y: 0.2,
      width: 0.1,
      height: 0.2,
      score,
    }));
    expect(persistentFaces([{ time: 0, boxes: crew }])[0]!.boxes).toHaveLength(3);
    expect(intersectionOverUnion(face, face)).toBeCloseTo(1);
    expect(intersectionOverUnion(face, stray)).toBe(0);
  });
  it('takes a face that is unsure all along only where a person was seen around it', () => {
    const face = { x: 0.4, y: 0.3, width: 0.1, height: 0.15, score: 0.6 };
    const faint = [0, 0.5, 1, 1.5].map((time) => ({ time, boxes: [face] }));
    const counts = (...given: Parameters<typeof persistentFaces>) =>
      persistentFaces(...given).map((s) => s.boxes.length);
    const person = { x: 0.3, y: 0.2, width: 0.3, height: 0.8, score: 0.4, label: 'person' as const };
    expect(counts(faint, [])).toEqual([0, 0, 0, 0]);
    expect(counts(faint, [{ time: 3, boxes: [person] }])).toEqual([1, 1, 1, 1]);
    expect(counts(faint, [{ time: 3, boxes: [{ ...person, label: 'dog' as const }] }])).toEqual([0, 0, 0, 0]);
    expect(counts(faint, [{ time: 3, boxes: [{ ...person, x: 0.7 }] }])).toEqual([0, 0, 0, 0]);
    expect(counts(faint, [{ time: 60, boxes: [person] }])).toEqual([0, 0, 0, 0]);
    // Sure for a moment, it is sure before and after.
    const once = faint.map((sample) => (sample.time === 1 ? { ...sample, boxes: [{ ...face, score: 0.88 }] } : sample));
    expect(counts(once, [])).toEqual([1, 1, 1, 1]);
  });
});
