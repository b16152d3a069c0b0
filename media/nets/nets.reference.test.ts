import { createRequire } from 'node:module';
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import * as tf from '@tensorflow/tfjs-core';
import { loadGraphModel } from '@tensorflow/tfjs-converter';
import { setWasmPaths } from '@tensorflow/tfjs-backend-wasm';
import { beforeAll, describe, expect, it } from 'vitest';
import { buildNet, modelFiles, openNet } from './models';
import { ffmpeg, realPicture } from '../testMedia';
import { descriptorSide, expressionSide } from './faceNets';
import { halfToFloat } from './weights';
import { ort } from './runtime';

const require = createRequire(import.meta.url);

/** A real picture as planes, and as TensorFlow lays it out. */
function picture(side: number, scale: number, offset: number) {
  const rgb = ffmpeg(
    '-i',
    realPicture('messi5.jpg'),
    '-vf',
    `crop=200:200:180:30,scale=${side}:${side},format=rgb24`,
    '-frames:v',
    '1',
    '-f',
    'rawvideo',
    '-',
  );
  const interleaved = Float32Array.from(rgb, (value) => value * scale + offset);
  const size = side * side;
  const planes = Float32Array.from(
    { length: 3 * size },
    (_, index) => interleaved[(index % size) * 3 + Math.floor(index / size)]!,
  );
  return { interleaved, planes };
}
const run = async (model: Uint8Array, planes: Float32Array, side: number) =>
  (await openNet(model)).run({ picture: new ort.Tensor('float32', planes, [1, 3, side, side]) });
const largestDifference = (a: ArrayLike<number>, b: ArrayLike<number>) =>
  Array.from(a).reduce((most, value, index) => Math.max(most, Math.abs(value - b[index]!)), 0);

function tensorflowModel(file: string) {
  const model = JSON.parse(readFileSync(file, 'utf8')) as {
    modelTopology: object;
    weightsManifest: { paths: string[]; weights: tf.io.WeightsManifestEntry[] }[];
  };
  const data = Buffer.concat(
    model.weightsManifest.flatMap((group) => group.paths.map((path) => readFileSync(join(dirname(file), path)))),
  );
  return loadGraphModel({
    load: () =>
      Promise.resolve({
        modelTopology: model.modelTopology,
        weightSpecs: model.weightsManifest.flatMap((group) => group.weights),
        weightData: data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength),
      }),
  });
}

// Reference: the same models run by TensorFlow.js and by the face package itself, on a photograph of opencv-doc.
describe('nets on onnxruntime say what their own libraries say', () => {
  beforeAll(async () => {
    setWasmPaths(`${dirname(require.resolve('@tensorflow/tfjs-backend-wasm/package.json'))}/dist/`);
    await tf.setBackend('wasm');
    await tf.ready();
  });
  it.each([
    ['faces', 256, 1 / 127.5, -1, ['Identity', 'Identity_1', 'Identity_2', 'Identity_3'], 0.01],
    ['objects', 512, 1, 0, ['tower_0/keypoints'], 1e-4],
  ] as const)('%s', async (name, side, scale, offset, outputs, within) => {
    const { interleaved, planes } = picture(side, scale, offset);
    const model = await tensorflowModel(modelFiles[name]());
    const executed = model.execute(tf.tensor(interleaved, [1, side, side, 3]), [...outputs]);
    const wanted = Array.isArray(executed) ? executed : [executed];
    const got = await run(buildNet(name), planes, side);
    for (const [index, tensor] of wanted.entries()) {
      const depth = tensor.shape.length === 4 ? tensor.shape[3] : 0;
      const values = tensor.dataSync();
      const cells = depth ? values.length / depth : 0;
      // Pictures come out as planes here, interleaved there.
      const same = depth
        ? Float32Array.from(
            { length: values.length },
            (_, at) => values[(at % cells) * depth + Math.floor(at / cells)]!,
          )
        : values;
      expect(largestDifference(same, got[`output${index}`]!.data as Float32Array)).toBeLessThan(within);
    }
  });
  it('descriptor and expression', async () => {
    const face = require('@vladmandic/face-api/dist/face-api.node-wasm.js') as {
      nets: { faceRecognitionNet: Net; faceExpressionNet: Net };
    };
    interface Net {
      loadFromDisk(folder: string): Promise<void>;
      computeFaceDescriptor(input: tf.Tensor): Promise<Float32Array>;
      predictExpressions(input: tf.Tensor): Promise<Record<string, number>>;
    }
    const { faceRecognitionNet: looks, faceExpressionNet: mood } = face.nets;
    await looks.loadFromDisk(dirname(modelFiles.descriptor()));
    await mood.loadFromDisk(dirname(modelFiles.expression()));
    const a = picture(descriptorSide, 1, 0);
    const descriptor = await looks.computeFaceDescriptor(
      tf.tensor3d(a.interleaved, [descriptorSide, descriptorSide, 3]),
    );
    expect(
      largestDifference(
        descriptor,
        (await run(buildNet('descriptor'), a.planes, descriptorSide)).descriptor!.data as Float32Array,
      ),
    ).toBeLessThan(1e-4);
    const b = picture(expressionSide, 1, 0);
    const { happy } = await mood.predictExpressions(tf.tensor3d(b.interleaved, [expressionSide, expressionSide, 3]));
    expect((await run(buildNet('expression'), b.planes, expressionSide)).expression!.data[1]).toBeCloseTo(happy!, 4);
  });
});

// Source: IEEE 754-2008, binary16: largest 65504, smallest normal 2^-14, smallest of all 2^-24.
it.each([
  [0x3c00, 1],
  [0xc000, -2],
  [0x7bff, 65504],
  [0x0400, 2 ** -14],
  [0x0001, 2 ** -24],
  [0x3555, 0.333251953125],
  [0, 0],
])('half float %i', (bits, value) => expect(halfToFloat(bits)).toBe(value));
