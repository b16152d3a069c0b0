import { randomUUID } from 'node:crypto';
import { answerRequest, lexiconOf, parseRequest } from '#core/ask';
import { captionDefaults } from '#core/captions';
import { readerVersion } from '#core/readings';
import { applyCommand, dressInStyle, type HouseStyle, type Source } from '#core/reel';
import {
  findShorts,
  layShorts,
  rankShorts,
  shortReel,
  type Recording,
  type ShortsWish,
  type Thumb,
} from '#core/shorts';
import { rates, type Range } from '#core/time';
import { findMedia, keyOf, type MediaRow } from '#data/media';
import { listPeople } from '#data/people';
import { findProject } from '#data/projects';
import { findBestReading, loadDerived } from '#data/readings';
import { createReel, deleteReel } from '#data/reels';
import type { ShortsDocument, StoredShort } from '#data/schema';
import { changeShortSet, createShortSet, listHouseStyles, type ShortSet } from '#data/shorts';
import { loadTranscript } from '#data/words';
import { enqueueFraming } from '#jobs/queue';
import { sourcesOf } from './reel.server';

/** A recording as the search for shorts sees it; null when it was not read yet. */
async function loadRecording(row: MediaRow): Promise<Recording | null> {
  const [derived, transcript] = await Promise.all([
    loadDerived(keyOf(row), readerVersion, (await findProject(row.projectId))?.rules ?? null),
    loadTranscript(row),
  ]);
  if (!derived) return null;
  const { durationSeconds, hz, traces, runs } = derived;
  const wanted =
    row.defaultIn !== null || row.defaultOut !== null
      ? { wanted: { start: row.defaultIn ?? 0, end: row.defaultOut ?? durationSeconds } }
      : {};
  return { footage: { id: row.id, durationSeconds, hz, traces, runs, ...wanted }, words: transcript.words };
}

/** Where a recording answers a request in words. */
async function answersIn(
  row: MediaRow,
  recording: Recording,
  request: string,
): Promise<{ found: Range[]; unknown: string[] }> {
  const people = (await listPeople(row.projectId)).filter((person) => !person.hidden);
  const parsed = parseRequest(
    request,
    lexiconOf(
      people.map(({ id, name }) => ({ id, name })),
      [],
      [recording.words],
    ),
  );
  const appearances = new Map(
    people.map((person) => [person.id, person.tracks.filter((track) => track.media === row.id)]),
  );
  const hits = answerRequest(parsed, {
    files: [{ footage: recording.footage, offset: 0, words: recording.words, people: appearances }],
    totalSeconds: recording.footage.durationSeconds,
    markers: [],
  });
  return { found: hits.map(({ start, end }) => ({ start, end })), unknown: parsed.unknown };
}

/** Looks for shorts in a recording and makes a reel of each of the best. @returns a sentence when there are none, or the set */
export async function makeShorts(
  row: MediaRow,
  wish: ShortsWish & Pick<ShortsDocument['wish'], 'shape' | 'request' | 'houseStyle'>,
): Promise<{ problem: string } | { set: ShortSet }> {
  const recording = await loadRecording(row);
  if (!recording)
    return {
      problem: `“${row.name}” is still being read. Shorts can be looked for as soon as the first readings are there.`,
    };
  const asked = wish.request.trim() ? await answersIn(row, recording, wish.request) : null;
  if (asked && asked.found.length === 0)
    return {
      problem: `Nothing in “${row.name}” answers “${wish.request}”${asked.unknown.length ? `; ${asked.unknown.map((word) => `“${word}”`).join(', ')} said nothing to the reader` : ''}. Put it in other words, or leave it out.`,
    };
  const ground = layShorts(recording, { ...wish, ...(asked ? { asked: asked.found } : {}) });
  const found = findShorts(ground);
  if (found.length === 0)
    return {
      problem: `No short of ${Math.round(wish.minSeconds)} to ${Math.round(wish.maxSeconds)} s could be found in ${wish.range ? 'this range' : 'this recording'}. Try another length${wish.range ? ' or a wider range' : ''}.`,
    };
  const set = await createShortSet(row.projectId, row.id, {
    wish,
    material: ground.material,
    because: ground.because,
    shorts: found.map((short) => ({ ...short, reelId: null })),
    thumbs: {},
    order: null,
  });
  return { set: await ensureReels(set) };
}

/** The shorts of a set in the order in which they are shown: by hand, else as thumbs and scores say. */
export function inOrder({ shorts, thumbs, order }: ShortsDocument): StoredShort[] {
  const ranked = rankShorts(shorts, new Map(Object.entries(thumbs)));
  if (!order) return ranked;
  const place = (id: string) =>
    order.includes(id) ? order.indexOf(id) : order.length + ranked.findIndex((short) => short.id === id);
  return [...ranked].sort((a, b) => place(a.id) - place(b.id));
}
/** Those that are shown: as many as were wished, without what was not wanted. */
export const shownShorts = (document: ShortsDocument): StoredShort[] =>
  inOrder(document)
    .filter((short) => document.thumbs[short.id] !== 'down')
    .slice(0, document.wish.count);

/** Every short that is shown has a reel; those that came up are made, and framed in the background. */
export async function ensureReels(set: ShortSet): Promise<ShortSet> {
  const missing = shownShorts(set.document).filter((short) => short.reelId === null);
  if (missing.length === 0) return set;
  const sources = await sourcesOf(set.projectId);
  const source = sources.get(set.mediaId);
  const row = source && (await readingOf(set.mediaId));
  if (!source || !row) return set;
  const { shape, houseStyle } = set.document.wish;
  const style =
    houseStyle === null
      ? null
      : ((await listHouseStyles(set.projectId)).find((each) => each.id === houseStyle) ?? null);
  const made = new Map<string, string>();
  for (const short of missing) {
    const reel = shortReel(short, source, row.rate, shape, captionDefaults, randomUUID);
    made.set(
      short.id,
      await createReel(set.projectId, style ? dressed(reel, style.document, style.name, sources) : reel),
    );
  }
  const saved = await changeShortSet(set.id, (document) => ({
    ...document,
    shorts: document.shorts.map((short) => ({ ...short, reelId: short.reelId ?? made.get(short.id) ?? null })),
  }));
  // Another window may have made the same reels a moment before.
  const kept = new Set(saved?.document.shorts.map((short) => short.reelId));
  for (const id of made.values()) if (!kept.has(id)) await deleteReel(set.projectId, id);
  await enqueueFraming(set.projectId, set.id, `Shorts from ${source.name}`);
  return saved ?? set;
}

function dressed(
  reel: ReturnType<typeof shortReel>,
  style: HouseStyle,
  name: string,
  sources: ReadonlyMap<string, Source>,
) {
  // A logo that is not in this project any more, or never was, is left out.
  const own = { ...style, logo: style.logo && sources.get(style.logo.media)?.photo ? style.logo : null };
  const result = applyCommand(reel, dressInStyle(reel, own, name, randomUUID), sources);
  return result.ok ? result.reel : reel;
}

async function readingOf(mediaId: string) {
  const row = await findMedia(mediaId);
  const reading = row && (await findBestReading(keyOf(row), readerVersion));
  return reading
    ? {
        rate:
          reading.probe.rate && reading.probe.rate.num / reading.probe.rate.den <= 60.1
            ? reading.probe.rate
            : rates['30'],
      }
    : null;
}

export type ThumbChange = { id: string; thumb: Thumb | null };
export const withThumb = (document: ShortsDocument, { id, thumb }: ThumbChange): ShortsDocument => {
  const { [id]: _, ...rest } = document.thumbs;
  return { ...document, thumbs: thumb ? { ...rest, [id]: thumb } : rest };
};
