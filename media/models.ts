import { existsSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';

/** Where the models lie: inside the registry packages that ship them, so nothing is fetched at run time. */
const require = createRequire(import.meta.url);
function packageFolder(name: string): string {
  const folder = require.resolve.paths(name)?.map((each) => join(each, name)).find((each) => existsSync(join(each, 'package.json')));
  if (!folder) throw new Error(`The package ${name} is not installed; run npm ci.`);
  return folder;
}

export const modelFiles = {
  faces: () => join(packageFolder('@vladmandic/human'), 'models', 'blazeface.json'),
  voice: () => join(packageFolder('@ricky0123/vad-web'), 'dist', 'silero_vad_v5.onnx'),
  wasm: () => `${packageFolder('@tensorflow/tfjs-backend-wasm')}/dist/`,
};

/** A converted TensorFlow.js graph model, read from disk. */
export function readGraphModel(jsonFile: string) {
  const model = JSON.parse(readFileSync(jsonFile, 'utf8')) as {
    modelTopology: object;
    weightsManifest: { paths: string[]; weights: { name: string; shape: number[]; dtype: 'float32' }[] }[];
  };
  const weights = model.weightsManifest.flatMap((group) => group.paths.map((path) => readFileSync(join(dirname(jsonFile), path))));
  const data = Buffer.concat(weights);
  return {
    modelTopology: model.modelTopology,
    weightSpecs: model.weightsManifest.flatMap((group) => group.weights),
    weightData: data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength),
  };
}
