import { Worker } from 'node:worker_threads';
import type { FaceBox, Letterbox } from '#core/picture';

interface Waiting {
  resolve(boxes: FaceBox[]): void;
  reject(error: Error): void;
}

/** Sends pictures to the face worker; `close` ends it. */
export class FacePool {
  private readonly worker = new Worker(new URL('./faceWorker.mjs', import.meta.url));
  private readonly waiting = new Map<number, Waiting>();
  private next = 0;
  private failure: Error | null = null;

  constructor() {
    this.worker.on('message', ({ id, boxes, error }: { id: number; boxes: FaceBox[]; error?: string }) => {
      const waiting = this.waiting.get(id);
      this.waiting.delete(id);
      if (error) waiting?.reject(new Error(error));
      else waiting?.resolve(boxes);
    });
    this.worker.on('error', (error) => this.fail(error));
    this.worker.on('exit', () => this.fail(new Error('The face detector ended.')));
  }

  detect(rgb: Uint8Array, picture: Letterbox): Promise<FaceBox[]> {
    if (this.failure) return Promise.reject(this.failure);
    const id = this.next++;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject });
      this.worker.postMessage({ id, rgb, picture }, [rgb.buffer as ArrayBuffer]);
    });
  }

  private fail(error: Error) {
    this.failure ??= error;
    for (const waiting of this.waiting.values()) waiting.reject(this.failure);
    this.waiting.clear();
  }

  close(): void {
    void this.worker.terminate();
  }
}
