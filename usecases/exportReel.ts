import { exportFormats } from '#core/formats';
import { namedTurns } from '#core/framing';
import { clipsOf, type Reel } from '#core/reel';
import { findMedia } from '#data/media';
import { loadWatched } from '#data/watched';
import { loadSpoken } from '#data/words';
import { openReelOf } from './openReel';
import { listPeople } from './people';
import { done, missing, type Result } from './result';
import { sourcesOf } from './sources';

export interface ExportedDocument {
  name: string;
  /** Media type. */
  type: string;
  text: string;
}

/** A reel as a document that other programs read. @param speakers whether subtitles name who speaks, as far as that is known */
export async function exportReel(
  projectId: string,
  reelId: string,
  format: string,
  speakers = false,
): Promise<Result<ExportedDocument>> {
  const opened = await openReelOf(projectId, reelId);
  if (!opened.ok) return opened;
  const { document: reel } = opened.value;
  const known = Object.hasOwn(exportFormats, format) ? exportFormats[format]! : null;
  if (!known) return missing(`A reel can be exported as ${Object.keys(exportFormats).join(', ')}.`, 'format');
  const text = known.write({
    reel,
    sources: [...(await sourcesOf(projectId)).values()],
    words: known.withWords ? await loadSpoken(clipsOf(reel).map((clip) => clip.media)) : () => [],
    ...(known.withWords && speakers ? { speakerOf: await loadSpeakers(projectId, reel) } : {}),
  });
  return done({ name: `${reel.name}.${known.ending ?? format}`, type: known.type, text });
}

/** Who speaks in the footage of a reel: people with a name, where it can be told. */
async function loadSpeakers(projectId: string, reel: Reel): Promise<(media: string, seconds: number) => string | null> {
  const people = await listPeople(projectId);
  const turns = new Map<string, ReturnType<typeof namedTurns>>();
  for (const media of new Set(clipsOf(reel).map((clip) => clip.media))) {
    const row = await findMedia(media);
    const watched = row?.projectId === projectId ? await loadWatched(row) : null;
    if (!watched) continue;
    // Faces that are too small to tell whose they are belong to nobody.
    const nameOf = new Map(
      people.flatMap(({ tracks, named, name }) => tracks.map(({ key }) => [key, named ? name : null] as const)),
    );
    const faces = watched.tracks.map(({ id, start, end }) => ({
      track: id,
      start,
      end,
      name: nameOf.get(`${media}/${id}`) ?? null,
    }));
    turns.set(media, namedTurns(watched.turns, faces, watched.mouths));
  }
  return (media, seconds) =>
    turns.get(media)?.find(({ start, end }) => seconds >= start && seconds < end)?.name ?? null;
}
