import { gaussianSmooth, clamp } from '#core/signal';
import type { Footage } from '#core/moments';
import { runsOf } from '#core/readings';
import { formatClock, lengthOf, mergeRanges, overlap, subtractRanges, type Range } from '#core/time';
import { saidIn, termDegree, thingRuns, type AskContext, type AskFile } from './degrees';
import type { Chip, Node, Request, Term, Where } from './types';

/** A stretch that answers a request, in seconds of its file. */
export interface Hit extends Range {
  media: string;
  /** 0 to 100: how well it answers. */
  fit: number;
  /** One for each thing asked for, in plain words. */
  reasons: string[];
}

/** What a request found, and how many stretches each of its parts would find alone, in the order of its chips. */
export interface Found {
  hits: Hit[];
  alone: number[];
}

/**
 * In seconds: what is shorter than `glimpse` is no hit; gaps up to `bridge` do not end one; none is shorter than `least`,
 * where the shot is long enough; one longer than `longest` is cut at scenes.
 */
const glimpse = 0.3,
  bridge = 1,
  least = 1.2,
  longest = 20;
/** "before", "after" and "near" reach so far, in seconds. */
const nearby = 10;

/**
 * Where the footage answers a request, best first. Every term gives each instant a degree from 0 to 1; "and" takes the
 * least, "or" the greatest, "not" what is missing to 1 (Zadeh 1965); stretches of at least a half are hits. Of equals
 * the sharper, better lit and steadier comes first. A request that wants only some gets those.
 */
export function answerRequest(request: Request, context: AskContext): Found {
  const picks = request.chips.filter((chip) => chip.term.kind === 'pick');
  const tree = request.tree ?? wholeOf(picks);
  if (!tree) return { hits: [], alone: request.chips.map(() => 0) };
  const labels = request.chips.flatMap(({ term, not }) => (not ? [] : thingsOf(term)));
  const alone = request.chips.map(() => 0);
  const hits = context.files.flatMap((file): Hit[] => {
    const { footage } = file;
    const known = new Map<Term, Float32Array>();
    const degree = (term: Term) => {
      let own = known.get(term);
      if (!own) known.set(term, (own = termDegree(term, file, context, labels)));
      return own;
    };
    for (const [index, { term }] of request.chips.entries())
      if (term.kind !== 'pick') alone[index]! += hitsIn(degree(term), footage).length;
    const values = degreeOf(tree, degree, footage);
    return hitsIn(values, footage).map((range) => ({
      media: footage.id,
      ...range,
      fit: fitOf(values, footage, range),
      reasons: request.chips.flatMap((chip) => reason(chip, file, degree(chip.term), range) ?? []),
    }));
  });
  const best = hits.sort((a, b) => b.fit - a.fit || a.media.localeCompare(b.media) || a.start - b.start);
  return { hits: picks.reduce((left, { term }) => picked(left, term, context, labels), best), alone };
}

/** What "the loudest" alone asks for: what is loud. */
function wholeOf(picks: readonly Chip[]): Node | null {
  const [chip] = picks;
  const of = chip?.term.kind === 'pick' ? chip.term.of : null;
  return chip && of ? { op: 'chip', chip: { ...chip, term: of } } : null;
}

/** Things that a term asks for by name. */
function thingsOf(term: Term): string[] {
  if (term.kind === 'thing') return [term.label];
  return term.kind === 'coloured' && !['clothes', 'head', 'worn', 'anything'].includes(term.of) ? [term.of] : [];
}

/** Those of some hits that are wanted, in the order in which they are. */
function picked(hits: readonly Hit[], term: Term, { files }: AskContext, labels: readonly string[]): Hit[] {
  if (term.kind !== 'pick') return [...hits];
  const fileOf = new Map(files.map((file) => [file.footage.id, file]));
  const at = (hit: Hit) => fileOf.get(hit.media)!.offset + hit.start;
  const much = new Map(
    term.by === 'most' ? hits.map((hit) => [hit, mostIn(term.of!, fileOf.get(hit.media)!, hit, labels)]) : [],
  );
  const before: Record<typeof term.by, (a: Hit, b: Hit) => number> = {
    best: (a, b) => b.fit - a.fit,
    longest: (a, b) => lengthOf(b) - lengthOf(a),
    shortest: (a, b) => lengthOf(a) - lengthOf(b),
    first: (a, b) => at(a) - at(b),
    last: (a, b) => at(b) - at(a),
    most: (a, b) => much.get(b)! - much.get(a)!,
  };
  return [...hits].sort(before[term.by]).slice(0, term.count);
}

/** How much of something there is in a hit, at its most; only to be compared. */
function mostIn(term: Term, file: AskFile, range: Range, labels: readonly string[]): number {
  const { footage } = file;
  const { traces, hz } = footage;
  const highest = (values: Float32Array, sigma = 0.3) => {
    const smooth = sigma > 0 ? gaussianSmooth(values, sigma * hz) : values;
    const to = Math.max(Math.floor(range.start * hz) + 1, Math.ceil(range.end * hz));
    return smooth.subarray(Math.floor(range.start * hz), to).reduce((most, value) => Math.max(most, value), -Infinity);
  };
  const negative = (values: Float32Array) => values.map((value) => -value);
  switch (term.kind) {
    case 'faces':
      return highest(traces.faces, 0);
    case 'thing':
      return Math.max(
        0,
        ...thingRuns(footage, [term.label])
          .filter((run) => overlap(run, range) > 0)
          .map((run) => (run.amount ?? 1) + (run.size ?? 0)),
      );
    case 'smile':
      return highest(traces.smile);
    case 'action':
      return highest(term.much === 'fast' ? traces.motion : negative(traces.motion));
    case 'sound':
      if (term.what === 'loud') return highest(traces.loudness);
      if (term.what === 'quiet') return highest(negative(traces.loudness), 1);
      if (term.what === 'cheer') return highest(traces.bursts);
      break;
    case 'light':
      if (term.what === 'dark') return highest(negative(traces.exposure));
      if (term.what === 'bright') return highest(traces.exposure);
      return highest(term.what === 'sharp' ? traces.sharpness : negative(traces.sharpness));
    case 'size': {
      const sizes = labels.length
        ? thingRuns(footage, labels)
            .filter((run) => overlap(run, range) > 0)
            .map((run) => run.size ?? 0)
        : [highest(traces.faceArea, 0)];
      return term.size === 'wide' ? -Math.min(1, ...sizes) : Math.max(0, ...sizes);
    }
    case 'camera':
      if (term.move === 'shaky') return highest(traces.shake);
      break;
    default:
  }
  // Of anything else there is most where it lasts longest.
  return lengthOf(range);
}

function degreeOf(node: Node, degree: (term: Term) => Float32Array, footage: Footage): Float32Array {
  if (node.op === 'chip') return degree(node.chip.term);
  if (node.op === 'not') return degreeOf(node.of, degree, footage).map((value) => 1 - value);
  if (node.op === 'near')
    return besideOf(hitsIn(degreeOf(node.of, degree, footage), footage, Infinity), node.where, footage);
  const parts = node.of.map((each) => degreeOf(each, degree, footage));
  const pick = node.op === 'and' ? Math.min : Math.max;
  return parts[0]!.map((_, index) => pick(...parts.map((part) => part[index]!)));
}

/** What lies before, after or near some stretches of a file. */
function besideOf(found: readonly Range[], where: Where, { hz, durationSeconds, traces }: Footage): Float32Array {
  const out = new Float32Array(traces.faces.length);
  const whole = { start: 0, end: durationSeconds };
  const reached = found.map(({ start, end }) => ({
    start: Math.max(0, where === 'after' ? end : start - nearby),
    end: Math.min(durationSeconds, where === 'before' ? start : end + nearby),
  }));
  const open = where === 'near' ? [whole] : subtractRanges(whole, found);
  for (const range of reached)
    for (const free of open) {
      const from = Math.max(range.start, free.start);
      const to = Math.min(range.end, free.end);
      if (to > from) out.fill(1, Math.round(from * hz), Math.round(to * hz));
    }
  return out;
}

function hitsIn(values: Float32Array, { hz, durationSeconds, runs }: Footage, cutFrom = longest): Range[] {
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
  if (found.length === 0) return found;
  const cuts = runsOf(runs, 'scene').map((scene) => scene.start);
  const sceneOf = (seconds: number) => ({
    start: cuts.findLast((cut) => cut <= seconds) ?? 0,
    end: cuts.find((cut) => cut > seconds) ?? durationSeconds,
  });
  const worthWatching = mergeRanges(found, bridge)
    .filter((range) => lengthOf(range) >= Math.min(glimpse, durationSeconds) - 1e-6)
    .map((range) => (lengthOf(range) >= least ? range : grown(range, sceneOf(range.start))));
  return mergeRanges(worthWatching).flatMap((range) => {
    if (lengthOf(range) <= cutFrom) return [range];
    const edges = [
      range.start,
      ...cuts.filter((cut) => cut > range.start + least && cut < range.end - least),
      range.end,
    ];
    return edges.slice(1).map((end, index) => ({ start: edges[index]!, end }));
  });
}

/** A stretch with as much around it as makes it worth watching, inside its shot. */
function grown({ start, end }: Range, shot: Range): Range {
  const more = least - (end - start);
  const from = Math.max(shot.start, Math.min(start - more / 2, Math.max(end, shot.end) - least));
  return { start: Math.min(start, from), end: Math.max(end, Math.min(shot.end, from + least)) };
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

/** What in a hit answers one chip. */
function reason(chip: Chip, file: AskFile, values: Float32Array, range: Range): string | null {
  const { term } = chip;
  const { footage } = file;
  if (term.kind === 'pick') return null;
  const from = Math.floor(range.start * footage.hz);
  const to = Math.max(from + 1, Math.min(values.length, Math.ceil(range.end * footage.hz)));
  let peak = from;
  for (let index = from; index < to; index++) if (values[index]! > values[peak]!) peak = index;
  const share = mean(values, from, to);
  if (chip.not) return share < 0.5 ? `not ${chip.label}` : null;
  if (values[peak]! < 0.5) return null;
  const at = formatClock(peak / footage.hz);
  if (term.kind === 'said') {
    const heard = saidIn(file.words, term).find((found) => overlap(found.range, range) > 0);
    return `${chip.label} at ${formatClock(heard?.at ?? range.start)}${heard?.isDoubtful ? ', doubtfully heard' : ''}`;
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
