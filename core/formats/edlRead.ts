import { beforeCut, isLevel, transitionKinds, type TransitionKind } from '#core/reel';
import { formatTimecode, framesPerSecond, parseTimecode, type Rate } from '#core/time';
import { FormatError, type ForeignItem, type ForeignReel } from './source';

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
  levelDb: number;
  into: { kind: TransitionKind; frames: number } | null;
}

/**
 * Reads a CMX 3600 edit decision list. An EDL does not say its rate; ours do in a comment, with the size and levels.
 * @param asked rate of a list that does not say it
 * @throws FormatError naming the line
 */
export function readEdl(text: string, asked: Rate, makeId: () => string): ForeignReel {
  const { size, rate } = saidOfReel(text) ?? { size: { width: 1920, height: 1080 }, rate: asked };
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
    else if (/^\*\s*LEVEL:/i.test(row) && last) last.levelDb = levelOf(row);
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
        ...(event.levelDb ? { levelDb: event.levelDb } : {}),
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
    size,
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
  // Beside pictures that bring their sound, one that does not is silent.
  const isSilentList =
    channels.size === 0 && first.length === 0 && pictures.every(({ channel }) => /^V/i.test(channel));
  const silent = new Set(
    isSilentList ? [] : pictures.filter((picture) => /^V\d?$/i.test(picture.channel) && !heard.has(picture)),
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
      ...(event.levelDb ? { levelDb: event.levelDb } : {}),
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
    levelDb: 0,
    into: null,
  };
}

/** A transition that we wrote as a comment. */
function effectOf(row: string): Event['into'] {
  const match = /EFFECT NAME:\s*(\w+)\s+(\d+)\s+FRAMES/i.exec(row);
  const kind = match?.[1]!.toLowerCase() as TransitionKind | undefined;
  return match && kind && transitionKinds.includes(kind) ? { kind, frames: Number(match[2]) } : null;
}

/** A level that we wrote as a comment, in dB; 0 for what is none. */
function levelOf(row: string): number {
  const level = Number(/LEVEL:\s*(-?\d+(?:\.\d+)?)\s*DB/i.exec(row)?.[1] ?? 0);
  return isLevel(level) ? level : 0;
}

/** Size and rate that we wrote as a comment; null in lists of others. */
function saidOfReel(text: string): { size: { width: number; height: number }; rate: Rate } | null {
  const match = /^\*\s*REEL:\s*(\d{2,5})X(\d{2,5}) AT (\d{1,6})\/(\d{1,4})\s*$/im.exec(text);
  if (!match) return null;
  const [width, height, num, den] = match.slice(1).map(Number) as [number, number, number, number];
  const fits = (side: number) => side >= 16 && side <= 8192;
  const fps = num / den;
  return fits(width) && fits(height) && den > 0 && fps >= 1 && fps <= 240
    ? { size: { width, height }, rate: { num, den } }
    : null;
}
