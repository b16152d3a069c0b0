import {
  blazeAnchors,
  decodeFaces,
  decodeObjects,
  objectSide,
  planes,
  type ColourPicture,
  type FaceBox,
  type Letterbox,
  type ObjectBox,
  type Part,
} from '#core/picture';
import { detectorSide, loadNet } from './models';
import { descriptorSide, expressionSide } from './faceNets';
import { ort, type InferenceSession, type Tensor } from './runtime';

/** Where a picture of this shape lies in the detector's square. */
export function letterbox(width: number, height: number): Letterbox {
  const longest = Math.max(width, height);
  const w = width / longest;
  const h = height / longest;
  return { x: (1 - w) / 2, y: (1 - h) / 2, width: w, height: h };
}

const tensor = (data: Float32Array, side: number) =>
  new ort.Tensor('float32', data, [data.length / (3 * side * side), 3, side, side]);

/** A square of R'G'B' bytes as three planes of floats. */
function square(rgb: Uint8Array, side: number, scale = 1, offset = 0): Tensor {
  const size = side * side;
  const out = new Float32Array(3 * size);
  for (let index = 0, at = 0; index < size; index++, at += 3) {
    out[index] = rgb[at]! * scale + offset;
    out[size + index] = rgb[at + 1]! * scale + offset;
    out[2 * size + index] = rgb[at + 2]! * scale + offset;
  }
  return tensor(out, side);
}

/** Nets are opened once a process, at the first file. */
const once = <Value>(make: () => Promise<Value>) => {
  let made: Promise<Value> | null = null;
  return () => (made ??= make());
};
const detectorNet = once(() => loadNet('faces'));
const describeNet = once(() => loadNet('descriptor'));
const smileNet = once(() => loadNet('expression'));
const objectNet = once(() => loadNet('objects'));

/** Finds faces with the back-camera BlazeFace net; about 10 ms a picture on one core. */
export class FaceFinder {
  private readonly anchors = blazeAnchors();
  private constructor(private readonly net: InferenceSession) {}

  static async load(): Promise<FaceFinder> {
    return new FaceFinder(await detectorNet());
  }

  /** @param rgb 256 × 256 × 3 bytes; `place` says where in the square the picture lies */
  async find(rgb: Uint8Array, place: Letterbox): Promise<FaceBox[]> {
    const outputs = Object.values(await this.net.run({ picture: square(rgb, detectorSide, 1 / 127.5, -1) }));
    const of = (count: number, depth: number) =>
      outputs.find(({ dims }) => dims[1] === count && dims[2] === depth)!.data as Float32Array;
    const join = (a: Float32Array, b: Float32Array) => {
      const all = new Float32Array(a.length + b.length);
      all.set(a);
      all.set(b, a.length);
      return all;
    };
    return decodeFaces(join(of(512, 1), of(384, 1)), join(of(512, 16), of(384, 16)), this.anchors, place);
  }

  /** 128 numbers that are alike for pictures of one person; about 7 ms. */
  async describe(frame: ColourPicture, box: FaceBox): Promise<number[]> {
    const result = await (
      await describeNet()
    ).run({
      picture: tensor(planes(frame, faceSquare(frame, box, 1.4), descriptorSide, descriptorSide), descriptorSide),
    });
    return Array.from(result.descriptor!.data as Float32Array, (value) => Math.round(value * 1e4) / 1e4);
  }

  /** How much a face smiles or laughs, 0 to 1; about 1.5 ms. */
  async smile(frame: ColourPicture, box: FaceBox): Promise<number> {
    const result = await (
      await smileNet()
    ).run({
      picture: tensor(planes(frame, faceSquare(frame, box, 1.25), expressionSide, expressionSide), expressionSide),
    });
    return (result.expression!.data as Float32Array)[1]!;
  }
}

/** A square in pixels around a face's box, so many times its longer side. */
function faceSquare(frame: ColourPicture, box: FaceBox, times: number): Part {
  const side = Math.max(box.width * frame.width, box.height * frame.height) * times;
  const width = side / frame.width;
  const height = side / frame.height;
  return { x: box.x + box.width / 2 - width / 2, y: box.y + box.height / 2 - height / 2, width, height };
}

/** Finds the 80 things of COCO in 512 × 512 × 3 bytes (the picture stretched) with a centre net; about 80 ms on one core. */
export async function findObjects(rgb: Uint8Array): Promise<ObjectBox[]> {
  const { output0, output1 } = await (await objectNet()).run({ picture: square(rgb, objectSide) });
  return decodeObjects(output0!.data as Float32Array, output1!.data as Float32Array);
}
