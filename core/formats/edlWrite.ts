import { mainTrack, planHeard, planPictures, type Reel, type Segment } from '#core/reel';
import { formatTimecode, framesPerSecond, parseTimecode, secondsToFrames, sourceTimecodes } from '#core/time';
import { notInEdl } from './losses';
import type { SourceInfo } from './source';

/** How an edit decision list is written. */
export interface EdlOptions {
  /** Drop-frame labels; only at 29.97 and 59.94. */
  drop?: boolean;
}

/**
 * A reel as a CMX 3600 edit decision list: one video track, so what lies above covers what lies under it. Events are
 * "B" (picture and sound together) while nothing covers anything, else "V" for what is seen and "A" for what is heard.
 * Source times are the labels of the camera where it counts. Source names have eight letters, and are those of tapes and
 * cards where they are known; the file name stands in a comment.
 */
export function writeEdl(reel: Reel, sources: readonly SourceInfo[], { drop = false }: EdlOptions = {}): string {
  const { rate } = reel;
  // A transition may show a frame before the first: a photo has none there, and a film holds its first one.
  const code = (frames: number) => formatTimecode(Math.max(0, frames), rate, drop);
  /** The labels that a stretch of a source bears by its camera's count, counted from nothing where it has none. */
  const sourceCodes = (media: string | null, frames: number, length = 0) =>
    sourceTimecodes(sources.find((source) => source.id === media)?.start, Math.max(0, frames), length, rate, drop);
  const firstFrame = (segment: Segment) => Math.max(0, secondsToFrames(segment.sourceSeconds, rate));
  // Programs begin at one hour. Common practice, no source.
  const start = parseTimecode(drop ? '01:00:00;00' : '01:00:00:00', rate);
  const names = reelNames(sources);
  const lines = [
    `TITLE: ${reel.name.replace(/[\r\n]+/g, ' ').slice(0, 70)}`,
    `FCM: ${drop ? 'DROP FRAME' : 'NON-DROP FRAME'}`,
  ];
  let number = 0;
  const next = () => String(++number).padStart(3, '0');
  const tape = (media: string | null) => (media === null ? 'BL' : (names.get(media) ?? 'AX')).padEnd(8);
  const text = (value: string) => value.replace(/[\r\n]+/g, ' ');
  const file = (media: string) => sources.find((source) => source.id === media)?.name ?? 'MISSING';
  const fps = framesPerSecond(rate);
  /** What the format has no event for stands in a comment, which is read again when it comes back. */
  const remarks = ({ clip, into }: Segment, hasSound: boolean) => [
    ...(clip?.into && clip.into.kind !== 'dissolve' && into === 0
      ? [`* EFFECT NAME: ${clip.into.kind.toUpperCase()} ${clip.into.frames} FRAMES`]
      : []),
    ...(hasSound && clip?.levelDb ? [`* LEVEL: ${clip.levelDb} DB`] : []),
  ];
  const speed = (segment: Segment, from: number) =>
    segment.speed === 1 || segment.media === null
      ? []
      : [
          `M2   ${tape(segment.media)} ${(fps * segment.speed).toFixed(3).padStart(9)}       ${sourceCodes(segment.media, from)[0]}`,
        ];
  const events = (segments: readonly Segment[], channels: string) => {
    let crossing: Segment | null = null;
    for (const segment of segments) {
      // A piece that is not heard is an event of the picture alone.
      const channel = channels === 'B' && (segment.clip?.muted || mainTrack(reel).muted) ? 'V' : channels;
      if (segment.cross) {
        crossing = segment;
        continue;
      }
      if (segment.media === null) {
        if (channels !== 'B')
          lines.push(
            '',
            `${next()}  ${tape(null)} ${channel.padEnd(5)} C        ${code(0)} ${code(segment.frames)} ${code(start + segment.startFrame)} ${code(start + segment.startFrame + segment.frames)}`,
          );
        continue;
      }
      const { from: gone, to } = crossing?.cross ?? { from: null, to: segment };
      const begin = crossing?.startFrame ?? segment.startFrame;
      const record = `${code(start + begin)} ${code(start + segment.startFrame + segment.frames)}`;
      const from = firstFrame(to);
      const [first, until] = sourceCodes(
        segment.media,
        from,
        Math.round((segment.startFrame + segment.frames - begin) * segment.speed),
      );
      const event = next();
      // A dissolve is two lines of one event: where the picture before is left, and what it goes over into.
      const left = gone && firstFrame(gone);
      lines.push(
        '',
        ...(gone
          ? [
              `${event}  ${tape(gone.media)} ${channel.padEnd(5)} C        ${sourceCodes(gone.media, left!).join(' ')} ${code(start + begin)} ${code(start + begin)}`,
            ]
          : []),
      );
      lines.push(
        `${event}  ${tape(segment.media)} ${channel.padEnd(5)} ${gone ? `D    ${String(crossing!.frames).padStart(3, '0')}` : 'C       '} ${first} ${until} ${record}`,
        ...speed(segment, from),
      );
      if (gone)
        lines.push(
          '* EFFECT NAME: CROSS DISSOLVE',
          `* FROM CLIP NAME: ${text(gone.name)}`,
          `* TO CLIP NAME: ${text(segment.name)}`,
        );
      else lines.push(`* FROM CLIP NAME: ${text(segment.name)}`);
      lines.push(`* SOURCE FILE: ${file(segment.media)}`, ...remarks(segment, channel !== 'V'));
      crossing = null;
    }
  };
  // Only dissolves have events; every other transition is a cut with a comment.
  const plain: Reel = {
    ...reel,
    tracks: reel.tracks.map((track) => ({
      ...track,
      items: track.items.map((item) =>
        item.kind === 'clip' && item.into && item.into.kind !== 'dissolve'
          ? { ...item, into: { ...item.into, kind: 'black' as const } }
          : item,
      ),
    })),
  };
  const kinds = new Map(
    reel.tracks.flatMap((track) =>
      track.items.flatMap((item) => (item.kind === 'clip' && item.into ? [[item.id, item] as const] : [])),
    ),
  );
  const told = (segments: readonly Segment[]) =>
    segments.map((segment) => ({ ...segment, clip: segment.clip && (kinds.get(segment.id) ?? segment.clip) }));
  const seen = told(planPictures(plain));
  const [heard, ...beside] = planHeard(plain);
  if (seen.some((segment) => segment.track > 0)) {
    events(seen, 'V');
    events(
      heard!.filter((segment) => segment.media !== null && segment.gain > 0),
      'A',
    );
  } else events(seen, beside.length ? 'V' : 'B');
  if (beside.length && !seen.some((segment) => segment.track > 0))
    events(
      heard!.filter((segment) => segment.media !== null && segment.gain > 0),
      'A',
    );
  // The format has four channels of sound.
  for (const [index, track] of beside.slice(0, 3).entries())
    events(
      track.filter((segment) => segment.media !== null && segment.gain > 0),
      `A${index + 2}`,
    );
  const { width, height } = reel.size;
  lines.push(
    '',
    `* REEL: ${width}X${height} AT ${rate.num}/${rate.den}`,
    ...notInEdl(reel).map((loss) => `* NOT IN THIS LIST: ${text(loss)}`),
  );
  return `${lines.join('\r\n')}\r\n`;
}

/**
 * Eight letters and digits for every source: the name of its tape or card where it is known, which sources share whose
 * labels do not meet; else one of its own.
 */
export function reelNames(sources: readonly SourceInfo[]): Map<string, string> {
  const taken = new Map<string, SourceInfo[]>([
    ['AX', []],
    ['BL', []],
  ]);
  const letters = (name: string) => name.toUpperCase().replace(/[^A-Z0-9]/g, '');
  const shares = (source: SourceInfo, others: readonly SourceInfo[]) =>
    others.length > 0 &&
    others.every((other) => other.reelName === source.reelName && !countsMeet(source, other)) &&
    Boolean(source.reelName);
  return new Map(
    sources.map((source) => {
      const wanted = letters(source.reelName ?? '') || letters(fileName(source.name).replace(/\.\w+$/, '')) || 'TAPE';
      let name = wanted.slice(0, 8);
      for (let count = 2; taken.has(name) && !shares(source, taken.get(name)!); count++)
        name = `${wanted.slice(0, 8 - String(count).length)}${count}`;
      taken.set(name, [...(taken.get(name) ?? []), source]);
      return [source.id, name];
    }),
  );
}

const fileName = (path: string): string => path.split(/[/\\]/).at(-1) ?? path;

/** Whether two sources have a label in common; those that do not count have. */
const countsMeet = (a: SourceInfo, b: SourceInfo): boolean =>
  !a.start ||
  !b.start ||
  (a.start.seconds < b.start.seconds + b.durationSeconds && b.start.seconds < a.start.seconds + a.durationSeconds);
