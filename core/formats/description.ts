import { planSound, reelFrames, type Reel } from '#core/reel';
import { framesToSeconds } from '#core/time';

/** Seconds; a shorter chapter goes with the one before. Common practice of places that show videos, no source. */
const shortest = 10;

interface Chapter {
  seconds: number;
  title: string;
}

/** "0:00", or "0:00:00" where the reel is an hour long or longer. */
function clock(seconds: number, hours: boolean): string {
  const whole = Math.floor(seconds);
  const two = (part: number) => String(part).padStart(2, '0');
  const [h, m, s] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  return hours ? `${h}:${two(m)}:${two(s)}` : `${Math.floor(whole / 60)}:${two(s)}`;
}

/** Markers with a note are chapters; without any, every piece that shows something else than the one before is. */
function chaptersOf(reel: Reel): Chapter[] {
  const markers = (reel.markers ?? []).filter(({ note }) => note.trim());
  if (markers.length > 0)
    return markers.map(({ frame, note }) => ({ seconds: framesToSeconds(frame, reel.rate), title: note }));
  return planSound(reel)
    .filter((segment) => segment.media !== null)
    .map(({ startSeconds, name }) => ({ seconds: startSeconds, title: name }));
}

/**
 * The text below a video: its name, and its chapters, a line each, from the first second on. Places that show videos
 * make links of such lines; by common practice (no source) the first is at 0:00, and none is under ten seconds long.
 */
export function writeDescription(reel: Reel): string {
  const end = framesToSeconds(reelFrames(reel), reel.rate);
  const lines = longEnough(chaptersOf(reel), end).map(
    ({ seconds, title }) => `${clock(seconds, end >= 3600)} ${title}`,
  );
  return `${reel.name}\n\n${lines.map((line) => `${line}\n`).join('')}`;
}

/** Chapters that last; of several short ones in a row some stay, where there is room between the longer ones. */
function longEnough(chapters: readonly Chapter[], end: number): Chapter[] {
  const plain = chapters
    .map(({ seconds, title }, index) => ({
      seconds: index === 0 ? 0 : seconds,
      title: title.replace(/\s+/g, ' ').trim(),
    }))
    .filter(({ title }, index, all) => title !== all[index - 1]?.title);
  const endOf = (index: number) => plain[index + 1]?.seconds ?? end;
  const isLong = (index: number) => endOf(index) - plain[index]!.seconds >= shortest;
  const kept: Chapter[] = [];
  for (const [index, chapter] of plain.entries()) {
    const room = chapter.seconds - (kept.at(-1)?.seconds ?? -Infinity);
    const nextLong = plain.findIndex((_, at) => at > index && isLong(at));
    const next = nextLong < 0 ? end : plain[nextLong]!.seconds;
    const fits = room >= shortest && (isLong(index) || next - chapter.seconds >= shortest);
    if (kept.length === 0 || fits) kept.push(chapter);
    // A short beginning belongs to the first chapter that lasts.
    else if (kept.length === 1 && !isLong(0) && isLong(index)) kept[0] = { seconds: 0, title: chapter.title };
  }
  return kept;
}
