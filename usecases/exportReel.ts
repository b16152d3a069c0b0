import { exportFormats } from '#core/formats';
import { clipsOf, type Reel } from '#core/reel';
import { findMedia } from '#data/media';
import { loadSpoken } from '#data/words';
import { openReelOf } from './openReel';
import { done, missing, type Result } from './result';
import { sourcesOf } from './sources';
import { namedSpeakers } from './speakers';

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

/** Who speaks in the footage of a reel, by name, where it can be told. */
async function loadSpeakers(projectId: string, reel: Reel): Promise<(media: string, seconds: number) => string | null> {
  const turns = new Map<string, Awaited<ReturnType<typeof namedSpeakers>>>();
  for (const media of new Set(clipsOf(reel).map((clip) => clip.media))) {
    const row = await findMedia(media);
    if (row?.projectId === projectId) turns.set(media, await namedSpeakers(row));
  }
  return (media, seconds) =>
    turns.get(media)?.find(({ start, end }) => seconds >= start && seconds < end)?.name ?? null;
}
