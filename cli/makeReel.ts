import { randomUUID } from 'node:crypto';
import { dirname } from 'node:path';
import {
  chooseForTarget,
  defaultLimits,
  defaultMix,
  defaultPieceLength,
  defaultVariety,
  layGround,
  momentPiece,
  momentTitle,
  knowFiles,
  prepare,
  readyMixes,
  suggestedTarget,
  tellStory,
  titlesApart,
} from '#core/moments';
import {
  createMontage,
  defaultFilling,
  everies,
  fillSlots,
  gatherPieces,
  montageReel,
  pieceFeatures,
  slotsByPattern,
  type Every,
} from '#core/montage';
import {
  applyCommand,
  assembleReel,
  fitReelToMusic,
  movePhotos,
  musicDefaults,
  reelFormat,
  type Reel,
} from '#core/reel';
import { personsOf } from '#core/picture';
import { runsOf, seenTracks } from '#core/readings';
import { hearMusic, beatSampleRate } from '#core/sound';
import { MediaError } from '#media/process';
import { monoSound } from '#media/read/monoSound';
import { addressFrom, reelAs } from './reelFile';
import { readFiles, type ReadFile } from './footage';
import { textsOf } from './texts';

interface MakeOptions {
  out: string;
  cache?: string;
  onProgress?(share: number): void;
}

/** Pictures only: what can be picked from. @throws MediaError when there is none */
function pictured(files: readonly ReadFile[]): ReadFile[] {
  const seen = files.filter(({ probe }) => probe.kind !== 'sound');
  if (seen.length === 0) throw new MediaError('None of these files has pictures.');
  return seen;
}

const sourcesOf = (files: readonly ReadFile[]) => new Map(files.map(({ path, source }) => [path, source]));
const formatOf = (files: readonly ReadFile[]) =>
  reelFormat(
    files.map(({ probe }) => ({
      rate: probe.rate,
      width: probe.width,
      height: probe.height,
      seconds: probe.durationSeconds || 4,
    })),
  );
/** As text, with files named from where the document will lie. */
const written = (reel: Reel, files: readonly ReadFile[], out: string): string =>
  reelAs(
    out,
    reel,
    files.map(({ source }) => ({ ...source, name: addressFrom(dirname(out), source.id) })),
  );

/** What `./bright-reel highlights` writes: the best of some files, in their order, to a length. */
export async function highlights(
  paths: readonly string[],
  {
    length,
    music,
    mix: mixName,
    words: textsWith,
    ...options
  }: MakeOptions & {
    length: number | null;
    music: string | undefined;
    mix: string | undefined;
    words: string | undefined;
  },
): Promise<string> {
  const recipe =
    mixName === undefined ? null : readyMixes.find(({ name }) => name.toLowerCase() === mixName.toLowerCase());
  if (recipe === undefined)
    throw new MediaError(
      `There is no mix “${mixName}”; there are ${readyMixes.map(({ name }) => `“${name}”`).join(', ')}.`,
    );
  const words = textsWith === undefined ? {} : await textsOf(textsWith, paths);
  const all = await readFiles(music === undefined ? paths : [...paths, music], options);
  const song = music === undefined ? null : all.at(-1)!;
  const files = pictured(song ? all.slice(0, -1) : all);
  const settings = {
    mix: recipe?.mix ?? defaultMix,
    limits: recipe?.limits ?? defaultLimits,
    piece: recipe?.piece ?? defaultPieceLength,
    variety: recipe?.variety ?? defaultVariety,
  };
  const prepared = new Map(files.map(({ path, footage }) => [path, prepare(footage)]));
  const whole = files.reduce((sum, { footage }) => sum + footage.durationSeconds, 0);
  const target = length ?? song?.probe.durationSeconds ?? suggestedTarget(whole);
  const known = knowFiles(
    files.map(({ path }) => path),
    personsOf(
      files.flatMap(({ path, raw, footage }) => seenTracks(path, raw.faces, footage.runs, footage.durationSeconds)),
      [],
    ),
    words,
  );
  const { moments } = chooseForTarget(
    [...prepared.entries()].map(([path, each]) => layGround(each, settings, [], known.get(path))),
    target,
  );
  if (moments.length === 0)
    throw new MediaError('Nothing in these files reaches the limits; take another --mix or a longer --length.');
  const order = new Map(files.map(({ path }, index) => [path, index]));
  const sorted = [...moments].sort((a, b) => order.get(a.media)! - order.get(b.media)! || a.start - b.start);
  const { rate, size } = formatOf(files);
  const titles = titlesApart(
    sorted,
    sorted.map((moment) => momentTitle(prepared.get(moment.media)!, moment, { words, people: [] })),
  );
  const pieces = tellStory(sorted, prepared).map(({ moment, because }) => {
    const piece = momentPiece(prepared.get(moment.media)!, moment, titles[sorted.indexOf(moment)]!);
    return because ? { ...piece, reason: `${piece.reason}; ${because}` } : piece;
  });
  const sources = sourcesOf(all);
  const photos = new Map(
    files.flatMap(({ path, raw, source }) => (source.photo ? [[path, raw.faces[0]?.boxes ?? []]] : [])),
  );
  const reel = movePhotos(
    assembleReel('Highlights', pieces, sources, rate, size, randomUUID),
    (media) => photos.get(media) ?? null,
  );
  return written(song ? await underMusic(reel, song, files, sources) : reel, all, options.out);
}

/** With music under it, fitted to its length and its beats where those are sure. */
async function underMusic(
  reel: Reel,
  song: ReadFile,
  files: readonly ReadFile[],
  sources: ReturnType<typeof sourcesOf>,
): Promise<Reel> {
  const laid = applyCommand(
    reel,
    { type: 'music', music: { ...musicDefaults, media: song.path, name: song.name } },
    sources,
  );
  if (!laid.ok) throw new MediaError(laid.reason);
  const { grid, durationSeconds } = hearMusic(
    await monoSound(song.path, beatSampleRate, 'no beats can be found in it'),
  );
  const runs = (kind: 'speech' | 'scene') => (media: string) =>
    runsOf(files.find(({ path }) => path === media)?.footage.runs ?? [], kind);
  const fitted = fitReelToMusic(laid.reel, { beats: grid.beats, durationSeconds }, sources, {
    spokenIn: runs('speech'),
    shotsIn: runs('scene'),
  });
  const done = fitted && applyCommand(laid.reel, fitted.command, sources);
  return done?.ok ? done.reel : laid.reel;
}

/** What `./bright-reel montage` writes: footage cut to a song. */
export async function montage(
  song: string,
  paths: readonly string[],
  { every, ...options }: MakeOptions & { every: string | undefined },
): Promise<string> {
  const followEnergy = every === undefined || every === 'energy';
  const asked: unknown = followEnergy ? 2 : every === 'bar' ? 'bar' : Number(every);
  if (!(everies as readonly unknown[]).includes(asked))
    throw new MediaError('--every is 1, 2, 3, 4 or 8 beats, “bar”, or “energy”.');
  const [music, ...rest] = await readFiles([song, ...paths], options);
  const files = pictured(rest);
  const hearing = hearMusic(await monoSound(music!.path, beatSampleRate, 'no beats can be found in it'));
  if (hearing.grid.beats.length === 0) throw new MediaError(`No beat can be heard in ${song}.`);
  const begun = createMontage(hearing, [], randomUUID);
  const pattern = { ...begun.pattern, every: asked as Every, followEnergy };
  const slots = slotsByPattern({ ...begun, pattern }, hearing, randomUUID);
  if (!slots.ok) throw new MediaError(slots.reason);
  const footage = files.map((each) => each.footage);
  const pieces = gatherPieces(
    footage,
    { mix: defaultMix, limits: defaultLimits, decisions: [] },
    slots.slots.length,
    (media) => files.find(({ path }) => path === media)!.name,
    randomUUID,
  );
  const features = new Map(
    pieces.map((piece) => [piece.id, pieceFeatures(piece, footage.find(({ id }) => id === piece.media) ?? null)]),
  );
  const filled = fillSlots(slots.slots, pieces, features, defaultFilling, hearing, randomUUID);
  if (filled.slots.every((slot) => !slot.piece))
    throw new MediaError(filled.note ?? 'Nothing in these files is long enough for a slot of this music.');
  const { rate, size } = formatOf(files);
  const made = montageReel(
    { ...begun, pattern, pieces, slots: filled.slots },
    `Montage to ${music!.name.replace(/\.\w+$/, '')}`,
    { media: music!.path, name: music!.name },
    sourcesOf([music!, ...files]),
    rate,
    size,
  );
  return written(made, [music!, ...files], options.out);
}
