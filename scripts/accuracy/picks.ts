import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import {
  chooseForTarget,
  defaultLimits,
  defaultMix,
  defaultPieceLength,
  layGround,
  footageOf,
  knowFiles,
  prepare,
  type Footage,
} from '#core/moments';
import { personsOf, type SeenTrack } from '#core/picture';
import { readerVersion, runsOf, seenTracks } from '#core/readings';
import { coveredSeconds, lengthOf, overlap } from '#core/time';
import { readMedia } from '../../media/read/read';
import { packReading, unpackReading } from '../../media/read/readingPack';
import { eventNames, makeEvent, type EventFile, type PickEvent, type Planted } from './events';
import { chooseAsBefore } from './choiceBefore';
import { evenly, loudest, type Piece } from './simpleChoices';
import { add } from './table';

const targets = [30, 60, 180];
type Known = ReturnType<typeof knowFiles>;

/** What one reel is like. */
interface Judged {
  recall: number;
  kinds: number;
  files: number;
  flaws: number;
  doubles: number;
  cut: number;
  length: number;
}

/** Reads a file of an event, once. @returns with who is seen in it */
async function readFile({ file, photo }: EventFile): Promise<{ footage: Footage; seen: SeenTrack[] }> {
  const kept = `${file}.v${readerVersion}.reading`;
  const known = existsSync(kept) ? unpackReading(readFileSync(kept)) : null;
  const read = known ?? (await readMedia(file, { folder: `${file}.read` }));
  if (!known) writeFileSync(kept, packReading(read));
  const footage = footageOf(file, read.raw, photo);
  return { footage, seen: seenTracks(file, read.raw.faces, footage.runs, footage.durationSeconds) };
}

/** Reads all files of an event, once. */
async function readEvent({ files }: PickEvent) {
  const read: Awaited<ReturnType<typeof readFile>>[] = [];
  for (const file of files) read.push(await readFile(file));
  return {
    footage: read.map(({ footage }) => footage),
    known: knowFiles(
      read.map(({ footage }) => footage.id),
      personsOf(
        read.flatMap(({ seen }) => seen),
        [],
      ),
      {},
    ),
  };
}

/** A highlight is in a reel when most of it is, or two seconds of it. */
const isIn = (planted: Planted, media: string, pieces: readonly Piece[]) =>
  coveredSeconds(
    planted,
    pieces.filter((piece) => piece.media === media),
  ) >= Math.min(0.6 * lengthOf(planted), 2);

/** A cut this far inside a sentence is one. */
const insideBy = 0.12;

function judge({ files }: PickEvent, target: number, pieces: readonly Piece[]): Judged {
  const all = files.flatMap(({ file, planted }) => planted.map((each) => ({ ...each, file })));
  const found = all.filter((each) => isIn(each, each.file, pieces));
  const ids = new Set(found.map(({ id }) => id));
  const shortest = [...new Map(all.map((each) => [each.id, lengthOf(each)])).values()].sort((a, b) => a - b);
  let left = target;
  const fitting = shortest.filter((seconds) => (left -= seconds) >= 0).length;
  const kinds = new Set(all.map(({ kind }) => kind));
  const seconds = pieces.reduce((sum, piece) => sum + lengthOf(piece), 0);
  const flawed = files.reduce(
    (sum, { file, flaws }) =>
      sum +
      pieces.filter(({ media }) => media === file).reduce((part, piece) => part + coveredSeconds(piece, flaws), 0),
    0,
  );
  return {
    recall: ids.size / Math.min(fitting, shortest.length),
    kinds: new Set(found.map(({ kind }) => kind)).size / Math.min(kinds.size, fitting),
    files: new Set(pieces.map(({ media }) => media)).size / files.length,
    flaws: flawed / Math.max(1, seconds),
    doubles: found.length - ids.size,
    cut: files.reduce(
      (sum, { file, sentences }) =>
        sum +
        pieces
          .filter(({ media }) => media === file)
          .flatMap(({ start, end }) => [start, end])
          .filter((edge) => sentences.some((line) => edge > line.start + insideBy && edge < line.end - insideBy))
          .length,
      0,
    ),
    length: seconds / target - 1,
  };
}

const settings = { mix: defaultMix, limits: defaultLimits, piece: defaultPieceLength };

/** How good reels are: whole events with planted highlights, beside simpler ways to choose. */
export async function checkPicks(
  folder: string,
  seeds: readonly number[],
  names = eventNames,
  tell = false,
): Promise<void> {
  mkdirSync(folder, { recursive: true });
  const ways: Record<string, (footage: Footage[], target: number, known: Known) => Piece[]> = {
    ours: (footage, target, known) =>
      chooseForTarget(
        footage.map((each) => layGround(prepare(each), settings, [], known.get(each.id))),
        target,
      ).moments,
    before: (footage, target) => chooseAsBefore(footage, target),
    evenly,
    loudest,
  };
  const sums = new Map<string, Judged[]>();
  for (const seed of seeds)
    for (const name of names) {
      const event = await makeEvent(name, seed, folder);
      const { footage, known } = await readEvent(event);
      for (const target of targets)
        for (const [way, choose] of Object.entries(ways)) {
          const pieces = choose(footage, target, known);
          const judged = judge(event, target, pieces);
          const key = `${way} ${target}`;
          sums.set(key, [...(sums.get(key) ?? []), judged]);
          if (tell && way === 'ours') report(event, target, pieces, judged, footage);
        }
    }
  for (const target of targets) {
    const mean = (way: string, of: keyof Judged) => {
      const list = sums.get(`${way} ${target}`)!;
      return list.reduce((sum, judged) => sum + judged[of], 0) / list.length;
    };
    const percent = (value: number) => `${(value * 100).toFixed(0)} %`;
    const line = (of: keyof Judged, what: string, wanted: string, reached: boolean, show = percent) =>
      add({
        reading: `picks, ${target} s`,
        what,
        ours: show(mean('ours', of)),
        reference: ['before', 'evenly', 'loudest'].map((way) => `${way} ${show(mean(way, of))}`).join(', '),
        wanted,
        reached,
        source: 'planted in drawn events',
      });
    const plain = (value: number) => value.toFixed(2);
    line('recall', 'highlights in the reel', '≥ 90 %', mean('ours', 'recall') >= 0.9);
    line('kinds', 'kinds in the reel', '≥ 95 %', mean('ours', 'kinds') >= 0.95);
    line('files', 'files in the reel', '', true);
    line('flaws', 'flawed seconds', '≤ 1 %', mean('ours', 'flaws') <= 0.01, (value) => `${(value * 100).toFixed(1)} %`);
    line('doubles', 'doubles a reel', '0', mean('ours', 'doubles') === 0, plain);
    line('cut', 'cut sentences a reel', '0', mean('ours', 'cut') === 0, plain);
    const lengths = sums.get(`ours ${target}`)!.map(({ length }) => length);
    line(
      'length',
      'length against the target',
      '−3 to 0 %',
      lengths.every((each) => each <= 1e-6 && each >= -0.03),
      (value) => `${(value * 100).toFixed(1)} %`,
    );
  }
}

/** What is missing and what is wrong with one reel, for whoever works on the choice. */
function report(event: PickEvent, target: number, pieces: readonly Piece[], judged: Judged, footage: Footage[]) {
  console.log(
    `\n${event.name}, ${target} s: ${JSON.stringify(judged, (_, value: unknown) => (typeof value === 'number' ? Math.round(value * 1000) / 1000 : value))}`,
  );
  for (const { file, planted, flaws, sentences } of event.files) {
    const own = pieces.filter(({ media }) => media === file);
    const name = file.split('/').at(-1)!;
    for (const each of planted)
      if (
        !event.files.some((other) =>
          other.planted.some((take) => take.id === each.id && isIn(take, other.file, pieces)),
        )
      ) {
        const near = footage.find(({ id }) => id === file)!;
        console.log(
          `  missing ${name} ${each.id} ${each.start.toFixed(1)}–${each.end.toFixed(1)}; pieces ${own.map(({ start, end }) => `${start.toFixed(1)}–${end.toFixed(1)}`).join(', ')}; speech ${runsOf(
            near.runs,
            'speech',
          )
            .map(({ start, end }) => `${start.toFixed(1)}–${end.toFixed(1)}`)
            .join(', ')}`,
        );
      }
    for (const piece of own) {
      const bad = coveredSeconds(piece, flaws);
      if (bad > 0.05)
        console.log(`  flawed ${name} ${piece.start.toFixed(1)}–${piece.end.toFixed(1)}: ${bad.toFixed(1)} s`);
      for (const line of sentences)
        if (overlap(piece, line) > insideBy && (piece.start > line.start + insideBy || piece.end < line.end - insideBy))
          console.log(
            `  cut ${name} ${piece.start.toFixed(2)}–${piece.end.toFixed(2)} of ${line.start.toFixed(2)}–${line.end.toFixed(2)}`,
          );
      if (planted.length === 0) console.log(`  of no use ${name} ${piece.start.toFixed(1)}–${piece.end.toFixed(1)}`);
      else if (!planted.some((each) => overlap(each, piece) > 0.3))
        console.log(
          `  beside ${name} ${piece.start.toFixed(1)}–${piece.end.toFixed(1)} (${planted[0]!.id} ${planted[0]!.start.toFixed(1)}–${planted[0]!.end.toFixed(1)})`,
        );
    }
  }
}
