import type { Readable } from 'node:stream';
import {
  intersectionOverUnion,
  coloursOf,
  objectSide,
  tintOf,
  wornColours,
  type ColourPicture,
  type FaceBox,
  type FaceSample,
  type ObjectSample,
} from '#core/picture';
import { fixedBlocks } from './blocks';
import { faceHz, facesWidth, objectHz, type ReadPlan } from './readPlan';
import { detectorSide } from '../nets/models';
import { FaceFinder, findObjects, letterbox } from '../nets/vision';

/** Mean change of a byte under which two frames count as the same, and the faces of the first are kept. */
const sameUnder = 0.35;
/** Smaller faces, in pixels of the frame, say nothing about who it is or how they feel. */
const smallestForDescriptor = 34;
const smallestForSmile = 26;
const smallestForColours = 16;
const descriptorsPerTrack = 4;
const objectSeconds = 2;
/** Mean change of a byte that makes another picture. */
const anotherPicture = 24;

interface Follow {
  box: FaceBox;
  seen: number;
  described: number;
  next: number;
}

/** Cuts a part out of the left edge of rows of RGB pixels. */
function leftOf(pixels: Uint8Array, from: number, rows: number, width: number, whole: number): Uint8Array {
  const out = new Uint8Array(width * rows * 3);
  for (let row = 0; row < rows; row++)
    out.set(pixels.subarray((from + row) * whole * 3, ((from + row) * whole + width) * 3), row * width * 3);
  return out;
}

/**
 * Faces in every square, their smiles, and descriptors of a few good pictures per face, cut from the larger colour
 * frames. What does not change is not looked at again.
 * @param stream frames that hold the square above the colour frame, as `planReading` stacks them
 */
export async function measureFaces(
  stream: AsyncIterable<Uint8Array>,
  { colour }: Pick<ReadPlan, 'colour'>,
): Promise<FaceSample[]> {
  const place = letterbox(colour.width, colour.height);
  const faces: FaceSample[] = [];
  const width = facesWidth(colour);
  let finder: FaceFinder | null = null;
  let last: Uint8Array | null = null;
  let following: Follow[] = [];
  for await (const both of fixedBlocks(stream, width * (detectorSide + colour.height) * 3)) {
    const rgb = leftOf(both, 0, detectorSide, detectorSide, width);
    finder ??= await FaceFinder.load();
    const time = faces.length / faceHz;
    const before = faces.at(-1);
    if (last && before && meanChange(last, rgb) < sameUnder) {
      faces.push({ time, boxes: before.boxes.map(({ descriptor: _, ...box }) => box) });
      continue;
    }
    last = rgb;
    const boxes = await finder.find(rgb, place);
    following = follow(following, boxes, time);
    await lookCloser(
      finder,
      { ...colour, data: leftOf(both, detectorSide, colour.height, colour.width, width) },
      following,
      time,
    );
    faces.push({ time, boxes });
  }
  return faces;
}

async function lookCloser(
  finder: FaceFinder,
  frame: ColourPicture,
  following: readonly Follow[],
  time: number,
): Promise<void> {
  for (const own of following) {
    const { box } = own;
    const pixels = Math.min(box.width * frame.width, box.height * frame.height);
    if (pixels >= smallestForColours) box.worn = wornColours(frame, box);
    if (pixels >= smallestForSmile) box.smile = Math.round((await finder.smile(frame, box)) * 1000) / 1000;
    if (
      own.seen < 2 ||
      time < own.next ||
      own.described >= descriptorsPerTrack ||
      pixels < smallestForDescriptor ||
      box.score < 0.75 ||
      touchesEdge(box)
    )
      continue;
    box.descriptor = await finder.describe(frame, box);
    own.described++;
    own.next = time + 1.5 * own.described ** 2;
  }
}

/** Objects every two seconds, and where the picture has become another one. */
export async function measureObjects(stream: AsyncIterable<Uint8Array>): Promise<ObjectSample[]> {
  const objects: ObjectSample[] = [];
  let lookedAt: Uint8Array | null = null;
  let frames = 0;
  for await (const rgb of fixedBlocks(stream, objectSide * objectSide * 3)) {
    const time = frames++ / objectHz;
    const change = lookedAt ? meanChange(lookedAt, rgb) : 255;
    const last = objects.at(-1);
    if (last && time - last.time < objectSeconds - 1e-6 && change < anotherPicture) continue;
    if (last && change < sameUnder) objects.push({ ...last, time });
    else {
      const picture: ColourPicture = { width: objectSide, height: objectSide, data: rgb };
      const boxes = await findObjects(rgb);
      for (const box of boxes) {
        const colours = coloursOf(picture, box);
        if (colours.length > 0) box.colours = colours;
      }
      objects.push({ time, boxes, tint: tintOf(picture) });
    }
    lookedAt = rgb.slice();
  }
  return objects;
}

/** Which face goes on as which, by the overlap of their boxes; new ones begin. */
function follow(before: readonly Follow[], boxes: readonly FaceBox[], time: number): Follow[] {
  const free = new Set(before);
  return boxes.map((box) => {
    const like = [...free]
      .map((each) => ({ each, shared: intersectionOverUnion(each.box, box) }))
      .sort((a, b) => b.shared - a.shared)[0];
    if (!like || like.shared < 0.25) return { box, seen: 1, described: 0, next: time };
    free.delete(like.each);
    return { ...like.each, box, seen: like.each.seen + 1 };
  });
}

const touchesEdge = ({ x, y, width, height }: FaceBox) =>
  x < 0.005 || y < 0.005 || x + width > 0.995 || y + height > 0.995;

/** Over every 29th byte: enough to tell a standing picture from a moving one. */
function meanChange(a: Uint8Array, b: Uint8Array): number {
  let sum = 0;
  let count = 0;
  for (let index = 0; index < a.length; index += 29, count++) sum += Math.abs(a[index]! - b[index]!);
  return sum / count;
}

/** Faces of a rough first look: counts and places only. */
export async function measureCoarseFaces(
  squares: Readable,
  { colour }: ReadPlan,
  everySeconds: number,
): Promise<FaceSample[]> {
  const place = letterbox(colour.width, colour.height);
  const faces: FaceSample[] = [];
  for await (const rgb of fixedBlocks(squares, detectorSide * detectorSide * 3))
    faces.push({ time: faces.length * everySeconds, boxes: await (await FaceFinder.load()).find(rgb, place) });
  return faces;
}
