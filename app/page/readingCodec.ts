import type { Footage } from '#core/moments';
import { displayTraceNames, lookColumns, lookHz, lookRows, type Derived, type DisplayTraces, type Run } from '#core/readings';

interface Head {
  durationSeconds: number;
  hz: number;
  runs: Run[];
  counts: number[];
}

/** A reading as bytes: length of the head (uint32), head (JSON, padded to four), then the traces and the looks as float32. */
export function encodeReading(derived: Derived & { look: Float32Array }): Uint8Array {
  const lists = [...displayTraceNames.map((name) => derived.traces[name]), derived.look];
  const head: Head = { durationSeconds: derived.durationSeconds, hz: derived.hz, runs: derived.runs, counts: lists.map((list) => list.length) };
  const text = new TextEncoder().encode(JSON.stringify(head));
  const padded = Math.ceil(text.length / 4) * 4;
  const bytes = new Uint8Array(4 + padded + 4 * lists.reduce((sum, list) => sum + list.length, 0)).fill(32, 4, 4 + padded);
  new DataView(bytes.buffer).setUint32(0, padded, true);
  bytes.set(text, 4);
  let at = 4 + padded;
  for (const list of lists) {
    bytes.set(new Uint8Array(list.buffer, list.byteOffset, list.byteLength), at);
    at += list.byteLength;
  }
  return bytes;
}

/** The reading as the page and the choice use it. */
export function decodeReading(buffer: ArrayBuffer, id: string): Footage {
  const padded = new DataView(buffer).getUint32(0, true);
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, padded))) as Head;
  let at = 4 + padded;
  const lists = head.counts.map((count) => {
    const list = new Float32Array(buffer, at, count);
    at += count * 4;
    return list;
  });
  const traces = Object.fromEntries(displayTraceNames.map((name, index) => [name, lists[index]])) as unknown as DisplayTraces;
  return { id, durationSeconds: head.durationSeconds, hz: head.hz, runs: head.runs, traces, look: { hz: lookHz, cells: lookColumns * lookRows, values: lists.at(-1)! } };
}
