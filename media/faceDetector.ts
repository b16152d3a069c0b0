import * as tf from '@tensorflow/tfjs-core';
import { loadGraphModel, type GraphModel } from '@tensorflow/tfjs-converter';
import { setWasmPaths } from '@tensorflow/tfjs-backend-wasm';
import '@tensorflow/tfjs-backend-cpu';
import { blazeAnchors, decodeFaces, type FaceBox, type Letterbox } from '#core/picture';
import { modelFiles, readGraphModel } from './models';

export const detectorSide = 256;

/** Finds faces in 256 × 256 letterboxed RGB pictures with the back-camera BlazeFace net; about 80 ms each on one core. */
export class FaceDetector {
  private readonly anchors = blazeAnchors();
  private constructor(private readonly model: GraphModel) {}

  static async load(): Promise<FaceDetector> {
    setWasmPaths(modelFiles.wasm());
    await tf.setBackend('wasm');
    await tf.ready();
    const artifacts = readGraphModel(modelFiles.faces());
    return new FaceDetector(await loadGraphModel({ load: () => Promise.resolve(artifacts) }));
  }

  /** @param rgb 256 × 256 × 3 bytes; `picture` says where in the square the picture lies */
  detect(rgb: Uint8Array, picture: Letterbox): FaceBox[] {
    const outputs = tf.tidy(() => {
      const input = tf.tensor(Float32Array.from(rgb, (value) => value / 127.5 - 1), [1, detectorSide, detectorSide, 3]);
      return this.model.execute(input, undefined) as tf.Tensor[];
    });
    const byShape = (count: number, depth: number) => outputs.find((tensor) => tensor.shape[1] === count && tensor.shape[2] === depth)!.dataSync() as Float32Array;
    const join = (a: Float32Array, b: Float32Array) => {
      const all = new Float32Array(a.length + b.length);
      all.set(a);
      all.set(b, a.length);
      return all;
    };
    const scores = join(byShape(512, 1), byShape(384, 1));
    const boxes = join(byShape(512, 16), byShape(384, 16));
    tf.dispose(outputs);
    return decodeFaces(scores, boxes, this.anchors, picture);
  }
}

/** Where a picture of this shape lies in the detector's square. */
export function letterbox(width: number, height: number): Letterbox {
  const longest = Math.max(width, height);
  const w = width / longest;
  const h = height / longest;
  return { x: (1 - w) / 2, y: (1 - h) / 2, width: w, height: h };
}
