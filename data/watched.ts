import { and, eq } from 'drizzle-orm';
import type { MouthTrace, Watched } from '#core/framing';
import { faceTracks } from '#core/picture';
import { readerVersion, runsOf } from '#core/readings';
import { sentences } from '#core/words';
import { database } from './db';
import { keyOf, type MediaRow } from './media';
import { findProject } from './projects';
import { findBestReading, loadDerived, loadTrace, type ReadingKey } from './readings';
import { traces } from './schema';
import { findSpeakers } from './speakers';
import { loadTranscript } from './words';

/** What is known of an item's pictures, for following something in them; null when it has not been read yet. */
export async function loadWatched(row: MediaRow): Promise<Watched | null> {
  const key = keyOf(row);
  const reading = await findBestReading(key);
  if (!reading || reading.probe.kind !== 'video') return null;
  const rules = (await findProject(row.projectId))?.rules ?? null;
  const [derived, x, y, amount, transcript, mouths, speakers] = await Promise.all([
    loadDerived(key, rules),
    loadTrace(key, 'things.x'),
    loadTrace(key, 'things.y'),
    loadTrace(key, 'things.amount'),
    loadTranscript(row),
    loadMouths(reading),
    findSpeakers(row.id),
  ]);
  // Where voices were told apart, a turn ends with the voice and not with the sentence.
  const voices = speakers?.turns.length ? speakers.turns : null;
  const runs = derived?.runs ?? [];
  const cuts = runsOf(runs, 'scene')
    .map((scene) => scene.start)
    .filter((start) => start > 0);
  const said = sentences(transcript.words);
  return {
    size: { width: reading.probe.width, height: reading.probe.height },
    tracks: faceTracks(
      reading.faces,
      runsOf(runs, 'scene').map((scene) => scene.start),
      reading.probe.durationSeconds || 1,
    ),
    objects: reading.objects,
    motion: x && y && amount ? { hz: amount.hz, x: x.values, y: y.values, amount: amount.values } : null,
    cuts,
    turns: voices ?? (said.length ? said : runsOf(runs, 'speech')),
    mouths,
  };
}

/** Mouths that were watched already; kept beside the reading, since they depend on nothing else. */
async function loadMouths({ hash, parameters }: ReadingKey): Promise<MouthTrace[]> {
  const rows = await database()
    .select()
    .from(traces)
    .where(
      and(
        eq(traces.hash, hash),
        eq(traces.parameters, parameters),
        eq(traces.version, readerVersion),
        eq(traces.family, 'mouth'),
      ),
    );
  return rows.map((row) => ({
    track: row.name.split(':')[0]!,
    start: row.start,
    hz: row.hz,
    values: new Float32Array(Uint8Array.from(row.values).buffer),
  }));
}

export async function saveMouths({ hash, parameters }: ReadingKey, found: readonly MouthTrace[]): Promise<void> {
  for (const { track, start, hz, values } of found)
    await database()
      .insert(traces)
      .values({
        hash,
        parameters,
        version: readerVersion,
        family: 'mouth',
        name: `${track}:${start.toFixed(2)}`,
        hz,
        start,
        values: Buffer.from(values.buffer, values.byteOffset, values.byteLength),
      })
      .onConflictDoNothing();
}
