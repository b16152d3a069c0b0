import { clipsAbove, clipsBeside, planSound, type Reel, type Segment } from '#core/reel';
import { formatTimecode, secondsToFrames } from '#core/time';
import type { SourceInfo } from './source';

/** A field as RFC 4180 wants it. */
const field = (value: string | number) =>
  /[",\r\n]/.test(String(value)) ? `"${String(value).replaceAll('"', '""')}"` : String(value);
const rows = (lines: readonly (readonly (string | number)[])[]) =>
  lines.map((line) => line.map(field).join(',')).join('\r\n') + '\r\n';

/** Every piece and marker of a reel as a row (CSV, RFC 4180): where it stands, what it shows. */
export function writePieces(reel: Reel, sources: readonly SourceInfo[]): string {
  const code = (frames: number) => formatTimecode(frames, reel.rate);
  const pieces = [...planSound(reel), ...clipsAbove(reel), ...clipsBeside(reel)].filter(
    (segment) => segment.media !== null,
  );
  const row = (segment: Segment, index: number) => {
    const from = secondsToFrames(segment.sourceSeconds, reel.rate);
    return [
      index + 1,
      reel.tracks[segment.track]?.name ?? '',
      segment.name,
      sources.find((source) => source.id === segment.media)?.name ?? 'missing',
      code(from),
      code(from + Math.round(segment.frames * segment.speed)),
      code(segment.startFrame),
      code(segment.startFrame + segment.frames),
      ((segment.frames * reel.rate.den) / reel.rate.num).toFixed(3),
    ];
  };
  const markers = (reel.markers ?? []).map((marker, index) => [
    `M${index + 1}`,
    'marker',
    marker.note,
    '',
    '',
    '',
    code(marker.frame),
    code(marker.frame),
    '',
  ]);
  return rows([
    ['piece', 'track', 'name', 'file', 'source in', 'source out', 'reel in', 'reel out', 'seconds'],
    ...pieces.map(row),
    ...markers,
  ]);
}

/** Pieces as chapters, in ffmpeg's metadata format (FFMETADATA1; times in milliseconds). */
export function writeChapters(reel: Reel): string {
  const escape = (text: string) => text.replace(/[=;#\\\n]/g, (sign) => `\\${sign}`);
  const parts = planSound(reel)
    .filter((segment) => segment.media !== null)
    .map(
      (segment) =>
        `[CHAPTER]\nTIMEBASE=1/1000\nSTART=${Math.round(segment.startSeconds * 1000)}\nEND=${Math.round(segment.endSeconds * 1000)}\ntitle=${escape(segment.name)}\n`,
    );
  return `;FFMETADATA1\ntitle=${escape(reel.name)}\n\n${parts.join('\n')}`;
}
