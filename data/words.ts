import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import { guessLanguage, type Word } from '#core/words';
import { database } from './db';
import { findItems, keyOf, type MediaRow } from './media';
import { heardKey, type ReadingKey } from './readings';
import { recognitions, transcripts, transcriptVersions } from './schema';

/** @param heard which way to hear it was, which names and terms it knew, and which language it was */
export const saveRecognition = (
  key: ReadingKey,
  recogniser: string,
  words: Word[],
  { revision = 1, terms = [], language = null }: { revision?: number; terms?: string[]; language?: string | null } = {},
) =>
  database()
    .insert(recognitions)
    .values({ ...heardKey(key), recogniser, words, revision, terms, language })
    .onConflictDoUpdate({
      target: [recognitions.hash, recognitions.recogniser, recognitions.parameters],
      set: { words, revision, terms, language, createdAt: new Date() },
    });

export async function findRecognition(key: ReadingKey, recogniser?: string) {
  const rows = await database()
    .select()
    .from(recognitions)
    .where(
      and(
        eq(recognitions.hash, key.hash),
        eq(recognitions.parameters, heardKey(key).parameters),
        recogniser ? eq(recognitions.recogniser, recogniser) : undefined,
      ),
    )
    .orderBy(sql`${recognitions.createdAt} desc`)
    .limit(1);
  return rows[0] ?? null;
}

/** What other recognisers heard in a file, or the same in other languages, besides what was heard last; the latest first. */
export const listOtherRecognitions = async (key: ReadingKey) =>
  (
    await database()
      .select({
        recogniser: recognitions.recogniser,
        language: recognitions.language,
        count: sql<number>`jsonb_array_length(${recognitions.words})`,
        createdAt: recognitions.createdAt,
      })
      .from(recognitions)
      .where(and(eq(recognitions.hash, key.hash), eq(recognitions.parameters, heardKey(key).parameters)))
      .orderBy(desc(recognitions.createdAt))
  ).slice(1);

/** Puts what was heard before in front of what was heard since, in another language for instance. */
export const touchRecognition = (key: ReadingKey, recogniser: string) =>
  database()
    .update(recognitions)
    .set({ createdAt: new Date() })
    .where(
      and(
        eq(recognitions.hash, key.hash),
        eq(recognitions.parameters, heardKey(key).parameters),
        eq(recognitions.recogniser, recogniser),
      ),
    );

export interface Transcript {
  words: Word[];
  /** 'corrected', 'imported', or the name of the recogniser; null when there are no words yet. */
  source: string | null;
  /** BCP 47; null when it is not known. */
  language: string | null;
  /** Goes up with every change by hand; 0 while there was none. */
  version: number;
}

/** The words of an item: what a person made of them, else what a recogniser heard. */
export async function loadTranscript(item: MediaRow): Promise<Transcript> {
  const [own] = await database().select().from(transcripts).where(eq(transcripts.mediaId, item.id));
  if (own) return { words: own.words, source: own.source, language: own.language, version: own.version };
  const heard = await findRecognition(keyOf(item));
  return {
    words: heard?.words ?? [],
    source: heard?.recogniser ?? null,
    language: heard?.language ?? null,
    version: 0,
  };
}

/** @returns false when somebody else changed the words since `version` */
export async function saveTranscript(
  mediaId: string,
  words: Word[],
  source: 'corrected' | 'imported',
  version: number,
): Promise<boolean> {
  const row = { words, source, updatedAt: new Date() };
  if (version === 0)
    return (
      (
        await database()
          .insert(transcripts)
          .values({ mediaId, ...row })
          .onConflictDoNothing()
          .returning({ id: transcripts.mediaId })
      ).length > 0
    );
  const saved = await database()
    .update(transcripts)
    .set({ ...row, version: version + 1 })
    .where(and(eq(transcripts.mediaId, mediaId), eq(transcripts.version, version)))
    .returning({ id: transcripts.mediaId });
  return saved.length > 0;
}

/** So many words tell the language of a text. */
const tellingWords = 300;
/** The language that words are in, as far as it can be told. */
export const languageOf = (words: readonly Pick<Word, 'text'>[], fileName = ''): string | null =>
  guessLanguage(
    words
      .slice(0, tellingWords)
      .map((word) => word.text)
      .join(' '),
    fileName,
  );

/** A text that was shown before, or stands beside the one that is. */
export interface OtherText {
  id: string;
  source: string;
  language: string | null;
  count: number;
  createdAt: Date;
}

/** Texts of an item that another one took the place of, the latest first. */
export const listOtherTexts = (mediaId: string): Promise<OtherText[]> =>
  database()
    .select({
      id: transcriptVersions.id,
      source: transcriptVersions.source,
      language: transcriptVersions.language,
      count: sql<number>`jsonb_array_length(${transcriptVersions.words})`,
      createdAt: transcriptVersions.createdAt,
    })
    .from(transcriptVersions)
    .where(eq(transcriptVersions.mediaId, mediaId))
    .orderBy(desc(transcriptVersions.createdAt));

/** What takes the place of the text of an item: a new one, one that was shown before, or what the recogniser heard. */
export type TextChange = { words: Word[]; language: string | null } | { again: string } | 'heard';

/**
 * Shows another text. The one that stood there by hand is kept beside it, and its id returned, so that it can be shown
 * again.
 * @returns 'conflict' when somebody else changed the words since `version`, 'missing' when the other text is gone
 */
export async function showText(
  mediaId: string,
  change: TextChange,
  version: number,
): Promise<{ before: string | null } | 'conflict' | 'missing'> {
  return database().transaction(async (tx) => {
    // Two imports at once wait for one another, also where there is no text yet.
    await tx.execute(sql`select id from media where id = ${mediaId} for update`);
    const [own] = await tx.select().from(transcripts).where(eq(transcripts.mediaId, mediaId));
    if ((own?.version ?? 0) !== version) return 'conflict';
    let next: { words: Word[]; language: string | null; source: string } | null = null;
    if (change !== 'heard' && 'again' in change) {
      const chosen = and(eq(transcriptVersions.mediaId, mediaId), eq(transcriptVersions.id, change.again));
      const [kept] = await tx.delete(transcriptVersions).where(chosen).returning();
      if (!kept) return 'missing';
      next = kept;
    } else if (change !== 'heard') next = { ...change, source: 'imported' };
    let before: string | null = null;
    if (own) {
      const { words, source } = own;
      const language = own.language ?? languageOf(words);
      const [kept] = await tx
        .insert(transcriptVersions)
        .values({ mediaId, words, source, language })
        .returning({ id: transcriptVersions.id });
      before = kept!.id;
    }
    if (!next) await tx.delete(transcripts).where(eq(transcripts.mediaId, mediaId));
    else {
      const { words, language, source } = next;
      const row = { words, language, source, version: version + 1, updatedAt: new Date() };
      await tx
        .insert(transcripts)
        .values({ mediaId, ...row })
        .onConflictDoUpdate({ target: transcripts.mediaId, set: row });
    }
    return { before };
  });
}

/** Words of several items with their times; none for what is not there. */
export async function loadSpoken(wanted: Iterable<string>): Promise<(media: string) => readonly Word[]> {
  const items = (await findItems([...new Set(wanted)])).filter((item) => item !== null);
  if (items.length === 0) return () => [];
  const own = await database()
    .select({ id: transcripts.mediaId, words: transcripts.words })
    .from(transcripts)
    .where(
      inArray(
        transcripts.mediaId,
        items.map(({ id }) => id),
      ),
    );
  const spoken = new Map(own.map(({ id, words }) => [id, words]));
  const rest = items.filter(({ id }) => !spoken.has(id));
  const heard = await recognitionsOf([...new Set(rest.map(({ fileHash }) => fileHash))]);
  for (const item of rest) spoken.set(item.id, heard.get(contentKey(heardKey(keyOf(item)))) ?? []);
  return (id) => spoken.get(id) ?? [];
}

const contentKey = ({ hash, parameters }: ReadingKey) => `${hash} ${parameters}`;

/** What was heard last in each of these files, by content and by which sound was listened to. */
async function recognitionsOf(hashes: string[]): Promise<Map<string, Word[]>> {
  if (hashes.length === 0) return new Map();
  const rows = await database()
    .selectDistinctOn([recognitions.hash, recognitions.parameters])
    .from(recognitions)
    .where(inArray(recognitions.hash, hashes))
    .orderBy(recognitions.hash, recognitions.parameters, desc(recognitions.createdAt));
  return new Map(rows.map((row) => [contentKey(row), row.words]));
}
