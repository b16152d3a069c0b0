import type { Footage } from '#core/moments';
import { runsOf, type Run } from '#core/readings';
import { clamp, gaussianSmooth, percentile } from '#core/signal';
import { secondsAtTimecode, type Range, type SourceStart } from '#core/time';
import { isDoubtful, sentences, type Word } from '#core/words';
import { liesIn } from './readTime';
import { stem } from './vocabulary';
import type { Term, TimePoint } from './types';

/** A file as a request looks at it. */
export interface AskFile {
  footage: Footage;
  /** Where it begins in all footage laid end to end, in seconds. */
  offset: number;
  words: readonly Word[];
  /** Where it begins by the camera's or recorder's count. */
  start?: SourceStart | null;
  /** When it was recorded, ISO 8601. */
  recordedAt?: string | null;
  /** When each person is in the picture, by id. */
  people: ReadonlyMap<string, readonly Range[]>;
}

/** What a request is answered from; times of the string are all footage laid end to end, in seconds. */
export interface AskContext {
  files: readonly AskFile[];
  totalSeconds: number;
  /** In all footage laid end to end. */
  markers: readonly { note: string; seconds: number }[];
}

/** Seconds behind a timecode that answer a request for it. */
const shownBehind = 4;
/** Shares of the picture that faces and things cover when they are called close or medium; the reasons of a moment use the same. */
const closeFace = 0.07,
  mediumFace = 0.015,
  closeThing = 0.2,
  mediumThing = 0.05;

const secondsOf = (point: TimePoint, context: AskContext): number =>
  point.from === 'marker'
    ? (context.markers.find((marker) => marker.note === point.note)?.seconds ?? Infinity)
    : point.from === 'start'
      ? point.seconds
      : context.totalSeconds - point.seconds;

/** How much a doubtful word counts that was asked for. */
const doubtfulWorth = 0.5;

/** Where the words are said, or one word like them: the sentences around them. */
export function saidIn(
  words: readonly Word[],
  { words: wanted, alike = [] }: Extract<Term, { kind: 'said' }>,
): { range: Range; at: number; isDoubtful: boolean }[] {
  const stems = words.map((word) => stem(word.text));
  const spoken = sentences(words);
  const found: ReturnType<typeof saidIn> = [];
  for (let index = 0; index + wanted.length <= stems.length; index++) {
    const isSaid = wanted.every((word, offset) => stems[index + offset] === word);
    if (!isSaid && !alike.includes(stems[index]!)) continue;
    const sentence = spoken.find((each) => index >= each.from && index < each.to);
    found.push({
      range: {
        start: Math.max(0, (sentence ?? words[index]!).start - 0.2),
        end: (sentence ?? words[index + wanted.length - 1]!).end + 0.2,
      },
      at: words[index]!.start,
      isDoubtful: words.slice(index, index + (isSaid ? wanted.length : 1)).some(isDoubtful),
    });
  }
  return found;
}

const camera: Record<Extract<Term, { kind: 'camera' }>['move'], (run: Run) => boolean> = {
  still: (run) => run.kind === 'still',
  pan: (run) => run.kind === 'smooth' && (run.label === 'left' || run.label === 'right'),
  tilt: (run) => run.kind === 'smooth' && (run.label === 'up' || run.label === 'down'),
  zoom: (run) => run.kind === 'smooth' && (run.label === 'in' || run.label === 'out'),
  move: (run) => run.kind === 'smooth',
  whip: (run) => run.kind === 'whip',
  shaky: (run) => run.kind === 'shaky',
  steady: (run) => run.kind === 'still' || run.kind === 'smooth',
};

/** How much each instant of a file is what a term says, 0 to 1. */
export function termDegree(term: Term, file: AskFile, context: AskContext, labels: readonly string[]): Float32Array {
  const { footage } = file;
  const { traces, hz, runs } = footage;
  const count = traces.faces.length;
  const each = (of: (index: number) => number) => Float32Array.from({ length: count }, (_, index) => clamp(of(index)));
  const during = (ranges: readonly Range[]) => {
    const out = new Float32Array(count);
    for (const range of ranges)
      out.fill(1, Math.max(0, Math.floor(range.start * hz)), Math.max(0, Math.ceil(range.end * hz)));
    return out;
  };
  switch (term.kind) {
    case 'said': {
      // What may be misheard counts less than what was heard for certain.
      const found = saidIn(file.words, term);
      const sure = during(found.flatMap((each) => (each.isDoubtful ? [] : [each.range])));
      const doubtful = during(found.map(({ range }) => range));
      return sure.map((value, index) => Math.max(value, doubtfulWorth * doubtful[index]!));
    }
    case 'person':
      return during(file.people.get(term.id) ?? []);
    case 'faces':
      return each((index) =>
        Math.round(traces.faces[index]!) >= term.least &&
        (term.most === null || Math.round(traces.faces[index]!) <= term.most)
          ? 1
          : 0,
      );
    case 'thing':
      return during(thingRuns(footage, [term.label]).filter((run) => (run.amount ?? 1) >= term.least));
    case 'coloured': {
      const { colour, of } = term;
      const wanted = of === 'worn' ? [`${colour} clothes`, `${colour} head`] : [`${colour} ${of}`];
      return during(
        runsOf(runs, 'coloured').filter(({ label }) =>
          of === 'anything' ? label!.startsWith(`${colour} `) : wanted.includes(label!),
        ),
      );
    }
    case 'photo':
      return each(() => (footage.whole ? 1 : 0));
    case 'named':
      return each(() => (term.media.includes(footage.id) ? 1 : 0));
    case 'date':
      return each((index) => (file.recordedAt && liesIn(term.days, file.recordedAt, index / hz) ? 1 : 0));
    case 'pick':
      return each(() => 1);
    case 'smile': {
      const smile = gaussianSmooth(traces.smile, 0.3 * hz);
      return each((index) => (term.all && traces.faces[index]! < 1.5 ? 0 : smile[index]! / 0.6));
    }
    case 'camera':
      return during(runs.filter((run) => camera[term.move](run) && (!term.way || run.label === term.way)));
    case 'action': {
      const motion = gaussianSmooth(traces.motion, 0.4 * hz);
      return each((index) => (term.much === 'fast' ? motion[index]! / 0.5 : 1 - motion[index]! / 0.2));
    }
    case 'sound':
      return soundDegree(term.what, footage, context, during);
    case 'size': {
      const things = thingRuns(footage, labels.length ? labels : null);
      const thing = new Float32Array(count);
      for (const run of things)
        for (let index = Math.floor(run.start * hz); index < Math.min(count, run.end * hz); index++)
          thing[index] = Math.max(thing[index]!, run.size ?? 0);
      // Things that were asked for by name are what must be close; without any, the faces or the largest thing.
      return each((index) => {
        const face = labels.length ? 0 : traces.faceArea[index]!;
        const share = Math.max(face / closeFace, thing[index]! / closeThing);
        const middle = Math.max(face / mediumFace, thing[index]! / mediumThing);
        return term.size === 'close'
          ? share / 2 + (share >= 1 ? 0.5 : 0)
          : term.size === 'medium'
            ? middle >= 1 && share < 1
              ? 1
              : 0
            : middle < 1
              ? 1
              : 0;
      });
    }
    case 'light':
      return each(
        (index) =>
          ({
            dark: 1 - traces.exposure[index]! / 0.6,
            bright: traces.exposure[index]! / 1.4 + (traces.exposure[index]! > 0.75 ? 0.3 : 0),
            sharp: traces.sharpness[index]! - 0.02,
            blurred: 1 - traces.sharpness[index]! / 0.7,
          })[term.what],
      );
    case 'timecode': {
      const seconds = file.start ? secondsAtTimecode(file.start, term.code) : null;
      return during(
        seconds === null || seconds < 0 || seconds >= footage.durationSeconds
          ? []
          : [{ start: seconds, end: Math.min(footage.durationSeconds, seconds + shownBehind) }],
      );
    }
    case 'time':
      return during(
        [{ start: secondsOf(term.from, context) - file.offset, end: secondsOf(term.to, context) - file.offset }].filter(
          (range) => range.end > range.start && Number.isFinite(range.start),
        ),
      );
  }
}

export const thingRuns = ({ runs }: Footage, labels: readonly string[] | null) =>
  runs.filter((run) => run.kind === 'object' && (labels ? labels.includes(run.label!) : run.label !== 'person'));

const usualKnown = new WeakMap<Float32Array, number | null>();
/** The loudness that half of what sounds in a file lies under, LUFS; null where nothing does. */
function usualLoudness({ traces: { loudness } }: Footage): number | null {
  let usual = usualKnown.get(loudness);
  if (usual === undefined) {
    const sounding = loudness.filter((value) => value > -69);
    usual = sounding.length > 0 ? percentile(sounding, 0.5) : null;
    usualKnown.set(loudness, usual);
  }
  return usual;
}

function soundDegree(
  what: Extract<Term, { kind: 'sound' }>['what'],
  { traces, runs, hz }: Footage,
  { files }: AskContext,
  during: (ranges: readonly Range[]) => Float32Array,
): Float32Array {
  if (what === 'talk') return during(runsOf(runs, 'speech'));
  if (what === 'music') return during(runsOf(runs, 'music'));
  if (what === 'silence') return during(runsOf(runs, 'silence'));
  const loudness = gaussianSmooth(traces.loudness, 0.3 * hz);
  const sounding = loudness.filter((value) => value > -69);
  if (sounding.length === 0) return loudness.map(() => (what === 'quiet' ? 1 : 0));
  const usual = percentile(sounding, 0.5);
  if (what === 'quiet') {
    // What is quiet throughout is quiet beside the rest.
    const elsewhere = files.map(({ footage }) => usualLoudness(footage)).filter((level) => level !== null);
    const level = Math.max(usual, percentile(Float32Array.from(elsewhere), 0.5));
    return loudness.map((value) => clamp(0.5 + (level - 6 - value) / 12));
  }
  const bursts = gaussianSmooth(traces.bursts, 0.3 * hz);
  if (what === 'cheer') return bursts.map((value, index) => clamp((value / 0.5) * (1 - 0.6 * traces.speech[index]!)));
  return loudness.map((value, index) => clamp(Math.max(bursts[index]! / 0.6, 0.5 + (value - usual - 6) / 12)));
}
