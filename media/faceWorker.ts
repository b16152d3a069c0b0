import { parentPort } from 'node:worker_threads';
import type { Letterbox } from '#core/picture';
import { FaceDetector } from './faceDetector';

/** Finds faces on another core than the one that measures motion. */
const detector = FaceDetector.load();

parentPort!.on('message', async ({ id, rgb, picture }: { id: number; rgb: Uint8Array; picture: Letterbox }) => {
  try {
    parentPort!.postMessage({ id, boxes: (await detector).detect(rgb, picture) });
  } catch (error) {
    parentPort!.postMessage({ id, error: String(error) });
  }
});
