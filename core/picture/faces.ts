import type { Worn } from './colourNames';
import { overlap as timeOverlap, type Range } from '#core/time';

/** Fractions of the picture, from its top left corner. */
export interface FaceBox {
  x: number;
  y: number;
  width: number;
  height: number;
  score: number;
  /** How much the face smiles or laughs, 0 to 1; missing where the face is too small to tell. */
  smile?: number;
  /** Colours of what is worn; missing where the picture does not show it. */
  worn?: Worn;
  /** 128 numbers that are alike for pictures of one person; only on the pictures chosen for comparing. */
  descriptor?: number[];
}

/** The faces of one picture; time in seconds. */
export interface FaceSample {
  time: number;
  boxes: FaceBox[];
}

/** Where a picture lies in the square the detector sees: offset and size as fractions of the square. */
export interface Letterbox {
  x: number;
  y: number;
  width: number;
  height: number;
}

const side = 256;

/** Anchor middles of the back-camera BlazeFace net (Bazarevsky and others 2019): stride 16 × 2, stride 32 × 6. */
export function blazeAnchors(): Float32Array {
  const anchors: number[] = [];
  for (const [stride, each] of [
    [16, 2],
    [32, 6],
  ] as const) {
    const cells = side / stride;
    for (let y = 0; y < cells; y++)
      for (let x = 0; x < cells; x++)
        for (let copy = 0; copy < each; copy++) anchors.push((x + 0.5) / cells, (y + 0.5) / cells);
  }
  return Float32Array.from(anchors);
}

/**
 * Face boxes from the detector's raw outputs.
 * @param scores 896 logits, the 512 of stride 16 first
 * @param boxes 896 × 16 values; the first four are centre offset and size in units of 256 pixels
 */
export function decodeFaces(
  scores: Float32Array,
  boxes: Float32Array,
  anchors: Float32Array,
  picture: Letterbox,
  threshold = 0.5,
  maxOverlap = 0.3,
): FaceBox[] {
  const found: FaceBox[] = [];
  for (let index = 0; index < scores.length; index++) {
    const score = 1 / (1 + Math.exp(-scores[index]!));
    if (score < threshold) continue;
    const width = boxes[index * 16 + 2]! / side / picture.width;
    const height = boxes[index * 16 + 3]! / side / picture.height;
    const cx = (anchors[index * 2]! + boxes[index * 16]! / side - picture.x) / picture.width;
    const cy = (anchors[index * 2 + 1]! + boxes[index * 16 + 1]! / side - picture.y) / picture.height;
    found.push({ x: cx - width / 2, y: cy - height / 2, width, height, score });
  }
  return suppress(found, maxOverlap)
    .map(inside)
    .filter((box) => box.width > 0.004 && box.height > 0.004);
}

/** Non-maximum suppression by intersection over union. */
export function suppress<Box extends FaceBox>(boxes: Box[], maxOverlap: number): Box[] {
  const kept: Box[] = [];
  for (const box of boxes.sort((a, b) => b.score - a.score))
    if (kept.every((other) => intersectionOverUnion(box, other) <= maxOverlap)) kept.push(box);
  return kept;
}

/** Area that two boxes share, over the area that they cover; 0 to 1. */
export function intersectionOverUnion(a: FaceBox, b: FaceBox): number {
  const span = (from: number, length: number): Range => ({ start: from, end: from + length });
  const shared =
    timeOverlap(span(a.x, a.width), span(b.x, b.width)) * timeOverlap(span(a.y, a.height), span(b.y, b.height));
  return shared / (a.width * a.height + b.width * b.height - shared);
}

function inside(box: FaceBox): FaceBox {
  const x = Math.max(0, box.x);
  const y = Math.max(0, box.y);
  return {
    x,
    y,
    width: Math.min(1, box.x + box.width) - x,
    height: Math.min(1, box.y + box.height) - y,
    score: box.score,
  };
}
