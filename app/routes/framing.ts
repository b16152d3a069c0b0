import { data } from 'react-router';
import { framedRange, frameStretch, thingsAt, thingSubject } from '#core/framing';
import { findMedia } from '#data/media';
import { loadWatched } from '#data/watched';
import { FramingDto } from '../forms/shortsDto';
import { check } from '../server/validate.server';
import type { Route } from './+types/framing';

/** What is in the picture at a time, for choosing one to follow: boxes in shares of the picture, large ones first. */
export async function loader({ params, request }: Route.LoaderArgs) {
  const row = await findMedia(params.mediaId);
  const watched = row && (await loadWatched(row));
  if (!watched) return Response.json([]);
  const at = Number(new URL(request.url).searchParams.get('at') ?? 0);
  const faces = watched.tracks
    .filter((track) => track.start <= at && track.end >= at)
    .map((track) => {
      const {
        box: { x, y, width, height },
      } = track.boxes.reduce((near, each) => (Math.abs(each.time - at) < Math.abs(near.time - at) ? each : near));
      return { subject: `face:${track.id}`, name: 'face', x, y, width, height };
    });
  const things = thingsAt(watched.objects, at).map(({ label, x, y, width, height }) => ({
    subject: thingSubject({ label, seconds: at, x: x + width / 2, y: y + height / 2 }),
    name: label,
    x,
    y,
    width,
    height,
  }));
  return Response.json([...things, ...faces].sort((a, b) => b.width * b.height - a.width * a.height));
}

/** Frames a stretch of an item for a shape; nothing is saved. */
export async function action({ params, request }: Route.ActionArgs) {
  const row = await findMedia(params.mediaId);
  const watched = row && (await loadWatched(row));
  if (!watched)
    return data({ problem: 'This footage was not read yet, so nothing is known to follow in it.' }, { status: 404 });
  const checked = check(FramingDto, await request.json().catch(() => null));
  if (!checked.ok) return data({ problem: Object.values(checked.problems)[0]! }, { status: 422 });
  const { start, end, width, height, subject, zoom, keys } = checked.value;
  if (!(end > start) || end - start > 3600)
    return data({ problem: 'A piece that is framed is up to an hour long.' }, { status: 422 });
  return {
    problem: null,
    framing: frameStretch(watched, framedRange({ start, end }), { width, height }, { subject, zoom, keys }),
  };
}
