import { gunzipSync, gzipSync } from 'node:zlib';
import { changedParts, readerVersion, type RawTraceName } from '#core/readings';
import type { Trace } from '#core/signal';
import { firstTrack } from '#core/sound';
import type { ReadResult } from './read';

/** A reading as one compressed document, so that it can travel with its file. Thumbnails and proxy travel beside it. */
interface PackedReading extends Omit<ReadResult, 'raw'> {
  version: number;
  raw: Omit<ReadResult['raw'], 'traces' | 'look' | 'fine'> & {
    traces: { name: string; hz: number; start: number; values: string }[];
    look: string;
    fine: string;
  };
}

const pack = (values: Float32Array) =>
  Buffer.from(values.buffer, values.byteOffset, values.byteLength).toString('base64');
const unpack = (text: string) => new Float32Array(Uint8Array.from(Buffer.from(text, 'base64')).buffer);

export function packReading({ raw, ...rest }: ReadResult): Buffer {
  const document: PackedReading = {
    ...rest,
    version: readerVersion,
    raw: {
      ...raw,
      look: pack(raw.look),
      fine: pack(raw.fine),
      traces: [...raw.traces.values()].map((trace) => ({ ...trace, values: pack(trace.values) })),
    },
  };
  return gzipSync(JSON.stringify(document), { level: 9 });
}

/** Null when a part of the reader has changed since it was made: then the file must be read again. */
export function unpackReading(bytes: Buffer): ReadResult | null {
  const { version, raw, ...rest } = JSON.parse(gunzipSync(bytes).toString()) as PackedReading;
  if (version > readerVersion || changedParts(version).length) return null;
  const traces = raw.traces.map((trace): [RawTraceName, Trace] => [
    trace.name as RawTraceName,
    { ...trace, values: unpack(trace.values) },
  ]);
  // Written before there were working copies.
  return {
    ...rest,
    copy: rest.copy ?? null,
    heard: rest.heard ?? firstTrack,
    listened: rest.listened ?? null,
    raw: { ...raw, look: unpack(raw.look), fine: unpack(raw.fine), traces: new Map(traces) },
  };
}
