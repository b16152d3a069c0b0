import { and, eq, isNull, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import type { RecordedFile } from '#core/time';
import { framesPerSecond } from '#core/time';
import { database } from './db';
import { continuations, files, media, wholes, type StoredProbe } from './schema';

/** A file of a project, as far as it tells whether it is a part of a recording. */
export interface PartOfProject extends RecordedFile {
  hash: string;
  binId: string | null;
}

/** The films and sound of a project, with what their headers say. */
export async function recordedFiles(projectId: string): Promise<PartOfProject[]> {
  const rows = await database()
    .select({
      id: media.id,
      name: media.name,
      hash: media.fileHash,
      binId: media.binId,
      bytes: files.size,
      probe: files.probe,
    })
    .from(media)
    .innerJoin(files, eq(files.hash, media.fileHash))
    .where(and(eq(media.projectId, projectId), isNull(media.removedAt)));
  return rows.flatMap(({ probe, ...row }) =>
    probe && probe.kind !== 'photo' && !probe.copied
      ? [
          {
            ...row,
            durationSeconds: probe.durationSeconds,
            recordedAt: probe.recordedAt ?? null,
            startSeconds: probe.startTimecode ? (probe.startSeconds ?? null) : null,
            frameSeconds: probe.rate ? 1 / framesPerSecond(probe.rate) : 0.04,
            coding: codingWords(probe),
          },
        ]
      : [],
  );
}

const codingWords = ({ kind, videoCodec, audioCodec, width, height, rate, soundTracks = [], format }: StoredProbe) =>
  JSON.stringify([
    kind,
    format,
    videoCodec,
    audioCodec,
    width,
    height,
    rate,
    soundTracks.map((track) => track.channels),
  ]);

/** What is known of whether a file goes on in another; null when it was not asked yet. */
export async function findContinuation(before: string, after: string): Promise<boolean | null> {
  const [row] = await database()
    .select()
    .from(continuations)
    .where(and(eq(continuations.before, before), eq(continuations.after, after)));
  return row?.unbroken ?? null;
}

export const saveContinuation = (before: string, after: string, unbroken: boolean) =>
  database()
    .insert(continuations)
    .values({ before, after, unbroken })
    .onConflictDoUpdate({ target: [continuations.before, continuations.after], set: { unbroken } });

/** Items of a project that go on in one another, leaving out those of which the whole is in the project. */
export async function unbrokenPairs(projectId: string): Promise<{ before: string; after: string }[]> {
  const after = alias(media, 'after_media');
  const inProject = (table: typeof media | typeof after) =>
    and(eq(table.projectId, projectId), isNull(table.removedAt));
  return database()
    .select({ before: media.id, after: after.id })
    .from(continuations)
    .innerJoin(media, and(eq(media.fileHash, continuations.before), inProject(media)))
    .innerJoin(after, and(eq(after.fileHash, continuations.after), inProject(after)))
    .where(
      and(
        eq(continuations.unbroken, true),
        sql`${media.binId} is not distinct from ${after.binId}`,
        sql`not exists (select 1 from wholes w join media m on m.file_hash = w.whole where w.part = ${continuations.before} and m.project_id = ${projectId} and m.removed_at is null)`,
      ),
    );
}

/** Notes which content holds that of which parts. */
export async function saveWhole(parts: readonly string[], whole: string): Promise<void> {
  await database()
    .insert(wholes)
    .values(parts.map((part) => ({ part, whole })))
    .onConflictDoNothing();
}
