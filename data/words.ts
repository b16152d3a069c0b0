import { and, eq, sql } from 'drizzle-orm';
import type { Word } from '#core/words';
import { database } from './db';
import { findMedia, keyOf, type MediaRow } from './media';
import type { ReadingKey } from './readings';
import { recognitions, transcripts } from './schema';

export const saveRecognition = (key: ReadingKey, recogniser: string, words: Word[]) =>
  database().insert(recognitions).values({ ...key, recogniser, words }).onConflictDoUpdate({ target: [recognitions.hash, recognitions.recogniser, recognitions.parameters], set: { words, createdAt: new Date() } });

export async function findRecognition(key: ReadingKey, recogniser?: string) {
  const rows = await database().select().from(recognitions)
    .where(and(eq(recognitions.hash, key.hash), eq(recognitions.parameters, key.parameters), recogniser ? eq(recognitions.recogniser, recogniser) : undefined)).orderBy(sql`${recognitions.createdAt} desc`).limit(1);
  return rows[0] ?? null;
}

/** Puts what was heard before in front of what was heard since, in another language for instance. */
export const touchRecognition = (key: ReadingKey, recogniser: string) =>
  database().update(recognitions).set({ createdAt: new Date() }).where(and(eq(recognitions.hash, key.hash), eq(recognitions.parameters, key.parameters), eq(recognitions.recogniser, recogniser)));

export interface Transcript {
  words: Word[];
  /** 'corrected', 'imported', or the name of the recogniser; null when there are no words yet. */
  source: string | null;
  /** Goes up with every change by hand; 0 while there was none. */
  version: number;
}

/** The words of an item: what a person made of them, else what a recogniser heard. */
export async function loadTranscript(item: MediaRow): Promise<Transcript> {
  const [own] = await database().select().from(transcripts).where(eq(transcripts.mediaId, item.id));
  if (own) return { words: own.words, source: own.source, version: own.version };
  const heard = await findRecognition(keyOf(item));
  return { words: heard?.words ?? [], source: heard?.recogniser ?? null, version: 0 };
}

/** @returns false when somebody else changed the words since `version` */
export async function saveTranscript(mediaId: string, words: Word[], source: 'corrected' | 'imported', version: number): Promise<boolean> {
  const row = { words, source, updatedAt: new Date() };
  if (version === 0) return (await database().insert(transcripts).values({ mediaId, ...row }).onConflictDoNothing().returning({ id: transcripts.mediaId })).length > 0;
  const saved = await database().update(transcripts).set({ ...row, version: version + 1 }).where(and(eq(transcripts.mediaId, mediaId), eq(transcripts.version, version))).returning({ id: transcripts.mediaId });
  return saved.length > 0;
}

/** Back to what the recogniser heard. */
export const dropTranscript = (mediaId: string) => database().delete(transcripts).where(eq(transcripts.mediaId, mediaId));

/** Words of several items with their times, each looked up once; none for what is not there. */
export async function loadSpoken(media: Iterable<string>): Promise<(media: string) => readonly Word[]> {
  const spoken = new Map(await Promise.all([...new Set(media)].map(async (id) => {
    const row = await findMedia(id);
    return [id, row ? (await loadTranscript(row)).words : []] as const;
  })));
  return (id) => spoken.get(id) ?? [];
}
