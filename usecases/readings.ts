import { readerVersion } from '#core/readings';
import { hasChoice, readSoundChoice } from '#core/sound';
import { findFile, findItems, findMedia, keyOf, type MediaRow } from '#data/media';
import { listPeople } from './people';
import { findProject, saveRules } from '#data/projects';
import {
  findBestReading,
  findReading,
  loadCameraPath,
  loadDerived,
  loadDerivedOf,
  loadRaw,
  loadTrace,
  parseParameters,
  readingFolder,
  readingParameters,
  type StoredDerived,
} from '#data/readings';
import { storage } from '#data/storage';
import { loadTranscript } from '#data/words';
import { excerptOf } from '#media/read/excerpt';
import { ExcerptDto, ReadingRangeDto, RulesDto, SoundChoiceDto } from './forms/dto';
import { openProject, type Project } from './openProject';
import { paceOfReading } from './pace';
import { rangeFrom, readAnew } from './readRange';
import { done, missing, nothingMore, refused, type Result } from './result';
import { check } from './validate';

const goneItem = 'This item is not in the project any more.';
const notRead = 'This item has not been read yet.';

/** An item of whatever project. */
export async function openItem(mediaId: string): Promise<Result<MediaRow>> {
  const row = await findMedia(mediaId);
  return row ? done(row) : missing(goneItem, 'media');
}
/** An item of a project. */
async function openItemOf(projectId: string, mediaId: string): Promise<Result<{ project: Project; item: MediaRow }>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const item = await findMedia(mediaId);
  return item?.projectId === projectId ? done({ project: project.value, item }) : missing(goneItem, 'media');
}

/** Asks for something of an item's reading, and says so when there is none yet. */
async function ofReading<T>(mediaId: string, ask: (row: MediaRow) => Promise<T | null>): Promise<Result<T>> {
  const row = await findMedia(mediaId);
  const found = row && (await ask(row));
  return found ? done(found) : missing(notRead, 'media');
}

/** So many readings are given at once. */
const mostReadings = 64;

/**
 * Decided traces and runs of items, by the sensitivities of their project, in the order of their ids; null for what is
 * not there or has not been read yet.
 */
export async function showReadings(given: unknown): Promise<Result<(StoredDerived | null)[]>> {
  const ids = typeof given === 'string' ? given.split(',') : [];
  if (ids.length === 0 || ids.length > mostReadings)
    return refused(`Ask for 1 to ${mostReadings} readings at once.`, 'of');
  const items = await findItems(ids);
  const rules = new Map(
    await Promise.all(
      [...new Set(items.map((item) => item?.projectId))].map(
        async (id) => [id, id ? ((await findProject(id))?.rules ?? null) : null] as const,
      ),
    ),
  );
  const usual = items.flatMap((item) => (item && !rules.get(item.projectId) ? [item] : []));
  const derived = await loadDerivedOf(usual.map(keyOf));
  return done(
    await Promise.all(
      items.map(async (item) => {
        if (!item) return null;
        const own = rules.get(item.projectId);
        return own ? loadDerived(keyOf(item), own) : derived[usual.indexOf(item)]!;
      }),
    ),
  );
}

/** Raw measurements, for deciding again while a sensitivity moves. */
export const showRaw = (mediaId: string) => ofReading(mediaId, (row) => loadRaw(keyOf(row)));

/** How the camera moved; null as long as that was not read. */
export async function showCamera(mediaId: string) {
  const item = await openItem(mediaId);
  return item.ok ? done(await loadCameraPath(keyOf(item.value))) : item;
}

/** Boxes of the first face, for cutting out portraits. */
export const showFaces = (mediaId: string) =>
  ofReading(mediaId, async (row) => {
    const reading = await findBestReading(keyOf(row));
    return reading && (reading.faces[0]?.boxes ?? []);
  });

/** The sound level in dBFS; null for what has no sound or has not been read yet. */
export async function showLevels(mediaId: string) {
  const item = await openItem(mediaId);
  return item.ok ? done(await loadTrace(keyOf(item.value), 'sound.level')) : item;
}

/** Where the contact sheet of an item with this number lies in the store, counted from 1. */
export const findSheet = (mediaId: string, sheet: number) =>
  Number.isInteger(sheet) && sheet >= 1
    ? ofReading(mediaId, async (row) => {
        const reading = await findBestReading(keyOf(row));
        return reading && `${readingFolder(reading)}/sheet-${String(sheet).padStart(4, '0')}.jpg`;
      })
    : Promise.resolve(missing('There is no such picture.', 'sheet'));

/**
 * Where the file that a player plays lies in the store: the proxy or working copy when there is one, else the original.
 * `isLast` when no other will take its place.
 */
export async function findPlayable(mediaId: string): Promise<Result<{ key: string; isLast: boolean }>> {
  const row = await findMedia(mediaId);
  const file = row && (await findFile(row.fileHash));
  if (!file) return missing(goneItem, 'media');
  const isRead = (await findReading(keyOf(row))) !== null;
  const own = (await findBestReading(keyOf(row)))?.proxyKey;
  // A part that was read alone has no proxy; one of the whole file, read before, serves as well.
  const whole =
    own || !row.parameters
      ? null
      : (
          await findReading({
            hash: file.hash,
            parameters: readingParameters({ ...parseParameters(row.parameters), range: null }),
          })
        )?.proxyKey;
  return done({ key: own ?? whole ?? file.storageKey, isLast: isRead });
}

/** So much of a track is given to listen to, in seconds. */
const excerptSeconds = 15;

/**
 * Some seconds of one track or channel of an item, as a browser plays them.
 * @param given `{ sound, from }`: a pick as `writeSoundChoice` writes it, and seconds
 */
export async function hearExcerpt(mediaId: string, given: unknown, signal?: AbortSignal): Promise<Result<Buffer>> {
  const opened = await openItem(mediaId);
  if (!opened.ok) return opened;
  const checked = check(ExcerptDto, given);
  if (!checked.ok) return checked;
  const { from } = checked.value;
  const sound = readSoundChoice(checked.value.sound);
  const file = await findFile(opened.value.fileHash);
  const known = (await findBestReading(keyOf(opened.value)))?.probe ?? file?.probe;
  if (!file || !sound || !known?.soundTracks || !hasChoice(known.soundTracks, sound))
    return refused('This file has no such track or channel of sound.', 'sound');
  if (from >= known.durationSeconds) return refused(`“${opened.value.name}” ends before that.`, 'from');
  try {
    return done(
      await excerptOf(await storage().localPath(file.storageKey), sound, { from, seconds: excerptSeconds }, signal),
    );
  } catch (error) {
    // The listener is gone, or ffmpeg makes nothing of this track.
    if (!(error instanceof Error) || !(signal?.aborted || error.message.startsWith('ffmpeg ended'))) throw error;
    return refused('This track cannot be played; it may be damaged.', 'sound');
  }
}

/** What the reading report shows beside the measurements. */
export async function showReport(projectId: string, mediaId: string) {
  const opened = await openItemOf(projectId, mediaId);
  if (!opened.ok) return opened;
  const { project, item } = opened.value;
  const [people, transcript, pace] = await Promise.all([listPeople(project.id), loadTranscript(item), paceOfReading()]);
  return done({
    rules: project.rules,
    pace,
    words: transcript.words,
    source: transcript.source,
    version: readerVersion,
    people: people
      .filter((person) => !person.hidden)
      .map((person) => ({
        name: person.name,
        seconds: person.tracks
          .filter((track) => track.media === item.id)
          .reduce((sum, track) => sum + track.end - track.start, 0),
      }))
      .filter((person) => person.seconds > 0),
  });
}

/** @param given the sensitivities of the project; null for the usual ones */
export async function changeRules(projectId: string, given: unknown): Promise<Result<null>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const checked = given === null ? done(null) : check(RulesDto, given);
  if (!checked.ok) return checked;
  await saveRules(project.value.id, checked.value);
  return nothingMore;
}

/**
 * Has a stretch of an item read.
 * @param given `{ from, to }` as people write times, such as "2:00"; empty for the start and the end
 */
export async function changeRange(projectId: string, mediaId: string, given: unknown): Promise<Result<null>> {
  const opened = await openItemOf(projectId, mediaId);
  if (!opened.ok) return opened;
  const checked = check(ReadingRangeDto, given);
  if (!checked.ok) return checked;
  const { from, to } = checked.value;
  if (to !== null && to - (from ?? 0) < 1) return refused('The range must be at least a second long.');
  const problem = await readAnew(opened.value.item, { range: rangeFrom(from, to) });
  return problem ? refused(problem) : nothingMore;
}

/**
 * Chooses what of the sound of an item is heard; it is read again for that, and what was read before stays until then.
 * @param given `{ sound }` as `writeSoundChoice` writes it; empty for what the machine finds best
 */
export async function changeSound(projectId: string, mediaId: string, given: unknown): Promise<Result<null>> {
  const opened = await openItemOf(projectId, mediaId);
  if (!opened.ok) return opened;
  const { item } = opened.value;
  const checked = check(SoundChoiceDto, given);
  if (!checked.ok) return checked;
  const sound = checked.value.sound ? readSoundChoice(checked.value.sound) : null;
  const tracks = (await findBestReading(keyOf(item)))?.probe.soundTracks;
  if (!tracks) return refused(notRead);
  if (sound && !hasChoice(tracks, sound)) return refused('This file has no such track or channel of sound.', 'sound');
  const problem = await readAnew(item, { sound });
  return problem ? refused(problem) : nothingMore;
}
