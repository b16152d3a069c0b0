import { and, desc, eq, gt, inArray, isNull, lt, notExists, notLike, sql } from 'drizzle-orm';
import type { CameraPath } from '#core/picture';
import {
  derive,
  displayTraceNames,
  fineHz,
  lookHz,
  tintHz,
  readerVersion,
  summarize,
  type Derived,
  type DisplayTraces,
  type LoudnessSummary,
  type RawReading,
  type RawTraceName,
  type ReadingRules,
  type ReadingSummary,
  type Run,
} from '#core/readings';
import { database, type Database } from './db';
import { readSoundChoice, writeSoundChoice, type SoundChoice } from '#core/sound';
import type { Range } from '#core/time';
import { media, projects, readings, runs, traces, type StoredProbe, type StoredSheets } from './schema';
import { storage } from './storage';

/**
 * What a reading is found by, beside the reader's version: the content, and which part of it in which way. The version
 * is the current one wherever nothing else is said.
 */
export interface ReadingKey {
  hash: string;
  /** '' for the whole file, else as `readingParameters` writes it; `coarse` names the first, rough pass. */
  parameters: string;
}

/** How a file is read. */
export interface ReadingWay {
  /** Null for the whole file. */
  range: Range | null;
  /** Null for what the machine finds best. */
  sound: SoundChoice | null;
  /** Colour table that its pictures go through first, by its content; null for as filmed. */
  inputLook: string | null;
}

export function readingParameters({ range, sound, inputLook }: ReadingWay): string {
  const stretch = range ? `${range.start.toFixed(2)}-${Number.isFinite(range.end) ? range.end.toFixed(2) : 'end'}` : '';
  const heard = sound === null ? '' : writeSoundChoice(sound);
  return [stretch, heard, inputLook ?? ''].join(',').replace(/,+$/, '');
}
/** What `readingParameters` wrote, also of a rough pass. */
export function parseParameters(parameters: string): ReadingWay {
  const [stretch = '', sound = '', inputLook = ''] = parameters.replace(/~.*$/, '').split(',');
  const [from, to] = stretch.split('-');
  return {
    range: stretch ? { start: Number(from), end: to === 'end' ? Infinity : Number(to) } : null,
    sound: sound === '' ? null : readSoundChoice(sound),
    inputLook: inputLook || null,
  };
}
/** Whether a text is one that `readingParameters` may have written; it names a folder of the store. */
export const areParameters = (text: string): boolean => parametersPattern.test(text);
const parametersPattern =
  /^(\d{1,6}\.\d\d-(\d{1,6}\.\d\d|end))?(,(-|\d{1,2}(\.\d{1,2})?(\+\d{1,2}(\.\d{1,2})?){0,63})?(,[0-9a-f]{32})?)?$/;
/** The key of what was heard: colours do not matter to it. */
export const heardKey = ({ hash, parameters }: ReadingKey): ReadingKey => ({
  hash,
  parameters: readingParameters({ ...parseParameters(parameters), inputLook: null }),
});
export const coarse = ({ hash, parameters }: ReadingKey): ReadingKey => ({ hash, parameters: `${parameters}~coarse` });
export const readingFolder = ({ hash, parameters }: ReadingKey, version = readerVersion): string =>
  `readings/${hash}/${version}${parameters && `-${parameters}`}`;

export interface NewReading extends ReadingKey {
  version: number;
  probe: StoredProbe;
  raw: RawReading;
  sheets: StoredSheets | null;
  proxyKey: string | null;
  loudness: LoudnessSummary | null;
  warnings: string[];
  tookSeconds: number;
  /** What the traces cannot tell, of a first look. */
  summary?: Partial<ReadingSummary>;
}

const toBytes = (values: Float32Array): Buffer => Buffer.from(values.buffer, values.byteOffset, values.byteLength);
const toFloats = (bytes: Buffer): Float32Array => new Float32Array(Uint8Array.from(bytes).buffer);

/** Stores a reading whole, in place of an earlier one of the same file and version: raw traces, decided traces and runs. */
export async function saveReading(reading: NewReading): Promise<void> {
  const { hash, version, parameters, raw } = reading;
  const derived = derive(raw);
  const key = { hash, version, parameters };
  const rows = [
    ...[...raw.traces.values()].map((trace) => ({
      ...key,
      family: 'measured' as const,
      name: trace.name,
      hz: trace.hz,
      start: trace.start,
      values: toBytes(trace.values),
    })),
    ...displayTraceNames.map((name) => ({
      ...key,
      family: 'decided' as const,
      name,
      hz: derived.hz,
      start: 0,
      values: toBytes(derived.traces[name]),
    })),
    { ...key, family: 'look' as const, name: 'look', hz: lookHz, start: 0, values: toBytes(raw.look) },
    { ...key, family: 'look' as const, name: 'tint', hz: tintHz, start: 0, values: toBytes(derived.tint) },
    { ...key, family: 'fine' as const, name: 'fine', hz: fineHz, start: 0, values: toBytes(raw.fine) },
  ];
  await database().transaction(async (tx) => {
    await forget(tx as unknown as Database, reading, version);
    await tx.insert(readings).values({
      ...key,
      probe: reading.probe,
      summary: { ...summarize(derived), ...reading.summary },
      faces: raw.faces,
      objects: raw.objects,
      range: raw.range ?? null,
      sheets: reading.sheets,
      proxyKey: reading.proxyKey,
      loudness: reading.loudness,
      warnings: reading.warnings,
      tookSeconds: reading.tookSeconds,
    });
    for (const row of rows) await tx.insert(traces).values(row);
    for (let at = 0; at < derived.runs.length; at += 500)
      await tx.insert(runs).values(
        derived.runs.slice(at, at + 500).map((run) => ({
          ...key,
          kind: run.kind,
          start: run.start,
          end: run.end,
          label: run.label ?? null,
          amount: run.amount ?? null,
          size: run.size ?? null,
        })),
      );
  });
}

async function forget(tx: Database, key: ReadingKey, version: number) {
  // Two workers may have read the same: one after the other stores it, the later one stays.
  await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${key.hash}))`);
  await tx.delete(readings).where(ofReading(readings, key, version));
  await tx.delete(traces).where(ofReading(traces, key, version));
  await tx.delete(runs).where(ofReading(runs, key, version));
}

const ofReading = (
  table: typeof readings | typeof traces | typeof runs,
  { hash, parameters }: ReadingKey,
  version: number,
) => and(eq(table.hash, hash), eq(table.parameters, parameters), eq(table.version, version));

/** A rough pass is of no use once the whole reading is there. */
export const forgetReading = (key: ReadingKey, version = readerVersion) =>
  database().transaction((tx) => forget(tx as unknown as Database, key, version));

export async function findReading(key: ReadingKey, version = readerVersion) {
  return (
    (
      await database()
        .select()
        .from(readings)
        .where(ofReading(readings, key, version))
    )[0] ?? null
  );
}

/** What this reader made of a file, whatever part of it and in whatever way. */
export const readingsOf = (hash: string, version = readerVersion) =>
  database()
    .select()
    .from(readings)
    .where(and(eq(readings.hash, hash), eq(readings.version, version)));

/** How long the last files took to be read. */
export const lastReadings = (count: number, version = readerVersion) =>
  database()
    .select({ probe: readings.probe, range: readings.range, tookSeconds: readings.tookSeconds })
    .from(readings)
    .where(and(eq(readings.version, version), gt(readings.tookSeconds, 1), notLike(readings.parameters, '%~coarse')))
    .orderBy(desc(readings.createdAt))
    .limit(count);

/** What an earlier reader made of the same stretch, the newest first. */
export async function findEarlierReading({ hash, parameters }: ReadingKey, version = readerVersion) {
  const [row] = await database()
    .select()
    .from(readings)
    .where(and(eq(readings.hash, hash), eq(readings.parameters, parameters), lt(readings.version, version)))
    .orderBy(desc(readings.version))
    .limit(1);
  return row ?? null;
}

/** Items whose only reading is by an earlier reader; they are brought up to date in the background. */
export async function outdatedItems(
  version = readerVersion,
): Promise<{ projectId: string; hash: string; parameters: string; name: string }[]> {
  const current = database()
    .select({ one: sql`1` })
    .from(readings)
    .where(
      and(eq(readings.hash, media.fileHash), eq(readings.parameters, media.parameters), eq(readings.version, version)),
    );
  return database()
    .selectDistinctOn([media.fileHash, media.parameters], {
      projectId: media.projectId,
      hash: media.fileHash,
      parameters: media.parameters,
      name: media.name,
    })
    .from(media)
    .innerJoin(projects, and(eq(projects.id, media.projectId), isNull(projects.removedAt)))
    .innerJoin(
      readings,
      and(eq(readings.hash, media.fileHash), eq(readings.parameters, media.parameters), lt(readings.version, version)),
    )
    .where(and(isNull(media.removedAt), notExists(current)));
}

/** Items that were read before it was noted how their pictures are coded, each once. */
export async function itemsOfUnknownCoding(
  version = readerVersion,
): Promise<{ projectId: string; hash: string; parameters: string; name: string; probe: StoredProbe }[]> {
  const same = and(
    eq(readings.hash, media.fileHash),
    eq(readings.parameters, media.parameters),
    eq(readings.version, version),
  );
  return database()
    .selectDistinctOn([media.fileHash, media.parameters], {
      projectId: media.projectId,
      hash: media.fileHash,
      parameters: media.parameters,
      name: media.name,
      probe: readings.probe,
    })
    .from(media)
    .innerJoin(readings, same)
    .where(sql`not ${readings.probe} ? 'coding'`);
}

/** Items of a project that are opened from a working copy which this installation does not have. */
export const itemsWithoutCopy = (projectId: string, version = readerVersion) =>
  database()
    .selectDistinctOn([media.fileHash, media.parameters], {
      hash: media.fileHash,
      parameters: media.parameters,
      name: media.name,
    })
    .from(media)
    .innerJoin(
      readings,
      and(
        eq(readings.hash, media.fileHash),
        eq(readings.parameters, media.parameters),
        eq(readings.version, version),
        isNull(readings.proxyKey),
      ),
    )
    .where(and(eq(media.projectId, projectId), sql`(${readings.probe}->>'copied')::boolean`));

/** Notes what a file is, of a reading that is right besides. */
export const setProbe = (key: ReadingKey, probe: StoredProbe, version = readerVersion) =>
  database()
    .update(readings)
    .set({ probe })
    .where(ofReading(readings, key, version));

/**
 * A local file with the content of an item for programs that open it: its working copy where there is one, else the file
 * itself.
 * @param storageKey of the file
 */
export async function openablePath(key: ReadingKey, storageKey: string): Promise<string> {
  const reading = await findBestReading(key);
  return storage().localPath(reading?.probe.copied && reading.proxyKey ? reading.proxyKey : storageKey);
}

/** The reading of an item, or the rough one while there is no other. */
export const findBestReading = async (key: ReadingKey, version = readerVersion) =>
  (await findReading(key, version)) ?? findReading(coarse(key), version);

const measured = eq(traces.family, 'measured');

/** One raw trace of the best reading; null when there is none. */
export async function loadTrace(
  wanted: ReadingKey,
  name: RawTraceName,
  version = readerVersion,
): Promise<{ hz: number; values: Float32Array } | null> {
  const reading = await findBestReading(wanted, version);
  const [row] = reading
    ? await database()
        .select()
        .from(traces)
        .where(and(ofReading(traces, reading, version), measured, eq(traces.name, name)))
    : [];
  return row ? { hz: row.hz, values: toFloats(row.values) } : null;
}

export interface StoredDerived extends Derived {
  look: Float32Array;
}

/**
 * The decided traces and runs of a file, or null when it has not been read yet.
 * @param rules sensitivities of the project; with others than the usual ones everything is decided anew
 */
export async function loadDerived(
  wanted: ReadingKey,
  rules: ReadingRules | null = null,
  version = readerVersion,
): Promise<StoredDerived | null> {
  if (!rules) return (await loadDerivedOf([wanted], version))[0]!;
  const raw = await loadRaw(wanted, version);
  return raw && { ...derive(raw, rules), look: raw.look };
}

/** The same of many files by the usual sensitivities, in their order. */
export async function loadDerivedOf(
  wanted: readonly ReadingKey[],
  version = readerVersion,
): Promise<(StoredDerived | null)[]> {
  const best = await findBestReadings(wanted, version);
  const found = best.filter((reading) => reading !== null);
  if (found.length === 0) return best.map(() => null);
  const among = (table: typeof traces | typeof runs) =>
    and(
      eq(table.version, version),
      inArray(table.hash, distinct(found.map(({ hash }) => hash))),
      inArray(table.parameters, distinct(found.map(({ parameters }) => parameters))),
    );
  const [traceRows, runRows] = await Promise.all([
    database()
      .select()
      .from(traces)
      .where(and(among(traces), inArray(traces.family, ['decided', 'look']))),
    database().select().from(runs).where(among(runs)).orderBy(runs.start),
  ]);
  const tracesOf = grouped(traceRows);
  const runsOf = grouped(runRows);
  return best.map((reading) => {
    if (!reading) return null;
    const byName = new Map((tracesOf.get(contentKey(reading)) ?? []).map((row) => [row.name, row]));
    const values = (name: string) => toFloats(byName.get(name)?.values ?? Buffer.alloc(0));
    return {
      durationSeconds: reading.probe.durationSeconds,
      hz: byName.get('faces')?.hz ?? 10,
      traces: Object.fromEntries(displayTraceNames.map((name) => [name, values(name)])) as DisplayTraces,
      runs: (runsOf.get(contentKey(reading)) ?? []).map(runOf),
      look: values('look'),
      tint: values('tint'),
    };
  });
}

const distinct = (values: readonly string[]) => [...new Set(values)];
const contentKey = ({ hash, parameters }: ReadingKey) => `${hash} ${parameters}`;

function grouped<Row extends ReadingKey>(rows: readonly Row[]): Map<string, Row[]> {
  const groups = new Map<string, Row[]>();
  for (const row of rows) {
    const group = groups.get(contentKey(row));
    if (group) group.push(row);
    else groups.set(contentKey(row), [row]);
  }
  return groups;
}

/** What each of these files was read as, by the whole reading where it is there, else by the rough one. */
async function findBestReadings(wanted: readonly ReadingKey[], version: number) {
  if (wanted.length === 0) return [];
  const rows = await database()
    .select({ hash: readings.hash, parameters: readings.parameters, probe: readings.probe })
    .from(readings)
    .where(and(eq(readings.version, version), inArray(readings.hash, distinct(wanted.map(({ hash }) => hash)))));
  const byKey = new Map(rows.map((row) => [contentKey(row), row]));
  return wanted.map((key) => byKey.get(contentKey(key)) ?? byKey.get(contentKey(coarse(key))) ?? null);
}

export async function loadRuns(key: ReadingKey, version = readerVersion): Promise<Run[]> {
  const rows = await database()
    .select()
    .from(runs)
    .where(ofReading(runs, key, version))
    .orderBy(runs.start);
  return rows.map(runOf);
}

const runOf = (row: typeof runs.$inferSelect) =>
  ({
    kind: row.kind,
    start: row.start,
    end: row.end,
    ...(row.label ? { label: row.label } : {}),
    ...(row.amount === null ? {} : { amount: row.amount }),
    ...(row.size === null ? {} : { size: row.size }),
  }) as Run;

/** The raw measurements of a file, for deciding again; null when it has not been read yet. */
export async function loadRaw(wanted: ReadingKey, version = readerVersion): Promise<RawReading | null> {
  const reading = await findBestReading(wanted, version);
  if (!reading) return null;
  const rows = await database()
    .select()
    .from(traces)
    .where(and(ofReading(traces, reading, version), inArray(traces.family, ['measured', 'look', 'fine'])));
  const one = (family: 'look' | 'fine') => toFloats(rows.find((row) => row.name === family)?.values ?? Buffer.alloc(0));
  const raw = rows.filter((row) => row.family === 'measured');
  return {
    durationSeconds: reading.probe.durationSeconds || 0.1,
    hasPicture: reading.probe.kind !== 'sound',
    hasSound: reading.probe.hasSound,
    faces: reading.faces,
    objects: reading.objects,
    ...(reading.range ? { range: reading.range } : {}),
    look: one('look'),
    fine: one('fine'),
    traces: new Map(
      raw.map((row) => [
        row.name as RawTraceName,
        { name: row.name, hz: row.hz, start: row.start, values: toFloats(row.values) },
      ]),
    ),
  };
}

/** How the camera moved in a file, for steadying; null when it has not been read yet. */
export async function loadCameraPath(wanted: ReadingKey, version = readerVersion): Promise<CameraPath | null> {
  const reading = await findBestReading(wanted, version);
  if (!reading) return null;
  const names = ['camera.dx', 'camera.dy', 'camera.rotation', 'camera.zoom', 'camera.confidence'] as const;
  const rows = await database()
    .select()
    .from(traces)
    .where(and(ofReading(traces, reading, version), measured, inArray(traces.name, [...names])));
  const [dx, dy, rotation, zoom, confidence] = names.map((name) => rows.find((row) => row.name === name));
  if (!dx || !dy || !rotation || !zoom || !confidence) return null;
  // A reading of a part begins later; before it nothing is known.
  const lead = Math.round(dx.start * dx.hz);
  const whole = (values: Buffer) => {
    const own = toFloats(values);
    const out = new Float32Array(lead + own.length);
    out.set(own, lead);
    return out;
  };
  return {
    hz: dx.hz,
    dx: whole(dx.values),
    dy: whole(dy.values),
    rotation: whole(rotation.values),
    zoom: whole(zoom.values),
    confidence: whole(confidence.values),
    cuts: [],
  };
}

/** Whether the rough pass over a file is there; a first look at some points is less. */
export async function isRoughlyRead(key: ReadingKey): Promise<boolean> {
  const rough = await findReading(coarse(key));
  return rough !== null && rough.probe.glancedEvery === undefined;
}
