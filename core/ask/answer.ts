import type { Footage } from '#core/moments';
import { runsOf, type Run } from '#core/readings';
import { clamp, gaussianSmooth, percentile } from '#core/signal';
import { formatClock, mergeRanges, overlap, secondsAtTimecode, type Range, type SourceStart } from '#core/time';
import { sentences, type Word } from '#core/words';
import { stem } from './vocabulary';
import type { Chip, Node, Request, Term, TimePoint } from './types';

/** A file as a request looks at it. */
interface AskFile {
  footage: Footage;
  /** Where it begins in all footage laid end to end, in seconds. */
  offset: number;
  words: readonly Word[];
  /** Where it begins by the camera's or recorder's count. */
  start?: SourceStart | null;
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

/** A stretch that answers a request, in seconds of its file. */
export interface Hit extends Range {
  media: string;
  /** 0 to 100: how well it answers. */
  fit: number;
  /** One for each thing asked for, in plain words. */
  reasons: string[];
}

/** A hit lasts at least so long, and gaps up to `bridge` do not end one; a longer one than `longest` is cut at scenes. In seconds. */
const least = 0.8,
  bridge = 0.6,
  longest = 20;
/** Seconds behind a timecode that answer a request for it. */
const shownBehind = 4;
/** Shares of the picture that faces and things cover when they are called close or medium; the reasons of a moment use the same. */
const closeFace = 0.07,
  mediumFace = 0.015,
  closeThing = 0.2,
  mediumThing = 0.05;

/**
 * Where the footage answers a request, best first. Every term gives each instant a degree from 0 to 1; "and" takes the
 * least, "or" the greatest, "not" what is missing to 1 (Zadeh 1965); stretches of at least a half are hits. Of equals
 * the sharper, better lit and steadier comes first.
 */
export function answerRequest(request: Request, context: AskContext): Hit[] {
  const { tree } = request;
  if (!tree) return [];
  const labels = request.chips.flatMap((chip) => (chip.term.kind === 'thing' && !chip.not ? [chip.term.label] : []));
  return context.files
    .flatMap((file): Hit[] => {
      const { footage } = file;
      const values = degreeOf(tree, (term) => termDegree(term, file, context, labels), footage.traces.faces.length);
      return hitsIn(values, footage).map((range) => ({
        media: footage.id,
        ...range,
        fit: fitOf(values, footage, range),
        reasons: request.chips.flatMap((chip) => reason(chip, file, context, range, labels) ?? []),
      }));
    })
    .sort((a, b) => b.fit - a.fit || a.media.localeCompare(b.media) || a.start - b.start);
}

function degreeOf(node: Node, term: (term: Term) => Float32Array, count: number): Float32Array {
  if (node.op === 'chip') return term(node.chip.term);
  if (node.op === 'not') return degreeOf(node.of, term, count).map((value) => 1 - value);
  const parts = node.of.map((each) => degreeOf(each, term, count));
  const pick = node.op === 'and' ? Math.min : Math.max;
  return parts[0]!.map((_, index) => pick(...parts.map((part) => part[index]!)));
}

function hitsIn(values: Float32Array, { hz, durationSeconds, runs }: Footage): Range[] {
  const found: Range[] = [];
  let from = -1;
  for (let index = 0; index <= values.length; index++) {
    const inside = index < values.length && values[index]! >= 0.5;
    if (inside && from < 0) from = index;
    if (!inside && from >= 0) {
      found.push({ start: from / hz, end: Math.min(durationSeconds, index / hz) });
      from = -1;
    }
  }
  const cuts = runsOf(runs, 'scene').map((scene) => scene.start);
  return mergeRanges(found, bridge)
    .filter((range) => range.end - range.start >= Math.min(least, durationSeconds) - 1e-6)
    .flatMap((range) => {
      if (range.end - range.start <= longest) return [range];
      const edges = [
        range.start,
        ...cuts.filter((cut) => cut > range.start + least && cut < range.end - least),
        range.end,
      ];
      return edges.slice(1).map((end, index) => ({ start: edges[index]!, end }));
    });
}

const mean = (values: Float32Array, from: number, to: number) =>
  values.subarray(from, to).reduce((sum, value) => sum + value, 0) / Math.max(1, to - from);

function fitOf(values: Float32Array, { hz, traces }: Footage, range: Range): number {
  const from = Math.floor(range.start * hz);
  const to = Math.max(from + 1, Math.min(values.length, Math.ceil(range.end * hz)));
  const picture =
    clamp((mean(traces.sharpness, from, to) - 0.3) / 0.4) *
    mean(traces.exposure, from, to) *
    (1 - 0.7 * clamp(mean(traces.shake, from, to)));
  return Math.round(1000 * (0.85 * mean(values, from, to) + 0.15 * picture)) / 10;
}

const secondsOf = (point: TimePoint, context: AskContext): number =>
  point.from === 'marker'
    ? (context.markers.find((marker) => marker.note === point.note)?.seconds ?? Infinity)
    : point.from === 'start'
      ? point.seconds
      : context.totalSeconds - point.seconds;

/** Where the words are said: the sentences around them. */
function saidIn(words: readonly Word[], wanted: readonly string[]): { range: Range; at: number }[] {
  const stems = words.map((word) => stem(word.text));
  const spoken = sentences(words);
  const found: { range: Range; at: number }[] = [];
  for (let index = 0; index + wanted.length <= stems.length; index++) {
    if (!wanted.every((word, offset) => stems[index + offset] === word)) continue;
    const sentence = spoken.find((each) => index >= each.from && index < each.to);
    found.push({
      range: {
        start: Math.max(0, (sentence ?? words[index]!).start - 0.2),
        end: (sentence ?? words[index + wanted.length - 1]!).end + 0.2,
      },
      at: words[index]!.start,
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
function termDegree(term: Term, file: AskFile, context: AskContext, labels: readonly string[]): Float32Array {
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
    case 'said':
      return during(saidIn(file.words, term.words).map((found) => found.range));
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
    case 'smile': {
      const smile = gaussianSmooth(traces.smile, 0.3 * hz);
      return each((index) => smile[index]! / 0.6);
    }
    case 'camera':
      return during(runs.filter((run) => camera[term.move](run) && (!term.way || run.label === term.way)));
    case 'action': {
      const motion = gaussianSmooth(traces.motion, 0.4 * hz);
      return each((index) => (term.much === 'fast' ? motion[index]! / 0.5 : 1 - motion[index]! / 0.2));
    }
    case 'sound':
      return soundDegree(term.what, footage, during);
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

const thingRuns = ({ runs }: Footage, labels: readonly string[] | null) =>
  runs.filter((run) => run.kind === 'object' && (labels ? labels.includes(run.label!) : run.label !== 'person'));

function soundDegree(
  what: Extract<Term, { kind: 'sound' }>['what'],
  { traces, runs, hz }: Footage,
  during: (ranges: readonly Range[]) => Float32Array,
): Float32Array {
  if (what === 'talk') return during(runsOf(runs, 'speech'));
  if (what === 'music') return during(runsOf(runs, 'music'));
  if (what === 'silence') return during(runsOf(runs, 'silence'));
  const loudness = gaussianSmooth(traces.loudness, 0.3 * hz);
  const sounding = loudness.filter((value) => value > -69);
  if (sounding.length === 0) return loudness.map(() => (what === 'quiet' ? 1 : 0));
  const usual = percentile(sounding, 0.5);
  if (what === 'quiet') return loudness.map((value) => clamp(0.5 + (usual - 6 - value) / 12));
  const bursts = gaussianSmooth(traces.bursts, 0.3 * hz);
  if (what === 'cheer') return bursts.map((value, index) => clamp((value / 0.5) * (1 - 0.6 * traces.speech[index]!)));
  return loudness.map((value, index) => clamp(Math.max(bursts[index]! / 0.6, 0.5 + (value - usual - 6) / 12)));
}

/** What in a hit answers one chip. */
function reason(
  chip: Chip,
  file: AskFile,
  context: AskContext,
  range: Range,
  labels: readonly string[],
): string | null {
  const { term } = chip;
  const { footage } = file;
  const values = termDegree(term, file, context, labels);
  const from = Math.floor(range.start * footage.hz);
  const to = Math.max(from + 1, Math.min(values.length, Math.ceil(range.end * footage.hz)));
  let peak = from;
  for (let index = from; index < to; index++) if (values[index]! > values[peak]!) peak = index;
  const share = mean(values, from, to);
  if (chip.not) return share < 0.5 ? `not ${chip.label}` : null;
  if (values[peak]! < 0.5) return null;
  const at = formatClock(peak / footage.hz);
  if (term.kind === 'said') {
    const heard = saidIn(file.words, term.words).find((found) => overlap(found.range, range) > 0);
    return `${chip.label} at ${formatClock(heard?.at ?? range.start)}`;
  }
  if (term.kind === 'thing') {
    const most = Math.max(
      ...thingRuns(footage, [term.label])
        .filter((run) => overlap(run, range) > 0)
        .map((run) => run.amount ?? 1),
    );
    return most > 1 ? `${most} × ${term.label}` : term.label;
  }
  if (term.kind === 'action' || term.kind === 'smile' || term.kind === 'sound')
    return share > 0.9 ? `${chip.label} throughout` : `${chip.label}, most at ${at}`;
  return share > 0.9 || term.kind === 'time' || term.kind === 'timecode' ? chip.label : `${chip.label} from ${at}`;
}
