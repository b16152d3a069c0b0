import { and, eq } from 'drizzle-orm';
import type { RecordingOffset } from '#core/sound';
import { database } from './db';
import { matches } from './schema';

export async function findMatch(reference: string, other: string): Promise<RecordingOffset | null> {
  const [row] = await database()
    .select()
    .from(matches)
    .where(and(eq(matches.reference, reference), eq(matches.other, other)));
  return row ? { offsetSeconds: row.offsetSeconds, driftPpm: row.driftPpm, confidence: row.confidence } : null;
}

export const saveMatch = (reference: string, other: string, offset: RecordingOffset) =>
  database()
    .insert(matches)
    .values({ reference, other, ...offset })
    .onConflictDoUpdate({ target: [matches.reference, matches.other], set: offset });
