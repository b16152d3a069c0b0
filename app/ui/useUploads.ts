import { useCallback, useRef, useState } from 'react';
import { useRevalidator } from 'react-router';
import { Upload } from 'tus-js-client';

export interface UploadLine {
  id: number;
  name: string;
  size: number;
  share: number;
  secondsLeft: number | null;
  problem: string | null;
}

const atOnce = 2;

/** Resumable uploads: a few at once, the rest in line; a broken one is tried again and goes on where it stopped. */
export function useUploads(projectId: string, binId: string | null) {
  const [uploads, setUploads] = useState<UploadLine[]>([]);
  const running = useRef(new Map<number, Upload>());
  const waiting = useRef<(() => void)[]>([]);
  const next = useRef(0);
  const { revalidate } = useRevalidator();

  const change = useCallback(
    (id: number, values: Partial<UploadLine>) =>
      setUploads((now) => now.map((each) => (each.id === id ? { ...each, ...values } : each))),
    [],
  );
  const remove = useCallback((id: number) => setUploads((now) => now.filter((each) => each.id !== id)), []);
  const advance = useCallback(() => {
    while (running.current.size < atOnce && waiting.current.length) waiting.current.shift()!();
  }, []);

  const start = useCallback(
    (id: number, file: File) => {
      const began = Date.now();
      let resumedAt = -1;
      const end = () => {
        running.current.delete(id);
        advance();
      };
      const upload = new Upload(file, {
        endpoint: '/upload',
        retryDelays: [0, 1000, 3000, 5000, 10000, 20000],
        chunkSize: 32 * 1024 * 1024,
        removeFingerprintOnSuccess: true,
        metadata: { filename: file.name, projectId, ...(binId ? { binId } : {}) },
        onProgress: (sent, total) => {
          if (resumedAt < 0) resumedAt = sent;
          const pace = (sent - resumedAt) / Math.max(1, Date.now() - began);
          change(id, {
            share: total ? sent / total : 1,
            secondsLeft: pace > 0 && Date.now() - began > 1000 ? (total - sent) / pace / 1000 : null,
          });
        },
        onSuccess: () => {
          end();
          remove(id);
          void revalidate();
        },
        onError: (error) => {
          end();
          const status = (error as { originalResponse?: { getStatus(): number; getBody(): string } | null })
            .originalResponse;
          change(id, {
            problem: status
              ? status.getBody() || 'The server refused this file.'
              : 'The server cannot be reached. Drop the file again later; what was sent is kept.',
          });
        },
      });
      running.current.set(id, upload);
      void upload.findPreviousUploads().then((previous) => {
        if (previous[0]) upload.resumeFromPreviousUpload(previous[0]);
        upload.start();
      });
    },
    [advance, binId, change, projectId, remove, revalidate],
  );

  const add = useCallback(
    (files: File[]) => {
      for (const file of files) {
        const id = next.current++;
        const empty = file.size === 0;
        setUploads((now) => [
          ...now,
          {
            id,
            name: file.name,
            size: file.size,
            share: 0,
            secondsLeft: null,
            problem: empty ? 'The file is empty. Copy it from the camera again.' : null,
          },
        ]);
        if (!empty) waiting.current.push(() => start(id, file));
      }
      advance();
    },
    [advance, start],
  );

  const cancel = useCallback(
    (id: number) => {
      void running.current.get(id)?.abort(true);
      running.current.delete(id);
      remove(id);
      advance();
    },
    [advance, remove],
  );
  return { uploads, add, cancel };
}
