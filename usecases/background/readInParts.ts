import { mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import {
  chooseForTarget,
  defaultLimits,
  defaultMix,
  defaultPieceLength,
  layGround,
  prepare,
  suggestedTarget,
} from '#core/moments';
import {
  cropReading,
  mergeStretches,
  orderParts,
  partsWithin,
  readerVersion,
  type PartInterest,
  type RawReading,
} from '#core/readings';
import { firstTrack, isFirstTrack, type SoundChoice } from '#core/sound';
import { decimal } from '#core/sentences';
import type { Range } from '#core/time';
import { listDecisions } from '#data/decisions';
import { listMarkers, loadPick } from '#data/log';
import { itemsOfReading } from '#data/media';
import { coarse, findReading, loadDerived, loadRaw, readingFolder, saveReading, type ReadingKey } from '#data/readings';
import { storage } from '#data/storage';
import { findTask, othersWait } from '#data/tasks';
import { probe, type Probe } from '#media/probe/probe';
import { MediaError } from '#media/process';
import { playsAsIs, putSound, readMedia, type ReadResult } from '#media/read/read';
import { readCoarse } from '#media/read/readCoarse';
import { proxyName, runUpTo } from '#media/read/readPlan';
import { packReading, unpackReading } from '#media/read/readingPack';
import { storedProbe } from '../storedProbe';
import type { Work } from './runTask';

/** Files as long as this are read in parts, of so many seconds: sheets of thumbnails end with them. */
const inPartsFromSeconds = 901;
const usualPartSeconds = 120;
/** The last frames of a part are read twice rather than never. */
const overlapSeconds = 0.1;
/** Shares of the whole that the sound and the key frames take, about. */
const soundShare = 0.07;
const looksShare = 0.03;
/** What was read so far is shown so often; deciding and saving two hours takes seconds. */
const showMilliseconds = 45_000;

/** What a file is that is read in parts; null when it is read in one go. */
export async function isReadInParts(local: string, range: Range | null): Promise<Probe | null> {
  const info = await probe(local);
  const length = Math.min(range?.end ?? Infinity, info.durationSeconds) - (range?.start ?? 0);
  const isLong = info.kind === 'video' && !info.copied && length >= inPartsFromSeconds;
  // A proxy is made in one go, but for one that only has other sound.
  return isLong && info.videoCodec !== 'vp8' && (await playsAsIs(local, info)) ? info : null;
}

interface PartsOptions {
  key: ReadingKey;
  local: string;
  info: Probe;
  folder: string;
  range: Range | null;
  sound: SoundChoice | null;
  onProgress(share: number): void;
  /** Length of a part; a whole number of thumbnail sheets. */
  partSeconds?: number;
  /** Whether others go first now; asked after each part. */
  goOthersFirst?(): Promise<boolean>;
}

/**
 * Reads a long file in parts: first the sound of all of it, then its key frames, then the pictures of what matters most.
 * What is read stays when the worker ends, is shown as it comes, and after each part others may have their turn.
 * @returns the whole reading; null when others go first now
 */
export async function readInParts(work: Work, options: PartsOptions): Promise<ReadResult | null> {
  const { key, local, info, folder, range, partSeconds = usualPartSeconds } = options;
  const goOthersFirst = options.goOthersFirst ?? (() => othersWait(work.task.id));
  const stretch = { start: range?.start ?? 0, end: Math.min(range?.end ?? Infinity, info.durationSeconds) };
  const parts = partsWithin(stretch, partSeconds);
  const store = new PartStore(key, folder);
  const share = { sound: info.hasSound ? soundShare : 0, looks: looksShare };
  const begun = share.sound + share.looks;
  const step = (done: number) => begun + (1 - begun) * (done / parts.length);

  const sound = await store.known('sound', async () => {
    const limits = { ...(range ? { range: stretch } : {}), ...(options.sound ? { sound: options.sound } : {}) };
    return readMedia(local, {
      ...limits,
      folder,
      part: { parts: ['sound'] },
      signal: work.signal,
      onProgress: (done) => options.onProgress(share.sound * done),
    });
  });
  const read = new Map<Range, ReadResult>();
  for (const part of parts) {
    const known = await store.find(nameOf(part));
    if (known) read.set(part, known);
  }
  let rough = await roughOf(key);
  const merge = (base: RawReading | null) =>
    mergeStretches(
      [...read].map(([own, { raw }]) => ({ range: own, raw })),
      {
        durationSeconds: info.durationSeconds,
        range: range ? stretch : undefined,
        rough: base,
        sound: sound.raw.hasSound ? sound.raw : null,
      },
    );
  let shown = 0;
  let interest: Omit<PartInterest, 'focus'> = { marked: [], picked: [] };
  const show = async (sentence: string) => {
    shown = Date.now();
    await saveReading({
      ...coarse(key),
      version: readerVersion,
      probe: { ...storedProbe(info), ...(info.hasSound ? { heard: sound.heard } : {}) },
      raw: merge(rough.raw),
      sheets: rough.sheets,
      proxyKey: null,
      loudness: sound.loudness,
      warnings: [],
      tookSeconds: 0,
    });
    await work.say(sentence);
    interest = await interestIn(key);
  };
  const readSoFar = () => `Read whole so far: ${read.size} of ${parts.length} parts.`;
  if (info.hasSound && read.size === 0) await show('All of it was heard; its pictures are being read.');
  const wasLooked = (await store.find(keyFrames)) !== null;
  const looked = await store.known(
    keyFrames,
    async () =>
      (await readCoarse(local, {
        folder,
        ...(range ? { range: stretch } : {}),
        sound: [],
        signal: work.signal,
        onProgress: (done) => options.onProgress(share.sound + share.looks * done),
      })) ?? { ...sound, raw: { ...sound.raw, traces: new Map() }, sheets: null },
    { sheetsTo: readingFolder(coarse(key)) },
  );
  if (looked.raw.hasPicture) rough = looked;
  if (wasLooked) interest = await interestIn(key);
  else await show(readSoFar());
  for (let turns = 0; read.size < parts.length; turns++) {
    options.onProgress(step(read.size));
    if (turns > 0 && (await goOthersFirst())) {
      await show(readSoFar());
      return null;
    }
    const focus = (await findTask(work.task.id))?.focusSeconds ?? null;
    const [part] = orderParts(
      parts.filter((each) => !read.has(each)),
      { ...interest, focus },
    );
    const from = runUpTo(info, part!.start);
    const readPart = async () => {
      const found = await readMedia(local, {
        folder,
        range: { start: from, end: Math.min(part!.end + overlapSeconds, stretch.end) },
        sound: [],
        part: { parts: ['picture', 'faces'], picture: { start: part!.start, sheetsFrom: stretch.start } },
        signal: work.signal,
        onProgress: (done) => options.onProgress(step(read.size + done)),
      });
      // A part that is damaged is passed over; when the file has gone, that is said, and nothing is taken for read.
      if (!found.raw.hasPicture) await probe(local);
      return { ...found, raw: cropReading(found.raw, part!) };
    };
    // The frames after its end would begin a sheet that is the next part's; that one may have been read before.
    const isOwn = (sheet: number, { columns, rows, hz }: Sheets) =>
      part!.end === stretch.end || sheet <= Math.round(((part!.end - stretch.start) * hz) / (columns * rows));
    read.set(part!, await store.known(nameOf(part!), readPart, { isOwn }));
    if (Date.now() - shown > showMilliseconds && read.size < parts.length) await show(readSoFar());
  }
  const result = whole(
    [...read].sort(([a], [b]) => a.start - b.start),
    sound,
    merge(null),
    info,
    stretch,
  );
  await store.emptyFolder();
  const hasOtherSound = !range && info.hasSound && !isFirstTrack(sound.heard);
  if (hasOtherSound) await putSound(local, local, sound.heard, join(folder, proxyName), work.signal);
  return { ...result, proxy: hasOtherSound };
}

/** Takes away what was kept of parts, once the whole is there. */
export const forgetParts = (key: ReadingKey): Promise<void> => storage().remove(partsFolder(key));

const partsFolder = (key: ReadingKey): string => `${readingFolder(key)}/parts`;
const keyFrames = 'key-frames';
const nameOf = ({ start }: Range): string => `from-${start.toFixed(2)}`;

type Sheets = NonNullable<ReadResult['sheets']>;
interface KeptSheets {
  /** Where sheets of thumbnails go. */
  sheetsTo?: string;
  /** Whether a sheet is of what was read, by its number from 1 on. */
  isOwn?(sheet: number, sheets: Sheets): boolean;
}

/** What was read of a file so far, in the store; sheets of thumbnails go where the whole reading has them. */
class PartStore {
  constructor(
    private readonly key: ReadingKey,
    private readonly folder: string,
  ) {}

  async find(name: string): Promise<ReadResult | null> {
    const place = `${partsFolder(this.key)}/${name}.gz`;
    if ((await storage().size(place)) === null) return null;
    return unpackReading(await readFile(await storage().localPath(place)));
  }

  async emptyFolder(): Promise<void> {
    await rm(this.folder, { recursive: true, force: true });
    await mkdir(this.folder, { recursive: true });
  }

  /** What is kept under a name, else what is read now. */
  async known(
    name: string,
    read: () => Promise<ReadResult>,
    { sheetsTo = readingFolder(this.key), isOwn = () => true }: KeptSheets = {},
  ): Promise<ReadResult> {
    const known = await this.find(name);
    if (known) return known;
    await this.emptyFolder();
    const started = Date.now();
    const result = { ...(await read()), tookSeconds: 0 };
    result.tookSeconds = (Date.now() - started) / 1000;
    for (const sheet of await readdir(this.folder)) {
      const number = Number(/^sheet-(\d+)\./.exec(sheet)?.[1]);
      if (result.sheets && isOwn(number, result.sheets))
        await storage().adopt(`${sheetsTo}/${sheet}`, join(this.folder, sheet));
    }
    const packed = join(this.folder, 'part.gz');
    await writeFile(packed, packReading(result));
    await storage().adopt(`${partsFolder(this.key)}/${name}.gz`, packed);
    return result;
  }
}

/** What is known of a file before it is read in parts: what a first look found. */
async function roughOf(key: ReadingKey): Promise<{ raw: RawReading | null; sheets: ReadResult['sheets'] }> {
  const row = await findReading(coarse(key));
  return { raw: row && (await loadRaw(coarse(key))), sheets: row?.sheets ?? null };
}

/** What the editors of a file marked in it, and what would be picked by what is known so far. */
async function interestIn(key: ReadingKey): Promise<Omit<PartInterest, 'focus'>> {
  const items = await itemsOfReading(key);
  const marked: Range[] = [];
  for (const { id, projectId } of items) {
    for (const { media, start, end } of await listDecisions(projectId)) if (media === id) marked.push({ start, end });
    for (const { media, seconds } of await listMarkers(projectId))
      if (media === id) marked.push({ start: seconds, end: seconds });
  }
  const derived = await loadDerived(key);
  if (!derived) return { marked, picked: [] };
  const pick = items[0] ? (await loadPick(items[0].projectId)).value : null;
  const { durationSeconds, hz, traces, runs } = derived;
  const ground = layGround(
    prepare({ id: 'file', durationSeconds, hz, traces, runs }),
    {
      mix: pick?.mix ?? defaultMix,
      limits: pick?.limits ?? defaultLimits,
      piece: pick?.piece ?? defaultPieceLength,
      ...(pick ? { variety: pick.variety } : {}),
    },
    [],
  );
  return { marked, picked: chooseForTarget([ground], suggestedTarget(durationSeconds)).moments };
}

function whole(
  read: readonly (readonly [Range, ReadResult])[],
  sound: ReadResult,
  raw: RawReading,
  info: Probe,
  stretch: Range,
): ReadResult {
  if (!raw.hasPicture && !raw.hasSound)
    throw new MediaError(
      'Nothing in this file could be decoded. It may be damaged, or of a kind that is not supported.',
    );
  // Of each part, the end of what was there.
  const ends = read.map(([part, { raw: own }]) =>
    own.hasPicture ? Math.min(part.end, own.range?.end ?? own.durationSeconds) : part.start,
  );
  const missing = read.reduce((sum, [part], index) => sum + part.end - ends[index]!, 0);
  const lastWhole = ends.findLastIndex((end, index) => end > read[index]![0].start);
  const readTo = raw.hasPicture ? (ends[lastWhole] ?? stretch.end) : stretch.end;
  const atEnd = Math.abs(stretch.end - readTo - missing) < 0.5;
  const isCut = raw.hasPicture && missing > Math.max(0.5, info.durationSeconds * 0.02);
  const seconds = Math.round(missing * 10) / 10;
  const warnings = isCut
    ? [
        atEnd
          ? `Only the first ${decimal(readTo - stretch.start, 1)} s of ${decimal(stretch.end - stretch.start, 1)} s could be read; the rest is missing or damaged.`
          : `${seconds} s of this file could not be read; they are missing or damaged.`,
      ]
    : [];
  const durationSeconds = isCut && atEnd ? readTo : info.durationSeconds;
  const sheets = read.map(([, result]) => result.sheets).find((each) => each !== null) ?? null;
  const each = sheets ? sheets.columns * sheets.rows : 1;
  return {
    probe: { ...info, durationSeconds },
    raw: { ...raw, durationSeconds },
    loudness: sound.loudness,
    sheets: sheets && { ...sheets, count: Math.ceil(((readTo - stretch.start) * sheets.hz) / each - 1e-6) || 1 },
    proxy: false,
    copy: null,
    heard: info.hasSound ? sound.heard : firstTrack,
    listened: sound.listened,
    warnings,
    tookSeconds: [sound, ...read.map(([, result]) => result)].reduce(
      (sum, { tookSeconds = 0 }) => sum + tookSeconds,
      0,
    ),
  };
}
