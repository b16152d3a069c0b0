import {
  beforeCut,
  planHeard,
  planPictures,
  transitionKinds,
  type Reel,
  type Segment,
  type TransitionKind,
} from '#core/reel';
import {
  formatTimecode,
  framesPerSecond,
  parseTimecode,
  secondsToFrames,
  sourceTimecodes,
  type Rate,
} from '#core/time';
import { FormatError, type ForeignItem, type ForeignReel, type SourceInfo } from './source';

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
  const remarks = ({ clip, into }: Segment) =>
    clip?.into && clip.into.kind !== 'dissolve' && into === 0
      ? [`* EFFECT NAME: ${clip.into.kind.toUpperCase()} ${clip.into.frames} FRAMES`]
      : [];
  const speed = (segment: Segment, from: number) =>
    segment.speed === 1 || segment.media === null
      ? []
      : [
          `M2   ${tape(segment.media)} ${(fps * segment.speed).toFixed(3).padStart(9)}       ${sourceCodes(segment.media, from)[0]}`,
        ];
  const events = (segments: readonly Segment[], channel: string) => {
    let crossing: Segment | null = null;
    for (const segment of segments) {
      if (segment.cross) {
        crossing = segment;
        continue;
      }
      if (segment.media === null) {
        if (channel !== 'B')
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
      lines.push(`* SOURCE FILE: ${file(segment.media)}`, ...remarks(segment));
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

const eventLine =
  /^(\d{3,6})\s+(\S+)\s+(\S+)\s+(C|D|W\d{3}|K[BO]?)\s+(?:(\d{1,3})\s+)?(\d{1,2}:\d{2}:\d{2}[:;]\d{2})\s+(\d{1,2}:\d{2}:\d{2}[:;]\d{2})\s+(\d{1,2}:\d{2}:\d{2}[:;]\d{2})\s+(\d{1,2}:\d{2}:\d{2}[:;]\d{2})\s*$/;

interface Event {
  line: number;
  tape: string;
  channel: string;
  from: number;
  to: number;
  recordFrom: number;
  recordTo: number;
  /** As the list writes where it begins in its source. */
  code: string;
  clip: string;
  file: string;
  /** Length of a dissolve into it. */
  dissolve: number;
  speed: number | null;
  into: { kind: TransitionKind; frames: number } | null;
}

/**
 * Reads a CMX 3600 edit decision list. An EDL does not say its rate; give the one it was made for.
 * @throws FormatError naming the line
 */
export function readEdl(text: string, rate: Rate, makeId: () => string): ForeignReel {
  const left = new Set<string>();
  const events: Event[] = [];
  // Older lists write drop-frame labels with a colon and say so once, at the top.
  const marksDrop = /^\d{3,6}\s.*\d;\d{2}\b/m.test(text);
  let title = '';
  let drop = false;
  for (const [index, raw] of text
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\r|\n/)
    .entries()) {
    const line = index + 1;
    const row = raw.trim();
    const last = events.at(-1);
    if (!row) continue;
    if (/^TITLE:/i.test(row)) title = row.slice(6).trim();
    else if (/^FCM:/i.test(row)) drop = /^FCM:\s*DROP/i.test(row);
    else if (/^\*\s*(FROM|TO) CLIP NAME:/i.test(row) && last) last.clip = row.slice(row.indexOf(':') + 1).trim();
    else if (/^\*\s*(SOURCE FILE|FROM FILE):/i.test(row) && last) last.file = row.slice(row.indexOf(':') + 1).trim();
    else if (/^\*\s*EFFECT NAME:/i.test(row) && last) last.into = effectOf(row);
    else if (/^M2\s/.test(row) && last) {
      const percent = Math.round((Number(/^M2\s+\S+\s+(-?[\d.]+)/.exec(row)?.[1]) / framesPerSecond(rate)) * 100);
      if (percent === 0 || (percent >= 25 && percent <= 400)) last.speed = percent;
      else left.add(`Line ${line}: a speed of ${percent} % was left out.`);
    } else if (/^\d{3,6}\s/.test(row)) events.push(readEvent(row, line, rate, drop && !marksDrop, left));
  }
  if (events.length === 0)
    throw new FormatError(
      'No event was found. An event is a line such as “001  TAPE  V  C  00:00:01:00 00:00:04:00 01:00:00:00 01:00:03:00”.',
    );
  const pictures = events
    .filter((event) => /^(B|V|AA\/V|A\d?\/V|V\d?)$/i.test(event.channel) && event.recordTo > event.recordFrom)
    .sort((a, b) => a.recordFrom - b.recordFrom);
  if (pictures.length === 0) throw new FormatError('The list has sound events only; a reel needs pictures.');
  const sounds = soundsApart(events, pictures);
  const items: ForeignItem[] = [];
  let at = pictures[0]!.recordFrom;
  for (const event of pictures) {
    if (event.recordFrom < at)
      throw new FormatError(
        `Line ${event.line}: the event begins at ${formatTimecode(event.recordFrom, rate)}, before the one in front of it ends.`,
      );
    if (event.recordFrom > at) items.push({ kind: 'gap', id: makeId(), frames: event.recordFrom - at });
    let frames = event.recordTo - event.recordFrom;
    if (event.tape.toUpperCase() === 'BL') items.push({ kind: 'gap', id: makeId(), frames });
    else {
      const speed = event.speed ?? 100;
      if (speed !== 0 && Math.abs(event.to - event.from - (frames * speed) / 100) > (speed === 100 ? 0 : 1))
        left.add(
          `Line ${event.line}: ${event.to - event.from} frames of the source fill ${frames} of the program; the program's length is used.`,
        );
      // A dissolve is centred on the cut here: half of it belongs to the piece before.
      const before = items.at(-1);
      const early = event.dissolve && before?.kind === 'clip' ? Math.min(beforeCut(event.dissolve), frames - 1) : 0;
      if (early > 0) before!.frames += early;
      else if (event.dissolve) left.add(`Line ${event.line}: a dissolve became a cut.`);
      frames -= early;
      const into =
        early > 0 ? { kind: 'dissolve' as const, frames: event.dissolve } : before?.kind === 'clip' ? event.into : null;
      items.push({
        kind: 'clip',
        id: makeId(),
        name: event.clip || event.file || event.tape,
        sourceIn: event.from + (early * speed) / 100,
        frames,
        ...(speed === 100 ? {} : { speed }),
        ...(into ? { into } : {}),
        ...(sounds.silent.has(event) ? { muted: true } : {}),
        source: sourceOfEvent(event, (early * speed) / 100),
      });
    }
    at = event.recordTo;
  }
  return {
    schema: 'BrightReel.Reel.1',
    name: title || 'EDL',
    rate,
    size: { width: 1920, height: 1080 },
    tracks: [
      { kind: 'picture', name: 'Main', items },
      ...sounds.channels.map((own, index) => ({
        kind: 'sound' as const,
        name: `Sound ${index + 1}`,
        items: soundItems(own, pictures[0]!.recordFrom, makeId, left),
      })),
    ],
    left: [...left],
  };
}

/** @param after frames of the source behind the event's label at which the piece begins */
const sourceOfEvent = ({ file, clip, tape, code }: Event, after: number) => ({
  name: file || clip || tape,
  hash: null,
  label: { tape, code, after },
});

const soundOnly = ({ channel }: Event): boolean => /^A/i.test(channel) && !/V/i.test(channel);

/**
 * Sound that has events of its own. Where every event of the first channel stands exactly under its picture, pictures
 * bring their own sound; otherwise it becomes a track, as every further channel does. Pictures of a V event are silent
 * then, unless their sound stands under them.
 */
function soundsApart(
  events: readonly Event[],
  pictures: readonly Event[],
): { channels: Event[][]; silent: ReadonlySet<Event> } {
  const channels = new Map<number, Event[]>();
  for (const event of events) {
    if (!soundOnly(event) || event.recordTo <= event.recordFrom) continue;
    const channel = Number(/^A(\d)/i.exec(event.channel)?.[1] ?? 1);
    channels.set(channel, [...(channels.get(channel) ?? []), event]);
  }
  const first = (channels.get(1) ?? []).filter((event) => event.tape.toUpperCase() !== 'BL');
  const own = (sound: Event) =>
    pictures.find(
      (picture) =>
        picture.tape === sound.tape &&
        picture.recordFrom === sound.recordFrom &&
        picture.recordTo === sound.recordTo &&
        picture.from === sound.from,
    );
  const matched = first.map(own);
  const apart = matched.some((picture) => !picture);
  if (!apart) channels.delete(1);
  const heard = new Set(apart ? [] : matched);
  const silent = new Set(
    channels.size === 0 && first.length === 0
      ? []
      : pictures.filter((picture) => /^V\d?$/i.test(picture.channel) && !heard.has(picture)),
  );
  return { channels: [...channels].sort(([a], [b]) => a - b).map(([, list]) => list), silent };
}

/** One channel of sound, from the first picture on. */
function soundItems(events: readonly Event[], begins: number, makeId: () => string, left: Set<string>): ForeignItem[] {
  const items: ForeignItem[] = [];
  let at = begins;
  for (const event of [...events].sort((a, b) => a.recordFrom - b.recordFrom)) {
    const late = Math.max(0, at - event.recordFrom);
    if (late > 0 && event.recordFrom >= begins)
      left.add(`Line ${event.line}: the sound begins before the one in front of it ends; its beginning was cut off.`);
    const frames = event.recordTo - event.recordFrom - late;
    if (frames < 1 || event.tape.toUpperCase() === 'BL') continue;
    if (event.recordFrom > at) items.push({ kind: 'gap', id: makeId(), frames: event.recordFrom - at });
    const speed = event.speed ?? 100;
    items.push({
      kind: 'clip',
      id: makeId(),
      name: event.clip || event.file || event.tape,
      sourceIn: event.from + (late * speed) / 100,
      frames,
      ...(speed === 100 ? {} : { speed }),
      source: sourceOfEvent(event, (late * speed) / 100),
    });
    at = event.recordTo;
  }
  return items;
}

function readEvent(row: string, line: number, rate: Rate, drop: boolean, left: Set<string>): Event {
  const match = eventLine.exec(row);
  if (!match)
    throw new FormatError(
      `Line ${line} begins like an event, but is none: number, source, channel, C or D or W and four timecodes are expected.`,
    );
  const [, , tape, channel, kind, length, ...codes] = match;
  if (kind !== 'C' && kind !== 'D')
    left.add(`Line ${line}: ${kind!.startsWith('W') ? `wipe ${kind!.slice(1)}` : 'a key'} became a cut.`);
  const frames = codes.map((code) => {
    try {
      return parseTimecode(drop ? code.replace(/:(\d{2})$/, ';$1') : code, rate);
    } catch (error) {
      throw new FormatError(`Line ${line}: ${(error as Error).message}.`, { cause: error });
    }
  });
  const [from, to, recordFrom, recordTo] = frames as [number, number, number, number];
  return {
    line,
    tape: tape!,
    channel: channel!,
    from,
    to,
    recordFrom,
    recordTo,
    code: codes[0]!,
    clip: '',
    file: '',
    dissolve: kind === 'D' ? Number(length ?? 0) : 0,
    speed: null,
    into: null,
  };
}

/** A transition that we wrote as a comment. */
function effectOf(row: string): Event['into'] {
  const match = /EFFECT NAME:\s*(\w+)\s+(\d+)\s+FRAMES/i.exec(row);
  const kind = match?.[1]!.toLowerCase() as TransitionKind | undefined;
  return match && kind && transitionKinds.includes(kind) ? { kind, frames: Number(match[2]) } : null;
}
