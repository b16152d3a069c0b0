import { createRequire } from 'node:module';

/** It would send reports of its use over the network; it asks once, when its library is loaded. */
process.env.ORT_DISABLE_TELEMETRY = '1';

/** What runs the nets. Asked for here and nowhere else, so that it is always told first. */
export const ort = createRequire(import.meta.url)('onnxruntime-node') as typeof import('onnxruntime-node');
export type { InferenceSession, Tensor } from 'onnxruntime-node';
