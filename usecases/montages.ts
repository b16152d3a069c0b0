import {
  applyChanges,
  createMontage,
  frameAt,
  montageItems,
  montageMusic,
  montagePut,
  montageReel,
  type Montage,
  type MontageChanges,
} from '#core/montage';
import { isSpeech } from '#core/readings';
import { applyCommand, reelFormat, reelFrames } from '#core/reel';
import type { MusicHearing } from '#core/sound';
import { listDecisions } from '#data/decisions';
import { loadPick } from '#data/log';
import { findMedia, listMedia } from '#data/media';
import { findHearing, lastMontage, loadMontage, saveMontage, tieReel, type StoredMontage } from '#data/montages';
import { createReel, openReel, reelNames, saveRevision } from '#data/reels';
import { lastTask } from '#data/tasks';
import { MakeReelDto, MontageChangesDto, SaveMontageDto } from './forms/montageDto';
import { openProject } from './openProject';
import { enqueueHearing } from './queue';
import { conflict, done, missing, refused, type Conflict, type Result } from './result';
import { sourcesOf } from './sources';
import { check, plain } from './validate';

export type { StoredMontage };

/** The music of a montage. */
interface Music {
  media: string;
  name: string;
}

const goneMusic = 'This music is not in the project any more.';

/** The music that was cut to last, else the first; null while there is none. Recordings of speech are none, unless one was cut to. */
export async function findMusic(projectId: string): Promise<Result<string | null>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const sounds = (await listMedia(projectId)).filter((item) => item.probe?.kind === 'sound' && !item.problem);
  const last = await lastMontage(projectId);
  const first = sounds.find((item) => item.id === last) ?? sounds.find((item) => !isSpeech(item.summary));
  return done(first?.id ?? null);
}

/**
 * A piece of music with its beats, and how the project cuts to it. While the beats are not known there is only the
 * problem, if listening to it failed; it is listened to anew.
 * @param again whether one that failed is tried again
 */
export async function showMontage(projectId: string, mediaId: string, again: boolean) {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const item = (await listMedia(projectId)).find((each) => each.id === mediaId);
  if (!item) return missing(goneMusic, 'media');
  const hearing = await findHearing(item.hash);
  if (!hearing) {
    const last = await lastTask('hear', item.hash);
    const problem = last?.state === 'failed' || last?.state === 'cancelled' ? last.sentence : null;
    if (!problem || again) await enqueueHearing(projectId, item.hash, item.name);
    return done({ hearing: null, problem: again ? null : problem, stored: null, gather: null, reels: [] });
  }
  const [stored, { value: pick }, decisions, reels] = await Promise.all([
    openMontage(projectId, mediaId, hearing),
    loadPick(projectId),
    listDecisions(projectId),
    reelNames(projectId),
  ]);
  const { mix, limits, photoSeconds } = pick;
  return done({ hearing, problem: null, stored, gather: { mix, limits, photoSeconds, decisions }, reels });
}

/** The first look at a montage makes it, so that it is the same at the second. */
async function openMontage(projectId: string, mediaId: string, hearing: MusicHearing): Promise<StoredMontage> {
  const known = await loadMontage(projectId, mediaId);
  if (known) return known;
  const made = createMontage(hearing, [], () => crypto.randomUUID());
  return (await saveMontage(projectId, mediaId, 0, made)) ?? (await loadMontage(projectId, mediaId))!;
}

/** What `changeMontage` is given: a document on a version, or a wish for a reel of what is saved. */
export interface MontageChange {
  value?: unknown;
  /** In place of the document: what changed in it since the version. */
  changes?: unknown;
  version?: unknown;
  makeReel?: unknown;
  into?: unknown;
  how?: unknown;
  at?: unknown;
}
export type MontageAnswer =
  | Result<{ reel: string } | { version: number; note: string | null }>
  | Conflict<{ value: Montage | null; version: number }>;

/**
 * Saves a montage on the version that the sender knows; the reel that was made of it follows as one step of its own
 * history. When another window was quicker, that is a conflict with what stands there. With `makeReel` a reel is made
 * of what is saved, or it is put into the reel `into`.
 */
export async function changeMontage(
  projectId: string,
  mediaId: string,
  change: MontageChange | null,
): Promise<MontageAnswer> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const item = await findMedia(mediaId);
  if (item?.projectId !== projectId) return missing(goneMusic, 'media');
  const music = { media: item.id, name: item.name };
  if (change?.makeReel === true) return takeToReel(projectId, music, change);
  const wanted = await documentOf(projectId, mediaId, change);
  if (!wanted.ok) return wanted;
  const checked = wanted.value && check(SaveMontageDto, wanted.value);
  if (checked && !checked.ok) return checked;
  const saved =
    checked && (await saveMontage(projectId, mediaId, checked.value.version, plain(checked.value.document) as Montage));
  if (saved) return done({ version: saved.version, note: await followMontage(projectId, saved, music) });
  const now = await loadMontage(projectId, mediaId);
  return conflict('This montage was changed in another window.', {
    value: now?.document ?? null,
    version: now?.version ?? 0,
  });
}

/** The document that a change asks for, as it was sent or made from what changed; null when that was another version. */
async function documentOf(projectId: string, mediaId: string, change: MontageChange | null) {
  if (change?.changes === undefined) return done({ document: change?.value, version: change?.version });
  const changes = check(MontageChangesDto, change.changes);
  if (!changes.ok) return changes;
  const known = await loadMontage(projectId, mediaId);
  if (!known || known.version !== change.version) return done(null);
  const document = applyChanges(known.document, plain(changes.value) as MontageChanges);
  return done({ document, version: known.version });
}

async function takeToReel(projectId: string, music: Music, change: MontageChange): Promise<Result<{ reel: string }>> {
  const stored = await loadMontage(projectId, music.media);
  if (!stored?.document.slots.some((slot) => slot.piece))
    return refused('There is nothing in the slots yet. Fill them first.', 'slots');
  const checked = check(MakeReelDto, { into: change.into, how: change.how, at: change.at });
  if (!checked.ok) return checked;
  const { into, how = 'insert', at = 'end' } = checked.value;
  if (into === undefined) return done({ reel: await makeMontageReel(projectId, stored, music) });
  const problem = await putMontage(projectId, stored, music, into, how, at);
  return problem ? refused(problem, 'into') : done({ reel: into });
}

/** Makes a reel of a montage; it follows the slots from then on. @returns its id */
async function makeMontageReel(projectId: string, stored: StoredMontage, music: Music): Promise<string> {
  const { document } = stored;
  const items = (await listMedia(projectId)).filter((item) => item.probe);
  const used = new Map(document.pieces.map((piece) => [piece.id, piece.media]));
  const shapes = document.slots.flatMap((slot) => {
    const probe = slot.piece && items.find((item) => item.id === used.get(slot.piece!.piece))?.probe;
    return probe
      ? [
          {
            rate: probe.rate,
            width: probe.kind === 'photo' ? 0 : probe.width,
            height: probe.height,
            seconds: slot.end - slot.start,
          },
        ]
      : [];
  });
  const { rate, size } = reelFormat(shapes);
  const reel = montageReel(
    document,
    `Cut to ${music.name.replace(/\.[^.]+$/, '')}`,
    music,
    await sourcesOf(projectId),
    rate,
    size,
  );
  // What was tapped goes along, as markers of the reel.
  const markers = document.marks
    .filter((mark) => mark >= document.span.start && mark <= document.span.end)
    .map((mark) => ({ id: crypto.randomUUID(), frame: frameAt(mark, document, rate), note: '' }));
  const id = await createReel(projectId, markers.length ? { ...reel, markers } : reel);
  await tieReel(stored.id, id);
  return id;
}

/** Puts a montage into a reel that is there, as one step of its history. @returns a sentence when it could not */
async function putMontage(
  projectId: string,
  { document }: StoredMontage,
  music: Music,
  reelId: string,
  how: 'insert' | 'overwrite',
  at: 'start' | 'end',
): Promise<string | null> {
  const reel = await openReel(reelId);
  if (!reel || reel.projectId !== projectId) return 'This reel is not there any more.';
  const sources = await sourcesOf(projectId);
  const command = montagePut(
    document,
    music,
    sources,
    reel.document.rate,
    how,
    at === 'start' ? 0 : reelFrames(reel.document),
    () => crypto.randomUUID(),
  );
  if (!command) return 'Some slots are empty. Fill them first.';
  const result = applyCommand(reel.document, command, sources);
  if (!result.ok) return result.reason;
  return (await saveRevision(reel.id, reel.head, result.reel, command))
    ? null
    : `“${reel.document.name}” was being changed in another window. Try again.`;
}

/** The reel that was made of a montage takes over its slots as they stand now, as one step. @returns a sentence when it could not */
async function followMontage(
  projectId: string,
  { reelId, document }: StoredMontage,
  music: Music,
): Promise<string | null> {
  const reel = reelId === null ? null : await openReel(reelId);
  if (!reel) return null;
  const sources = await sourcesOf(projectId);
  const items = montageItems(document, sources, reel.document.rate);
  const result = applyCommand(
    reel.document,
    { type: 'slots', items, music: montageMusic(document, music.media, music.name) },
    sources,
  );
  if (!result.ok) return `The reel “${reel.document.name}” was left as it is: ${result.reason}`;
  if (JSON.stringify(result.reel) === JSON.stringify(reel.document)) return null;
  const saved = await saveRevision(reel.id, reel.head, result.reel, {
    type: 'slots',
    items: [],
    music: montageMusic(document, music.media, music.name),
  });
  return saved
    ? null
    : `The reel “${reel.document.name}” was being changed in another window; it follows with the next change here.`;
}
