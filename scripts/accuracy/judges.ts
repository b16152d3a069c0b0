import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
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
import { seenTracks } from '#core/readings';
import { unpackReading } from '../../media/read/readingPack';
import { chooseAsBefore } from './choiceBefore';
import { evenly, loudest, type Piece } from './simpleChoices';
import { add, f1OfSeconds } from './table';

/**
 * Reels of a minute that three persons would cut of the demo, each by a rule that was written down first, and chosen from
 * the script of the demo, not from what the machine read or picked. Nothing is tuned to them. Pictures that people cut of
 * films cannot be had here; the protocol is that of Gygli, Grabner, Riemenschneider, Van Gool 2014, *Creating Summaries
 * from User Videos*: F1 over seconds, the mean over pairs with all judges. With each other the judges agree as little as
 * people do.
 */
const judges: Record<string, { rule: string; reel: string }> = {
  story: {
    rule: 'Tell the day to somebody who was not there: where it is, who they are, what happens, how it ends.',
    reel: `race-day 0-3, race-day 11.2-18.4, race-day 67.6-71.6, race-day 80.5-84.3, race-day 128.5-132.3, photo-crew 0-4,
      race-day 158-162.3, race-day 173.6-176.1, boats-cross-fast 7-10, race-day 180.3-184, race-day 211.6-215,
      race-day 217.1-219.8, captain-close 2-5, race-day 235.9-239.7, race-day 245.4-251`,
  },
  faces: {
    rule: 'Everybody who was there at their best: laughing, close, together; words only where they are short.',
    reel: `race-day 11-14, race-day 62.4-66, race-day 94.7-99.8, race-day 128.5-132.3, builder-camera-b 41.6-44.6,
      photo-crew 0-4, photo-captain 0-4, photo-builders 0-4, zoom-on-the-crowd 8-12, whip-to-the-captain 6-10,
      captain-close 2-6, child-laughs 1-5, race-day 180-185, race-day 217.1-220.5, race-day 248.5-251.8`,
  },
  action: {
    rule: 'What moves, races, splashes and cheers, and moves of the camera; nobody explains anything.',
    reel: `pan-over-the-pond 6-12.5, zoom-on-the-crowd 2-7, whip-to-the-captain 4.5-8.5, race-day 157.4-162,
      race-day 166.3-179, photo-duel 0-4, boats-cross-fast 7-14, race-day 179.4-185, race-day 207-216.4`,
  },
};

const piecesOf = (reel: string): Piece[] =>
  reel.split(',').map((one) => {
    const [media, range] = one.trim().split(' ');
    const [start, end] = range!.split('-').map(Number);
    return { media: media!, start: start!, end: end! };
  });

/** F1 over seconds of two reels of several files. */
function agreement(one: readonly Piece[], other: readonly Piece[], footage: readonly Footage[]): number {
  const offsets = new Map<string, number>();
  let offset = 0;
  for (const { id, durationSeconds } of footage) {
    offsets.set(id, offset);
    offset += durationSeconds;
  }
  const laid = (pieces: readonly Piece[]) =>
    pieces.map(({ media, start, end }) => {
      const from = offsets.get(media);
      if (from === undefined) throw new Error(`${media} is not in the demo.`);
      return { start: from + start, end: from + end };
    });
  return f1OfSeconds(laid(one), laid(other));
}

/** The demo as it ships, with who is seen in it. */
function readDemo(folder: string) {
  const footage: Footage[] = [];
  const seen: SeenTrack[] = [];
  for (const name of readdirSync(folder)) {
    const read = unpackReading(readFileSync(join(folder, name, 'reading.json.gz')));
    if (!read?.raw.hasPicture) continue;
    const own = footageOf(name.replace(/\.\w+$/, ''), read.raw, name.endsWith('.jpg'));
    footage.push(own);
    seen.push(...seenTracks(own.id, read.raw.faces, own.runs, own.durationSeconds));
  }
  const known = knowFiles(
    footage.map(({ id }) => id),
    personsOf(seen, []),
    {},
  );
  return { footage, known };
}

/** How far a reel of a minute agrees with the judges, beside how far they agree with each other. */
export function checkJudges(): void {
  const { footage, known } = readDemo('demo/readings');
  const target = 60;
  const settings = { mix: defaultMix, limits: defaultLimits, piece: defaultPieceLength };
  const reels = Object.values(judges).map(({ reel }) => piecesOf(reel));
  const withAll = (pieces: readonly Piece[], others = reels) =>
    others.reduce((sum, reel) => sum + agreement(pieces, reel, footage), 0) / others.length;
  const ours = chooseForTarget(
    footage.map((each) => layGround(prepare(each), settings, [], known.get(each.id))),
    target,
  ).moments;
  const among =
    reels.reduce(
      (sum, reel) =>
        sum +
        withAll(
          reel,
          reels.filter((other) => other !== reel),
        ),
      0,
    ) / reels.length;
  const show = (value: number) => value.toFixed(3);
  const references = [
    `judges among each other ${show(among)}`,
    `before ${show(withAll(chooseAsBefore(footage, target)))}`,
    `evenly ${show(withAll(evenly(footage, target)))}`,
    `loudest ${show(withAll(loudest(footage, target)))}`,
  ];
  add({
    reading: 'picks, judges',
    what: 'mean pairwise F1 with three judges, 60 s of the demo',
    ours: show(withAll(ours)),
    reference: references.join(', '),
    source: 'reels cut by three rules from the script of the demo',
  });
  for (const [index, name] of Object.keys(judges).entries())
    add({
      reading: 'picks, judges',
      what: `F1 with the judge of the ${name}`,
      ours: show(agreement(ours, reels[index]!, footage)),
      source: judges[name]!.rule,
    });
}
