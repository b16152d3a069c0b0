import { frameStretch, framedRange, isFramed, thingSubject, thingsAt, type Framing } from '#core/framing';
import type { StretchToFrame } from '#core/reel';
import { findMedia } from '#data/media';
import { loadWatched } from '#data/watched';
import { FramingDto, FramingsDto } from './forms/shortsDto';
import { done, missing, refused, type Result } from './result';
import { check } from './validate';

/** Seconds of a piece that is framed at once. */
const longestPiece = 3600;

/** Something to follow: its box in shares of the picture. */
export interface Subject {
  subject: string;
  name: string;
  x: number;
  y: number;
  width: number;
  height: number;
}

/** What is in the picture at a second, for choosing one to follow; large ones first, nothing where nothing was read. */
export async function showSubjects(mediaId: string, seconds: number): Promise<Subject[]> {
  const row = await findMedia(mediaId);
  const watched = row && (await loadWatched(row));
  if (!watched) return [];
  const faces = watched.tracks
    .filter((track) => track.start <= seconds && track.end >= seconds)
    .map((track): Subject => {
      const off = ({ time }: { time: number }) => Math.abs(time - seconds);
      const { x, y, width, height } = track.boxes.reduce((near, each) => (off(each) < off(near) ? each : near)).box;
      return { subject: `face:${track.id}`, name: 'face', x, y, width, height };
    });
  const things = thingsAt(watched.objects, seconds).map(({ label, x, y, width, height }): Subject => ({
    subject: thingSubject({ label, seconds, x: x + width / 2, y: y + height / 2 }),
    name: label,
    x,
    y,
    width,
    height,
  }));
  return [...things, ...faces].sort((a, b) => b.width * b.height - a.width * a.height);
}

/** Frames a stretch of an item for a shape; nothing is saved. */
export async function framePiece(mediaId: string, given: unknown): Promise<Result<Framing>> {
  const row = await findMedia(mediaId);
  const watched = row && (await loadWatched(row));
  if (!watched) return missing('This footage has not been read yet, so nothing is known to follow in it.', 'media');
  const checked = check(FramingDto, given);
  if (!checked.ok) return checked;
  const { start, end, width, height, subject, zoom, keys } = checked.value;
  if (!(end > start) || end - start > longestPiece)
    return refused('A piece that is framed is up to an hour long.', 'end');
  return done(frameStretch(watched, framedRange({ start, end }), { width, height }, { subject, zoom, keys }));
}

/**
 * Frames stretches of a project's footage for a shape; nothing is saved.
 * @returns a framing for each, in order; null where nothing was read that could be followed, or nothing is to be cropped
 */
export async function framePieces(projectId: string, given: unknown): Promise<Result<(Framing | null)[]>> {
  const checked = check(FramingsDto, given);
  if (!checked.ok) return checked;
  const { width, height, stretches } = checked.value;
  return done(await frameStretches(projectId, stretches, { width, height }));
}

export async function frameStretches(
  projectId: string,
  stretches: readonly StretchToFrame[],
  size: { width: number; height: number },
): Promise<(Framing | null)[]> {
  const watchedOf = new Map<string, Awaited<ReturnType<typeof loadWatched>> | null>();
  for (const media of new Set(stretches.map((stretch) => stretch.media))) {
    const row = await findMedia(media);
    watchedOf.set(media, row?.projectId === projectId ? await loadWatched(row) : null);
  }
  return stretches.map(({ media, start, end, subject, zoom, keys }) => {
    const watched = watchedOf.get(media);
    if (!watched || !(end > start) || end - start > longestPiece) return null;
    const framing = frameStretch(watched, framedRange({ start, end }), size, { subject, zoom, keys });
    return isFramed(framing, 'fill', watched.size, size) ? framing : null;
  });
}
