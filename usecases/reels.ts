import { randomUUID } from 'node:crypto';
import {
  applyCommand,
  assembleReel,
  movePhotos,
  clipsOf,
  describeCommand,
  findClip,
  inPlaceReel,
  reelFormat,
  sourcesFrom,
  type SyncedFile,
  reelFrames,
  stretchShown,
  type Reel,
} from '#core/reel';
import type { Frame } from '#core/framing';
import { framesToSeconds, type Range } from '#core/time';
import { downbeats } from '#core/sound';
import { listMedia } from '#data/media';
import { findBestReading } from '#data/readings';
import { listTables } from '#data/looks';
import { findHearing, loadMontage, montageOfReel } from '#data/montages';
import {
  createReel,
  deleteReel,
  findSelects,
  firstWith,
  letStandAlone,
  forgetVersion,
  listReels,
  listSteps,
  listVersions,
  loadRevision,
  nameVersion,
  openReel,
  reelNames,
  saveRevision,
  type OpenReel,
} from '#data/reels';
import { lastTask, listRenders } from '#data/tasks';
import { MakeReelsDto } from './forms/dto';
import { ReelIntentDto } from './forms/reelDto';
import { listStyles } from './houseStyles';
import { openReelOf } from './openReel';
import { paceFrom } from './pace';
import { openProject } from './openProject';
import { enqueueHearing } from './queue';
import { sourcesOf } from './sources';
import { done, missing, refused, type Result, type ValueOf } from './result';
import { check } from './validate';

/** A reel on a screen; `readOnly` for an earlier version. */
export type LiveReel = OpenReel & { readOnly?: boolean };

/** Where beats and bars of a reel's music are, in seconds of the music. */
export interface MusicBeatsOf {
  media: string;
  beats: number[];
  bars: number[];
}

/** All reels as cards: what is seen of each in a list, without its document. */
export async function showReels(projectId: string) {
  const project = await openProject(projectId);
  return project.ok ? done({ reels: (await listReels(projectId)).map(reelCard) }) : project;
}

/** Where in a reel the pictures of its card lie, as shares of its pieces. */
const cardPictures = [0, 0.25, 0.5, 0.75];

function reelCard({ id, role, updatedAt, document }: Awaited<ReturnType<typeof listReels>>[number]) {
  const { name, rate, size } = document;
  const pieces = clipsOf(document);
  const shown = new Set(cardPictures.flatMap((share) => pieces[Math.floor(share * pieces.length)] ?? []));
  return {
    id,
    role,
    updatedAt,
    name,
    rate,
    size,
    frames: reelFrames(document),
    pieces: pieces.length,
    pictures: [...shown].map((clip) => ({
      id: clip.id,
      media: clip.media,
      seconds: framesToSeconds(clip.sourceIn + clip.frames / 2, rate),
    })),
  };
}

export type ReelCardData = ReturnType<typeof reelCard>;

/** A reel with all that its place shows. @param beside another reel, or an earlier version as "REEL@NUMBER" */
export async function showReel(projectId: string, reelId: string, beside: string | null) {
  const opened = await openReelOf(projectId, reelId);
  if (!opened.ok) return opened;
  const reel = opened.value;
  await letStandAlone(reel.id);
  const [beats, slots, reels, other, versions, tables, renders, styles] = await Promise.all([
    beatsUnder(projectId, reel.document.music?.media),
    montageOfReel(reel.id),
    reelNames(projectId),
    beside && beside !== reel.id ? openBeside(projectId, beside) : null,
    listVersions(reel.id),
    listTables(projectId),
    listRenders(projectId),
    listStyles(projectId),
  ]);
  return done({
    reel,
    other,
    reels,
    styles,
    tables,
    beats,
    slots,
    pace: await paceFrom(renders),
    versions: versions.map(({ id, number, name, createdAt }) => ({ id, number, name, at: createdAt.toISOString() })),
  });
}

export type ReelData = ValueOf<typeof showReel>;

/** Beats of the music, as they were put right; asked for when nobody listened to it yet. */
async function beatsUnder(projectId: string, mediaId: string | undefined): Promise<MusicBeatsOf | null> {
  if (mediaId === undefined) return null;
  const item = (await listMedia(projectId)).find((each) => each.id === mediaId);
  if (!item) return null;
  const [montage, hearing] = await Promise.all([loadMontage(projectId, mediaId), findHearing(item.hash)]);
  const grid = montage?.document.grid ?? hearing?.grid;
  if (grid) return { media: mediaId, beats: grid.beats, bars: downbeats(grid) };
  if ((await lastTask('hear', item.hash))?.state !== 'failed') await enqueueHearing(projectId, item.hash, item.name);
  return null;
}

async function openBeside(projectId: string, wanted: string): Promise<LiveReel | null> {
  const [id, number] = wanted.split('@');
  const reel = await openReel(id!);
  if (reel?.projectId !== projectId) return null;
  if (number === undefined) return reel;
  const revision = await loadRevision(reel.id, Number(number) || 0);
  if (!revision) return null;
  return {
    ...reel,
    id: `${reel.id}@${number}`,
    head: revision.number,
    document: revision.document,
    canUndo: false,
    canRedo: false,
    readOnly: true,
  };
}

/** Steps that are listed. */
const shownSteps = 60;

/** What was done to a reel lately, in sentences, newest first. */
export async function showSteps(projectId: string, reelId: string) {
  const opened = await openReelOf(projectId, reelId);
  if (!opened.ok) return opened;
  const steps = await listSteps(opened.value.id, opened.value.head, shownSteps);
  return done(
    steps.map(({ number, command, createdAt, before }) => ({
      number,
      says: command && before ? describeCommand(command, before) : 'as it was made',
      at: createdAt.toISOString(),
    })),
  );
}

/** The stretch of its source that a piece showed when it came into the reel, in seconds. */
export async function showFirstStretch(projectId: string, reelId: string, clip: string): Promise<Result<Range>> {
  const opened = await openReelOf(projectId, reelId);
  if (!opened.ok) return opened;
  const reel = await firstWith(reelId, clip);
  const own = reel && findClip(reel, clip);
  return own ? done(stretchShown(own, reel.rate)) : missing('This piece is not saved yet. Try again in a moment.');
}

/** What came of something that was done to a whole reel. */
export interface WholeReelAnswer {
  /** The reel that was made, if one was. */
  made?: string;
}

/** Deletes or duplicates a reel, or names or forgets one of its versions. */
export async function changeWholeReel(
  projectId: string,
  reelId: string,
  given: unknown,
): Promise<Result<WholeReelAnswer>> {
  const opened = await openReelOf(projectId, reelId);
  if (!opened.ok) return opened;
  const reel = opened.value;
  const checked = check(ReelIntentDto, given);
  if (!checked.ok) return checked;
  const { intent, name, version } = checked.value;
  switch (intent) {
    case 'delete':
      await deleteReel(projectId, reel.id);
      return done({});
    case 'duplicate':
      return done({ made: await createReel(projectId, { ...reel.document, name: `${reel.document.name}, copy` }) });
    case 'nameVersion':
      await nameVersion(reel.id, reel.head, name!);
      return done({});
    case 'forgetVersion':
      await forgetVersion(reel.id, version!);
      return done({});
  }
}

export interface MadeReels {
  reels: { id: string; name: string }[];
  /** Whether the first of them is to be opened. */
  open: boolean;
}

/** Boxes of the faces in the photos that pieces show, in shares of the photo; none where it has not been read yet. */
async function facesOfPhotos(
  items: Awaited<ReturnType<typeof listMedia>>,
  pieces: readonly { media: string }[],
): Promise<Map<string, Frame[]>> {
  const shown = new Set(pieces.map(({ media }) => media));
  const photos = items.filter((item) => shown.has(item.id) && item.probe?.kind === 'photo');
  const found = new Map<string, Frame[]>();
  for (const photo of photos) {
    const reading = await findBestReading({ hash: photo.hash, parameters: photo.parameters });
    found.set(photo.id, reading?.faces[0]?.boxes.map(({ x, y, width, height }) => ({ x, y, width, height })) ?? []);
  }
  return found;
}

/** Makes reels of the pieces given, in their order, at the rate and shape that most of it has. */
export async function createReels(projectId: string, given: unknown): Promise<Result<MadeReels>> {
  const project = await openProject(projectId);
  if (!project.ok) return project;
  const checked = check(MakeReelsDto, given);
  if (!checked.ok) return checked;
  const { reels: wanted, open } = checked.value;
  if (wanted.some((reel) => reel.pieces.length === 0 && !reel.role))
    return refused(
      'Nothing is kept, so there is nothing to make a reel of. Lower the water or keep a moment.',
      'pieces',
    );
  const items = (await listMedia(projectId)).filter((item) => item.probe);
  const sources = sourcesFrom(items);
  const { rate, size } = formatOf(
    items,
    wanted.flatMap((reel) => reel.pieces),
  );
  const faces = await facesOfPhotos(
    items,
    wanted.flatMap((reel) => (reel.movePhotos ? reel.pieces : [])),
  );
  const documents = wanted.map((reel) => ({
    role: reel.role ?? null,
    replaces: reel.replaces ?? null,
    document: reel.inPlace
      ? inPlaceReel(reel.name, syncedFiles(reel.pieces, items), sources, rate, size, randomUUID)
      : movePhotos(assembleReel(reel.name, reel.pieces, sources, rate, size, randomUUID), (media) =>
          reel.movePhotos ? (faces.get(media) ?? null) : null,
        ),
  }));
  if (documents.some(({ document, role }) => !role && clipsOf(document).length === 0))
    return refused('None of this footage is in the project any more.', 'pieces');
  const reels: MadeReels['reels'] = [];
  for (const { document, role, replaces } of documents) {
    const known =
      role === 'selects'
        ? await findSelects(projectId)
        : replaces
          ? await replacePieces(projectId, replaces, document)
          : null;
    reels.push({ id: known ?? (await createReel(projectId, document, role)), name: document.name });
  }
  return done({ reels, open: open !== false });
}

/**
 * Puts the tracks of a new reel into one that is there, as one step of its history; its sound, titles and looks stay.
 * @returns its id; null when it is not there any more
 */
async function replacePieces(projectId: string, reelId: string, made: Reel): Promise<string | null> {
  for (let tries = 0; tries < 3; tries++) {
    const known = await openReel(reelId);
    if (known?.projectId !== projectId) return null;
    // Only the new pieces are brought to its rate; its titles and markers have it already.
    const { rate } = known.document;
    const shaped = applyCommand(made, { type: 'format', rate }, await sourcesOf(projectId));
    if (!shaped.ok) return null;
    const { name, tracks } = shaped.reel;
    const command = { type: 'several' as const, name: 'put other pieces in', commands: [] };
    if (await saveRevision(reelId, known.head, { ...known.document, name, tracks }, command)) return reelId;
  }
  return null;
}

type ProjectItem = Awaited<ReturnType<typeof listMedia>>[number];
interface PieceOfFootage {
  media: string;
  start: number;
  end: number;
}

/** The rate and shape of most of the pieces; a pile that is still empty takes those of the footage it is filled from. */
function formatOf(items: readonly ProjectItem[], pieces: readonly PieceOfFootage[]) {
  const seconds = new Map<string, number>();
  for (const { media, start, end } of pieces) seconds.set(media, (seconds.get(media) ?? 0) + end - start);
  return reelFormat(
    items
      .map(({ id, probe }) => ({
        rate: probe!.rate,
        width: probe!.width,
        height: probe!.height,
        seconds: pieces.length === 0 ? probe!.durationSeconds : (seconds.get(id) ?? 0),
      }))
      .filter((shape) => shape.seconds > 0),
  );
}

/** Pieces by camera, each with its place on the common clock; a camera whose place is not known begins with the clock. */
function syncedFiles(pieces: readonly PieceOfFootage[], items: readonly ProjectItem[]): SyncedFile[] {
  return items.flatMap((item) => {
    const ranges = pieces.filter((piece) => piece.media === item.id);
    return ranges.length ? [{ media: item.id, name: item.name, offsetSeconds: item.syncOffset ?? 0, ranges }] : [];
  });
}
