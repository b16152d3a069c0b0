import { existsSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import ort from 'onnxruntime-node';

/** Where the models lie: inside the registry packages that ship them, so nothing is fetched at run time. */
const require = createRequire(import.meta.url);
function packageFolder(name: string): string {
  const folder = require.resolve
    .paths(name)
    ?.map((each) => join(each, name))
    .find((each) => existsSync(join(each, 'package.json')));
  if (!folder) throw new Error(`The package ${name} is not installed; run npm ci.`);
  return folder;
}

export const modelFiles = {
  faces: () => join(packageFolder('@vladmandic/human'), 'models', 'blazeface.json'),
  objects: () => join(packageFolder('@vladmandic/human'), 'models', 'centernet.json'),
  descriptor: () =>
    join(packageFolder('@vladmandic/face-api'), 'model', 'face_recognition_model-weights_manifest.json'),
  expression: () => join(packageFolder('@vladmandic/face-api'), 'model', 'face_expression_model-weights_manifest.json'),
  voice: () => join(packageFolder('@ricky0123/vad-web'), 'dist', 'silero_vad_v5.onnx'),
};

/** One thread a net: several nets and the decoder share the cores. */
export const openNet = (model: string | Uint8Array): Promise<ort.InferenceSession> => {
  const options = { intraOpNumThreads: 1, interOpNumThreads: 1, logSeverityLevel: 3 as const };
  return typeof model === 'string'
    ? ort.InferenceSession.create(model, options)
    : ort.InferenceSession.create(model, options);
};
