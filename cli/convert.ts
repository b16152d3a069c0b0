import { dirname } from 'node:path';
import { applyCommand, type Reel } from '#core/reel';
import { rates, type Rate } from '#core/time';
import { MediaError } from '#media/process';
import { addressFrom, openReelFile, reelAs, type OpenedReel } from './reelFile';
import { textOf } from './texts';

/**
 * An edit in another format.
 * @param rate what a list was made for; what another edit is brought to
 * @param words a text with times of the whole edit's only source; for captions
 * @returns the document, and sentences about what it cannot hold
 * @throws MediaError
 */
export async function convert(
  file: string,
  out: string,
  rate: Rate | null,
  words: string | undefined,
): Promise<{ text: string; left: string[] }> {
  const opened = await openReelFile(file, rate ?? rates['25']);
  const spoken = words === undefined ? [] : await textOf(words);
  const { reel, sources } = rate ? broughtTo(opened, rate) : opened;
  const named = sources.map((source) => {
    const path = opened.found.get(source.id)?.path;
    return path ? { ...source, name: addressFrom(dirname(out), path) } : source;
  });
  return { text: reelAs(out, reel, named, () => spoken), left: opened.left };
}

function broughtTo({ reel, sources }: OpenedReel, rate: Rate): { reel: Reel; sources: OpenedReel['sources'] } {
  const done = applyCommand(reel, { type: 'format', rate }, new Map(sources.map((source) => [source.id, source])));
  if (!done.ok) throw new MediaError(done.reason);
  return { reel: done.reel, sources };
}
