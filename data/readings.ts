import { and, eq, inArray } from 'drizzle-orm';
import { derive, displayTraceNames, summarize, type Derived, type DisplayTraces, type RawReading, type RawTraceName, type Run } from '#core/readings';
import type { Trace } from '#core/signal';
import { database, type Database } from './db';
import { readings, runs, traces, type StoredProbe, type StoredSheets } from './schema';

export interface NewReading {
  hash: string;
  version: number;
  probe: StoredProbe;
  raw: RawReading;
  sheets: StoredSheets | null;
  proxyKey: string | null;
  integratedLufs: number | null;
  warnings: string[];
  tookSeconds: number;
}

const toBytes = (values: Float32Array): Buffer => Buffer.from(values.buffer, values.byteOffset, values.byteLength);
const toFloats = (bytes: Buffer): Float32Array => new Float32Array(Uint8Array.from(bytes).buffer);

/** Stores a reading whole, in place of an earlier one of the same file and version: raw traces, decided traces and runs. */
export async function saveReading(reading: NewReading): Promise<void> {
  const { hash, version, raw } = reading;
  const derived = derive(raw);
  const key = { hash, version, parameters: '' };
  const rows = [
    ...[...raw.traces.values()].map((trace) => ({ ...key, name: trace.name, hz: trace.hz, start: trace.start, values: toBytes(trace.values) })),
    ...displayTraceNames.map((name) => ({ ...key, name: `display.${name}`, hz: derived.hz, start: 0, values: toBytes(derived.traces[name]) })),
    { ...key, name: 'look', hz: 2, start: 0, values: toBytes(raw.look) },
  ];
  await database().transaction(async (tx) => {
    await forget(tx as unknown as Database, hash, version);
    await tx.insert(readings).values({
      ...key, probe: reading.probe, summary: summarize(derived), faces: raw.faces, sheets: reading.sheets, proxyKey: reading.proxyKey,
      integratedLufs: reading.integratedLufs, warnings: reading.warnings, tookSeconds: reading.tookSeconds,
    });
    for (const row of rows) await tx.insert(traces).values(row);
    for (let at = 0; at < derived.runs.length; at += 500)
      await tx.insert(runs).values(derived.runs.slice(at, at + 500).map((run) => ({ ...key, kind: run.kind, start: run.start, end: run.end, label: run.label ?? null })));
  });
}

async function forget(tx: Database, hash: string, version: number) {
  await tx.delete(readings).where(and(eq(readings.hash, hash), eq(readings.version, version)));
  await tx.delete(traces).where(and(eq(traces.hash, hash), eq(traces.version, version)));
  await tx.delete(runs).where(and(eq(runs.hash, hash), eq(runs.version, version)));
}

export async function findReading(hash: string, version: number) {
  return (await database().select().from(readings).where(and(eq(readings.hash, hash), eq(readings.version, version))))[0] ?? null;
}

export interface StoredDerived extends Derived {
  look: Float32Array;
}

/** The decided traces and runs of a file, or null when it was not read yet. */
export async function loadDerived(hash: string, version: number): Promise<StoredDerived | null> {
  const reading = await findReading(hash, version);
  if (!reading) return null;
  const names = [...displayTraceNames.map((name) => `display.${name}`), 'look'];
  const rows = await database().select().from(traces).where(and(eq(traces.hash, hash), eq(traces.version, version), inArray(traces.name, names)));
  const byName = new Map(rows.map((row) => [row.name, row]));
  const values = (name: string) => toFloats(byName.get(name)?.values ?? Buffer.alloc(0));
  const stretches = await loadRuns([hash], version);
  return {
    durationSeconds: reading.probe.durationSeconds, hz: byName.get('display.faces')?.hz ?? 10,
    traces: Object.fromEntries(displayTraceNames.map((name) => [name, values(`display.${name}`)])) as DisplayTraces,
    runs: stretches.get(hash) ?? [], look: values('look'),
  };
}

export async function loadRuns(hashes: string[], version: number): Promise<Map<string, Run[]>> {
  const found = new Map<string, Run[]>();
  if (hashes.length === 0) return found;
  const rows = await database().select().from(runs).where(and(inArray(runs.hash, hashes), eq(runs.version, version))).orderBy(runs.start);
  for (const row of rows) {
    const run = { kind: row.kind, start: row.start, end: row.end, ...(row.label ? { label: row.label } : {}) } as Run;
    const list = found.get(row.hash);
    if (list) list.push(run);
    else found.set(row.hash, [run]);
  }
  return found;
}

/** Raw traces of a file, for deciding again. */
export async function loadRawTraces(hash: string, version: number): Promise<Map<RawTraceName, Trace>> {
  const rows = await database().select().from(traces).where(and(eq(traces.hash, hash), eq(traces.version, version)));
  return new Map(rows.filter((row) => !row.name.startsWith('display.') && row.name !== 'look').map((row) => [row.name as RawTraceName, { name: row.name, hz: row.hz, start: row.start, values: toFloats(row.values) }]));
}
