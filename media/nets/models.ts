import { existsSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { objectSide } from '#core/picture';
import { descriptorNet, expressionNet } from './faceNets';
import { graphModelToNet } from './graphModel';
import { ort, type InferenceSession } from './runtime';

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
};
/** The net that hears speech, as the package ships it. */
export const voiceFile = (): string => join(packageFolder('@ricky0123/vad-web'), 'dist', 'silero_vad_v5.onnx');

/** Pixels on a side of what the face detector looks at. */
export const detectorSide = 256;

const makers = {
  faces: () =>
    graphModelToNet(
      modelFiles.faces(),
      [3, detectorSide, detectorSide],
      ['Identity', 'Identity_1', 'Identity_2', 'Identity_3'],
    ),
  objects: () =>
    graphModelToNet(modelFiles.objects(), [3, objectSide, objectSide], ['tower_0/keypoints', 'tower_0/wh']),
  descriptor: () => descriptorNet(modelFiles.descriptor()),
  expression: () => expressionNet(modelFiles.expression()),
};
type NetName = keyof typeof makers;
export const netNames = Object.keys(makers) as NetName[];

/** A net in the format of onnxruntime, out of the package that ships it. */
export const buildNet = (name: NetName): Uint8Array => makers[name]();

/** Where a release has its nets, made already. */
const made = (name: string): string => join(process.cwd(), 'nets', `${name}.onnx`);

/** One thread a net: several nets and the decoder share the cores. */
export const openNet = (model: string | Uint8Array): Promise<InferenceSession> => {
  const options = { intraOpNumThreads: 1, interOpNumThreads: 1, logSeverityLevel: 3 as const };
  return typeof model === 'string'
    ? ort.InferenceSession.create(model, options)
    : ort.InferenceSession.create(model, options);
};

export const loadNet = (name: NetName): Promise<InferenceSession> =>
  openNet(existsSync(made(name)) ? made(name) : buildNet(name));
export const loadVoiceNet = (): Promise<InferenceSession> =>
  openNet(existsSync(made('voice')) ? made('voice') : voiceFile());
