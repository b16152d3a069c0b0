import type { Footage } from '#core/moments';
import { tintCells } from '#core/picture';
import {
  displayTraceNames,
  lookColumns,
  lookHz,
  lookRows,
  tintHz,
  type Derived,
  type DisplayTraces,
  type RawReading,
  type RawTraceName,
  type Run,
} from '#core/readings';

interface Head {
  durationSeconds: number;
  hz: number;
  runs: Run[];
  counts: number[];
}

/** A head (JSON) and lists of float32 as bytes: length of the head (uint32), the head padded to four, then the lists. */
function pack(head: object, lists: readonly Float32Array[]): Uint8Array {
  const text = new TextEncoder().encode(JSON.stringify(head));
  const padded = Math.ceil(text.length / 4) * 4;
  const bytes = new Uint8Array(4 + padded + 4 * lists.reduce((sum, list) => sum + list.length, 0)).fill(
    32,
    4,
    4 + padded,
  );
  new DataView(bytes.buffer).setUint32(0, padded, true);
  bytes.set(text, 4);
  let at = 4 + padded;
  for (const list of lists) {
    bytes.set(new Uint8Array(list.buffer, list.byteOffset, list.byteLength), at);
    at += list.byteLength;
  }
  return bytes;
}

function unpack<Head extends { counts: number[] }>(buffer: ArrayBuffer): { head: Head; lists: Float32Array[] } {
  const padded = new DataView(buffer).getUint32(0, true);
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, padded))) as Head;
  let at = 4 + padded;
  const lists = head.counts.map((count) => {
    const list = new Float32Array(buffer, at, count);
    at += count * 4;
    return list;
  });
  return { head, lists };
}

/** A decided reading as bytes. */
function encodeReading(derived: Derived & { look: Float32Array }): Uint8Array {
  const lists = [...displayTraceNames.map((name) => derived.traces[name]), derived.look, derived.tint];
  const head: Head = {
    durationSeconds: derived.durationSeconds,
    hz: derived.hz,
    runs: derived.runs,
    counts: lists.map((list) => list.length),
  };
  return pack(head, lists);
}

interface RawHead extends Omit<RawReading, 'traces' | 'look' | 'fine'> {
  traces: { name: RawTraceName; hz: number; start: number }[];
  counts: number[];
}

/** The raw measurements as bytes, for deciding again in the browser; without what only tells people apart. */
export function encodeRaw({ traces, look, fine, faces, ...rest }: RawReading): Uint8Array {
  const all = [...traces.values()];
  const lists = [...all.map((trace) => trace.values), look, fine];
  const head: RawHead = {
    ...rest,
    faces: faces.map(({ time, boxes }) => ({ time, boxes: boxes.map(({ descriptor: _, ...box }) => box) })),
    traces: all.map(({ name, hz, start }) => ({ name: name as RawTraceName, hz, start })),
    counts: lists.map((list) => list.length),
  };
  return pack(head, lists);
}

export function decodeRaw(buffer: ArrayBuffer): RawReading {
  const {
    head: { counts: _, traces, ...rest },
    lists,
  } = unpack<RawHead>(buffer);
  return {
    ...rest,
    look: lists.at(-2)!,
    fine: lists.at(-1)!,
    traces: new Map(traces.map((trace, index) => [trace.name, { ...trace, values: lists[index]! }])),
  };
}

/** The reading as the page and the choice use it. */
function decodeReading(buffer: ArrayBuffer, id: string): Footage {
  const { head, lists } = unpack<Head>(buffer);
  const traces = Object.fromEntries(
    displayTraceNames.map((name, index) => [name, lists[index]]),
  ) as unknown as DisplayTraces;
  return {
    id,
    durationSeconds: head.durationSeconds,
    hz: head.hz,
    runs: head.runs,
    traces,
    look: { hz: lookHz, cells: lookColumns * lookRows, values: lists.at(-2)! },
    tint: { hz: tintHz, cells: tintCells, values: lists.at(-1)! },
  };
}

/** Decided readings one after the other, each with the count of its bytes (uint32) before it: 0 where there is none. */
export function encodeReadings(all: readonly ((Derived & { look: Float32Array }) | null)[]): Uint8Array {
  const packed = all.map((each) => (each ? encodeReading(each) : new Uint8Array(0)));
  const bytes = new Uint8Array(packed.reduce((sum, each) => sum + 4 + each.length, 0));
  const view = new DataView(bytes.buffer);
  let at = 0;
  for (const each of packed) {
    view.setUint32(at, each.length, true);
    bytes.set(each, at + 4);
    at += 4 + each.length;
  }
  return bytes;
}

/** @param ids of the items, in the order in which they were asked for */
export function decodeReadings(buffer: ArrayBuffer, ids: readonly string[]): (Footage | null)[] {
  const view = new DataView(buffer);
  let at = 0;
  return ids.map((id) => {
    const length = view.getUint32(at, true);
    // Each in a buffer of its own: whoever sends one to a worker sends its whole buffer.
    const footage = length > 0 ? decodeReading(buffer.slice(at + 4, at + 4 + length), id) : null;
    at += 4 + length;
    return footage;
  });
}
