import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { beatSampleRate, downbeats, hearBars, hearMusic, otherLength, type MusicHearing } from '#core/sound';
import { clamp } from '#core/signal';
import { formatClock, totalLength, type Range } from '#core/time';
import { bringIn } from '#data/bringIn';
import { findFile, findMedia, listMedia } from '#data/media';
import { findHearing } from '#data/montages';
import { scratchFolder, storage } from '#data/storage';
import { joinMusic, type MusicStretch } from '#media/outlets/joinMusic';
import { MediaError } from '#media/process';
import { monoSound } from '#media/read/monoSound';
import { wishOf, type MusicWish } from '../makeMusic';
import { queueArrival } from '../queue';
import type { Work } from './runTask';

/** Songs are brought to the loudness of the first, by at most so much. */
const mostGainDb = 8;
/** Hearing the songs is so much of the work. */
const heardShare = 0.7;

/** Makes a piece of music of others; the subject is a `MusicWish`. Parts meet on downbeats. */
export async function makeMusic({ task, signal, progress }: Work): Promise<string | null> {
  const projectId = task.projectId!;
  const wish = wishOf(task.subject);
  const items = await listMedia(projectId);
  const loudness = wish.parts.map(({ media }) => items.find(({ id }) => id === media)?.loudness?.integratedLufs);
  const songs: { file: string; heard: HeardPart }[] = [];
  for (const part of wish.parts) {
    const item = await findMedia(part.media);
    const stored = item?.projectId === projectId ? await findFile(item.fileHash) : null;
    if (!stored || (await storage().size(stored.storageKey)) === null)
      throw new MediaError('One of these songs is not in the store any more. Bring it in again.');
    const file = await storage().localPath(stored.storageKey);
    const samples = await monoSound(file, beatSampleRate, 'no music can be made of it', signal);
    const hearing = (await findHearing(item!.fileHash)) ?? hearMusic(samples);
    songs.push({
      file,
      heard: hearPart(samples, hearing, part, songs.length === 0, songs.length === wish.parts.length - 1),
    });
    progress((heardShare * songs.length) / wish.parts.length);
  }
  const total = songs.reduce((sum, { heard }) => sum + heard.end - heard.start, 0);
  const stretches = songs.flatMap(({ file, heard }, index): MusicStretch[] => {
    const own = heard.end - heard.start;
    const ranges = wish.seconds === null ? [heard] : ofLength(heard, (own / total) * wish.seconds);
    const [first, mine] = [loudness[0], loudness[index]];
    const gainDb =
      typeof first === 'number' && typeof mine === 'number' ? clamp(first - mine, -mostGainDb, mostGainDb) : 0;
    return ranges.map(({ start, end }) => ({ file, start, end, gainDb }));
  });
  const output = join(scratchFolder(), `music-${task.id}.flac`);
  await mkdir(scratchFolder(), { recursive: true });
  try {
    await joinMusic(stretches, output, {
      signal,
      onProgress: (share) => progress(heardShare + (1 - heardShare) * share),
    });
    const bin = (await findMedia(wish.parts[0]!.media))?.binId ?? null;
    const made = await bringIn(projectId, output, task.title, { binId: bin });
    await queueArrival(made);
    return saying(stretches);
  } finally {
    await rm(output, { force: true });
  }
}

/** "1:02 long, joined at 0:31 and 0:47." */
function saying(stretches: readonly Range[]): string {
  const joins: string[] = [];
  let at = 0;
  for (const { start, end } of stretches.slice(0, -1)) joins.push(formatClock((at += end - start)));
  const where = joins.length > 1 ? `${joins.slice(0, -1).join(', ')} and ${joins.at(-1)}` : joins[0];
  return `${formatClock(totalLength(stretches))} long${where ? `, joined at ${where}` : ''}.`;
}

/** The stretch of a song that is used, from downbeat to downbeat where it has any, and its bars. */
type HeardPart = Range & { bars: ReturnType<typeof hearBars> };

function hearPart(
  samples: Float32Array,
  { grid, lastHit }: Pick<MusicHearing, 'grid' | 'lastHit'>,
  { from, to }: MusicWish['parts'][number],
  isFirst: boolean,
  isLast: boolean,
): HeardPart {
  const seconds = samples.length / beatSampleRate;
  const bars = downbeats(grid);
  const near = (wanted: number) =>
    bars.reduce((best, bar) => (Math.abs(bar - wanted) < Math.abs(best - wanted) ? bar : best), bars[0] ?? wanted);
  // Where songs follow one another, the next one's first beat takes the place of the last stroke.
  const ending = lastHit !== null && !isLast ? (bars.findLast((bar) => bar <= lastHit + 0.1) ?? seconds) : seconds;
  const start = from === null ? (isFirst ? 0 : (bars[0] ?? 0)) : near(from);
  const end = to === null || to >= seconds ? ending : near(to);
  return end > start ? { start, end, bars: hearBars(samples, grid) } : { start: 0, end: seconds, bars: [] };
}

function ofLength({ start, end, bars }: HeardPart, seconds: number): Range[] {
  const slack = 0.1;
  const inside = bars.filter((bar) => bar.end > start + slack && bar.start < end - slack);
  const found = otherLength(inside, seconds);
  if (!found) throw new MediaError('The bars of this music are not clear enough to join it anywhere but at its ends.');
  // The very beginning and end are those that were asked for.
  found[0]!.start = Math.max(found[0]!.start, start);
  found.at(-1)!.end = Math.min(found.at(-1)!.end, end);
  return found;
}
