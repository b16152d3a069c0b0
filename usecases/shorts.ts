import { randomUUID } from 'node:crypto';
import { answerRequest, lexiconOf, loadThesaurus, parseRequest } from '#core/ask';
import { captionDefaults } from '#core/captions';
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
import { listPeople } from './people';
import { findProject } from '#data/projects';
import { findBestReading, loadDerived } from '#data/readings';
import { createReel, deleteReel, letStandAlone, openReel } from '#data/reels';
import type { ShortsDocument, StoredShort } from '#data/schema';

export type { ShortsDocument };
import {
  changeShortSet,
  createShortSet,
  deleteShortSet,
  findShortSet,
  listHouseStyles,
  listShortSets,
  type ShortSet,
} from '#data/shorts';
import { listRenders } from '#data/tasks';
import { loadTranscript } from '#data/words';
import { enqueueFraming } from './queue';
import { listStyles } from './houseStyles';
import { openProject } from './openProject';
import { renderReels } from './renders';
import { done, missing, refused, type Result, type ValueOf } from './result';
import { sourcesOf } from './sources';
import { check } from './validate';
import { ShortsChangeDto, ShortsWishDto } from './forms/shortsDto';

/** A recording as the search for shorts sees it; null when it has not been read yet. */
async function loadRecording(row: MediaRow): Promise<Recording | null> {
  const [derived, transcript] = await Promise.all([
    loadDerived(keyOf(row), (await findProject(row.projectId))?.rules ?? null),
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
    lexiconOf({ people: people.map(({ id, name }) => ({ id, name })), thesaurus: await loadThesaurus() }, [
      recording.words,
    ]),
  );
  const appearances = new Map(
    people.map((person) => [person.id, person.tracks.filter((track) => track.media === row.id)]),
  );
  const { hits } = answerRequest(parsed, {
    files: [{ footage: recording.footage, offset: 0, words: recording.words, people: appearances }],
    totalSeconds: recording.footage.durationSeconds,
    markers: [],
  });
  return { found: hits.map(({ start, end }) => ({ start, end })), unknown: parsed.unknown };
}

/** The Shorts place: sets that were found, and styles that they can be dressed in. */
export async function showShortSets(projectId: string) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const [sets, styles] = await Promise.all([listShortSets(projectId), listStyles(projectId)]);
  return done({
    sets: sets.map(({ id, mediaId, document, createdAt }) => ({
      id,
      mediaId,
      shorts: Math.min(document.wish.count, document.shorts.length),
      minSeconds: document.wish.minSeconds,
      maxSeconds: document.wish.maxSeconds,
      shape: document.wish.shape,
      titles: document.shorts.slice(0, 3).map((short) => short.title),
      at: createdAt.toISOString(),
    })),
    styles: styles.map(({ id, name }) => ({ id, name })),
  });
}

/** Looks for shorts in a recording as somebody wishes them. @returns the set that was found */
export async function findShortsAsWished(projectId: string, given: unknown): Promise<Result<ShortSet>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const checked = check(ShortsWishDto, given);
  if (!checked.ok) return checked;
  const { media, from, to, ...wish } = checked.value;
  if (wish.maxSeconds < wish.minSeconds + 2)
    return refused('The longest is at least two seconds longer than the shortest.', 'maxSeconds');
  if (from !== null && to !== null && to - from < wish.minSeconds)
    return refused('This range is shorter than the shortest short.', 'to');
  const row = await findMedia(media);
  if (row?.projectId !== projectId) return refused('This recording is not in the project any more.', 'media');
  const range = from === null && to === null ? {} : { range: { start: from ?? 0, end: to ?? Number.MAX_SAFE_INTEGER } };
  return makeShorts(row, { ...wish, ...range });
}

type Wish = ShortsWish & Pick<ShortsDocument['wish'], 'shape' | 'request' | 'houseStyle'>;

/** Looks for shorts in a recording and makes a reel of each of the best. */
export async function makeShorts(row: MediaRow, wish: Wish): Promise<Result<ShortSet>> {
  const recording = await loadRecording(row);
  if (!recording)
    return refused(
      `“${row.name}” is still being read. Shorts can be looked for as soon as the first readings are there.`,
    );
  const asked = wish.request.trim() ? await answersIn(row, recording, wish.request) : null;
  if (asked && asked.found.length === 0) {
    const unknown = asked.unknown.map((word) => `“${word}”`).join(', ');
    return refused(
      `Nothing in “${row.name}” answers “${wish.request}”${unknown ? `; ${unknown} said nothing to the reader` : ''}. Put it in other words, or leave it out.`,
    );
  }
  const ground = layShorts(recording, { ...wish, ...(asked ? { asked: asked.found } : {}) });
  const found = findShorts(ground);
  if (found.length === 0) {
    const lengths = `${Math.round(wish.minSeconds)} to ${Math.round(wish.maxSeconds)} s`;
    return refused(
      `No short of ${lengths} could be found in ${wish.range ? 'this range' : 'this recording'}. Try another length${wish.range ? ' or a wider range' : ''}.`,
    );
  }
  const set = await createShortSet(row.projectId, row.id, {
    wish,
    material: ground.material,
    because: ground.because,
    shorts: found.map((short) => ({ ...short, reelId: null })),
    thumbs: {},
    order: null,
  });
  return done(await ensureReels(set));
}

const gone = 'These shorts are not there any more.';

async function openSet(projectId: string, setId: string): Promise<Result<ShortSet>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const set = await findShortSet(projectId, setId);
  return set ? done(set) : missing(gone);
}

/** A set of shorts, each with its reel as it stands now. */
export async function showShorts(projectId: string, setId: string) {
  const opened = await openSet(projectId, setId);
  if (!opened.ok) return opened;
  const set = await ensureReels(opened.value);
  const row = await findMedia(set.mediaId);
  const [styles, transcript] = await Promise.all([listStyles(projectId), row ? loadTranscript(row) : { words: [] }]);
  const shown = shownShorts(set.document);
  const reels = await Promise.all(shown.map(async (short) => (short.reelId ? openReel(short.reelId) : null)));
  const { wish, material, because, thumbs, shorts } = set.document;
  return done({
    id: set.id,
    mediaId: set.mediaId,
    wish,
    material,
    because,
    thumbs,
    /** By hand; null for that of their scores. */
    order: set.document.order,
    styles,
    words: transcript.words,
    more: inOrder(set.document).length - shown.length,
    putAway: shorts.filter((short) => thumbs[short.id] === 'down').map(({ id, title }) => ({ id, title })),
    shorts: shown.flatMap((short, index) => {
      const reel = reels[index];
      return reel ? [{ ...short, reel }] : [];
    }),
  });
}
export type ShortSetData = ValueOf<typeof showShorts>;

/** Thumbs, order, rendering, forgetting. @returns whether the set is gone */
export async function changeShorts(
  projectId: string,
  setId: string,
  given: unknown,
): Promise<Result<{ gone: boolean }>> {
  const opened = await openSet(projectId, setId);
  if (!opened.ok) return opened;
  const set = opened.value;
  const checked = check(ShortsChangeDto, given);
  if (!checked.ok) return checked;
  const change = checked.value;
  const stays = done({ gone: false });
  switch (change.intent) {
    case 'delete':
      await deleteShortSet(projectId, set.id);
      await letGo(set);
      return done({ gone: true });
    case 'thumb': {
      const thumb = { id: change.id!, thumb: change.thumb ?? null };
      await changeShortSet(set.id, (document) => withThumb(document, thumb));
      return stays;
    }
    case 'order': {
      const order = change.order!.length ? change.order! : null;
      await changeShortSet(set.id, (document) => ({ ...document, order }));
      return stays;
    }
    case 'render': {
      const { shape = null, lines = null, quality = 'good', pattern = '{n} {title}' } = change;
      const rendered = await renderReels(projectId, change.reels!, { shape, lines, quality, pattern });
      return rendered.ok ? stays : rendered;
    }
    case 'again':
      return stays;
  }
}

/** Reels of a set that is gone: those that were edited or rendered stand by themselves from then on, the others go. */
async function letGo({ projectId, document }: ShortSet): Promise<void> {
  const rendered = new Set((await listRenders(projectId)).map(({ render }) => render.reelId));
  for (const { reelId } of document.shorts) {
    const reel = reelId && (await openReel(reelId));
    if (!reel) continue;
    if (reel.head === 0 && !reel.canRedo && !rendered.has(reel.id)) await deleteReel(projectId, reel.id);
    else await letStandAlone(reel.id);
  }
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
      await createReel(set.projectId, style ? dressed(reel, style.document, style.name, sources) : reel, 'short'),
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
  const reading = row && (await findBestReading(keyOf(row)));
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
