import type { Range } from '#core/time';
import type { ColourName } from './colourNames';
import { suppress, type FaceBox } from './faces';

/** The 80 things of the COCO data set (Lin and others 2014), in its order. */
export const objectLabels = [
  'person',
  'bicycle',
  'car',
  'motorcycle',
  'airplane',
  'bus',
  'train',
  'truck',
  'boat',
  'traffic light',
  'fire hydrant',
  'stop sign',
  'parking meter',
  'bench',
  'bird',
  'cat',
  'dog',
  'horse',
  'sheep',
  'cow',
  'elephant',
  'bear',
  'zebra',
  'giraffe',
  'backpack',
  'umbrella',
  'handbag',
  'tie',
  'suitcase',
  'frisbee',
  'skis',
  'snowboard',
  'sports ball',
  'kite',
  'baseball bat',
  'baseball glove',
  'skateboard',
  'surfboard',
  'tennis racket',
  'bottle',
  'wine glass',
  'cup',
  'fork',
  'knife',
  'spoon',
  'bowl',
  'banana',
  'apple',
  'sandwich',
  'orange',
  'broccoli',
  'carrot',
  'hot dog',
  'pizza',
  'donut',
  'cake',
  'chair',
  'couch',
  'potted plant',
  'bed',
  'dining table',
  'toilet',
  'tv',
  'laptop',
  'mouse',
  'remote',
  'keyboard',
  'cell phone',
  'microwave',
  'oven',
  'toaster',
  'sink',
  'refrigerator',
  'book',
  'clock',
  'vase',
  'scissors',
  'teddy bear',
  'hair drier',
  'toothbrush',
] as const;
/** A label of the net (80 classes of COCO). */
export type ObjectLabel = (typeof objectLabels)[number];

/** Fractions of the picture, from its top left corner. */
export interface ObjectBox extends FaceBox {
  label: ObjectLabel;
  /** What stands out from around it, the strongest first; missing where nothing does. */
  colours?: ColourName[];
}

/** The things of one picture; time in seconds. */
export interface ObjectSample {
  time: number;
  boxes: ObjectBox[];
  /** See `tintOf`; missing in readings by earlier versions. */
  tint?: number[];
}

/** Cells along each side of what the net answers. */
export const objectGrid = 128;
/** Side of the picture the net sees, in pixels. */
export const objectSide = 512;

/**
 * Object boxes out of a centre heatmap ("Objects as Points", Zhou and others 2019): local maxima of the heatmap are
 * middles, the size planes hold the way to the four edges.
 * @param heat 80 × 128 × 128, 0 to 1
 * @param size 4 × 128 × 128, in pixels of the 512 the net sees: left, top, right, bottom
 */
export function decodeObjects(heat: Float32Array, size: Float32Array, threshold = 0.35): ObjectBox[] {
  const plane = objectGrid * objectGrid;
  const stride = objectSide / objectGrid;
  const found: ObjectBox[] = [];
  // One plain run over a million cells, nearly all of which are passed over.
  for (let at = 0; at < heat.length; at++) {
    const score = heat[at]!;
    if (score < threshold) continue;
    const kind = Math.floor(at / plane);
    const cell = at - kind * plane;
    if (!isPeak(heat, kind * plane, cell, score)) continue;
    const label = objectLabels[kind]!;
    const cx = (cell % objectGrid) * stride;
    const cy = Math.floor(cell / objectGrid) * stride;
    const [left, top, right, bottom] = [0, 1, 2, 3].map((edge) => size[edge * plane + cell]!) as [
      number,
      number,
      number,
      number,
    ];
    const x = Math.max(0, cx - left) / objectSide;
    const y = Math.max(0, cy - top) / objectSide;
    const width = Math.min(objectSide, cx + right) / objectSide - x;
    const height = Math.min(objectSide, cy + bottom) / objectSide - y;
    if (width > 0.01 && height > 0.01) found.push({ x, y, width, height, score, label });
  }
  return suppress(found, 0.5);
}

function isPeak(heat: Float32Array, base: number, cell: number, score: number): boolean {
  const x = cell % objectGrid;
  const y = Math.floor(cell / objectGrid);
  for (let dy = -1; dy <= 1; dy++)
    for (let dx = -1; dx <= 1; dx++) {
      const u = x + dx,
        v = y + dy;
      if (u < 0 || v < 0 || u >= objectGrid || v >= objectGrid) continue;
      if (heat[base + v * objectGrid + u]! > score) return false;
    }
  return true;
}

/** A stretch in which a thing is seen, in seconds. */
export interface ObjectRun extends Range {
  label: ObjectLabel;
  /** Most of them at once. */
  most: number;
  /** Share of the picture that the largest of them covers, at its largest. */
  size: number;
  confidence: number;
}

/** Seen once and weakly, it is a mistake. */
const sureAlone = 0.6;

/**
 * When each kind of thing is in the picture: from half way to the sample before to half way to the sample after,
 * joined over a missed sample, ended by a cut. What is seen only once must be sure.
 * @param cuts scene boundaries in seconds
 */
export function objectRuns(samples: readonly ObjectSample[], cuts: readonly number[], duration: number): ObjectRun[] {
  const runs: ObjectRun[] = [];
  const open = new Map<ObjectLabel, ObjectRun & { at: number; seen: number }>();
  const cutBetween = (a: number, b: number) => cuts.find((cut) => cut > a && cut <= b);
  const close = (label: ObjectLabel) => {
    const { at: _, seen, ...run } = open.get(label)!;
    open.delete(label);
    if (seen > 1 || run.confidence >= sureAlone) runs.push(run);
  };
  for (const [index, { time, boxes }] of samples.entries()) {
    const before = samples[index - 1]?.time ?? 0;
    const after = samples[index + 1]?.time ?? duration;
    const cut = cutBetween(before, time);
    for (const [label, run] of open) if (cut !== undefined || index - run.at > 2) close(label);
    for (const label of new Set(boxes.map((box) => box.label))) {
      const own = boxes.filter((box) => box.label === label);
      const confidence = Math.max(...own.map((box) => box.score));
      const size = Math.max(...own.map((box) => box.width * box.height));
      const end = Math.min(
        duration,
        cutBetween(time, after) ?? (index + 1 < samples.length ? (time + after) / 2 : duration),
      );
      const run = open.get(label);
      if (run)
        Object.assign(run, {
          end,
          at: index,
          seen: run.seen + 1,
          most: Math.max(run.most, own.length),
          size: Math.max(run.size, size),
          confidence: Math.max(run.confidence, confidence),
        });
      else
        open.set(label, {
          label,
          start: cut ?? (index ? (before + time) / 2 : 0),
          end,
          most: own.length,
          size,
          confidence,
          at: index,
          seen: 1,
        });
    }
  }
  for (const label of [...open.keys()]) close(label);
  return runs.sort((a, b) => a.start - b.start);
}
