import { frameStretch, framedRange, thingSubject, thingsAt, type Framing } from '#core/framing';

import { findMedia } from '#data/media';
import { loadWatched } from '#data/watched';
import { FramingDto } from './forms/shortsDto';
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
  if (!watched) return missing('This footage was not read yet, so nothing is known to follow in it.', 'media');
  const checked = check(FramingDto, given);
  if (!checked.ok) return checked;
  const { start, end, width, height, subject, zoom, keys } = checked.value;
  if (!(end > start) || end - start > longestPiece)
    return refused('A piece that is framed is up to an hour long.', 'end');
  return done(frameStretch(watched, framedRange({ start, end }), { width, height }, { subject, zoom, keys }));
}
