import { cutPoints, meanIngredients, momentTitle, prepare, type Prepared } from '#core/moments';
import { runsOf } from '#core/readings';
import { clamp } from '#core/signal';
import { coveredSeconds, overlap, type Range } from '#core/time';
import { sentences as sentencesOf, type Sentence, type Word } from '#core/words';
import { leansBack, sentenceHook, type Hook } from './hooks';
import { judgeMaterial } from './material';
import { reasonOf, titleOf, Vocabulary } from './titles';
import { termOf, topicBoundaries } from './topics';
import { breathAfter, breathBefore, idlePauses, repeatedStarts, Trimmed } from './trimmings';
import {
  lengthOfShort,
  shortParts,
  type Ending,
  type Material,
  type Recording,
  type Short,
  type ShortPart,
  type ShortsWish,
} from './types';

/** Points that each part can give, by material. Rules of thumb; common practice, no source. */
const weights: Record<Material, Record<ShortPart, number>> = {
  talk: { hook: 26, speech: 16, faces: 13, action: 5, reactions: 10, whole: 22, picture: 8 },
  sport: { hook: 20, speech: 5, faces: 6, action: 28, reactions: 23, whole: 10, picture: 8 },
  lesson: { hook: 20, speech: 24, faces: 8, action: 4, reactions: 4, whole: 30, picture: 10 },
  comment: { hook: 30, speech: 18, faces: 16, action: 2, reactions: 12, whole: 16, picture: 6 },
  travel: { hook: 14, speech: 6, faces: 12, action: 18, reactions: 8, whole: 12, picture: 30 },
};

/** A short hooks within its first three seconds. Common practice, no source. */
const hookSeconds = 3;
/** No two shorts share more of the shorter one's time than this. */
export const mostShared = 0.2;

interface Beginning {
  time: number;
  sentence: number;
  hook: Hook;
}
interface End {
  time: number;
  sentence: number;
  kind: Ending['kind'];
}

/** What is computed once for a recording. */
export interface ShortsGround {
  recording: Recording;
  wish: ShortsWish;
  prepared: Prepared;
  sentences: Sentence[];
  /** Depth of the topic boundary before a sentence. */
  topics: ReadonlyMap<number, number>;
  trimmed: Trimmed;
  vocabulary: Vocabulary;
  material: Material;
  because: string;
  range: Range;
}

/** What shorts are looked for in: sentences, events and scores of a recording under a wish; times in seconds of the recording. */
export function layShorts(recording: Recording, wish: ShortsWish): ShortsGround {
  const { footage, words } = recording;
  const asked = wish.range ?? footage.wanted ?? { start: 0, end: footage.durationSeconds };
  const range = { start: Math.max(0, asked.start), end: Math.min(footage.durationSeconds, asked.end) };
  const prepared = prepare(footage);
  const sentences = sentencesOf(words);
  const judged = judgeMaterial(recording, range);
  return {
    recording,
    wish,
    prepared,
    sentences,
    range,
    because: wish.material === null ? judged.because : '',
    material: wish.material ?? judged.material,
    topics: new Map(topicBoundaries(words, sentences).map(({ sentence, depth }) => [sentence, depth])),
    trimmed: new Trimmed([
      ...(wish.cutPauses ? idlePauses(words, prepared) : []),
      ...(wish.cutRepeats ? repeatedStarts(words) : []),
    ]),
    vocabulary: new Vocabulary(sentences),
  };
}

/** A short as it is weighed: its stretch, or its pieces, with the parts of its score, each 0 to 1. */
interface Candidate {
  pieces: Range[];
  shares: Record<ShortPart, number>;
  hook: Hook;
  score: number;
  endings: Ending[];
  /** For compilations: the word that holds them together. */
  theme?: string;
}

/**
 * The shorts of a recording, best first: as many as were wished for and up to three times as many to choose from. Every
 * one is as long as was wished, begins and ends outside of words and, where words are known, at the beginning and end
 * of sentences; no two share more than a fifth of the shorter one's time.
 */
export function findShorts(ground: ShortsGround): Short[] {
  const candidates = ground.wish.form === 'pieces' ? compilations(ground) : stretches(ground);
  const chosen: Candidate[] = [];
  for (const candidate of candidates.sort((a, b) => b.score - a.score)) {
    if (chosen.length >= ground.wish.count * 3) break;
    if (
      chosen.every(
        (other) =>
          sharedSeconds(candidate.pieces, other.pieces) <=
          mostShared * Math.min(lengthOfShort(candidate), lengthOfShort(other)),
      )
    )
      chosen.push(candidate);
  }
  const taken = new Set<string>();
  return chosen.map((candidate) => {
    const title =
      titleOf(candidate.pieces, ground.sentences, ground.vocabulary, taken) ??
      momentTitle(ground.prepared, whole(candidate.pieces));
    taken.add(title);
    return toShort(ground, candidate, title);
  });
}

/** Whether the words in a short are sure enough to say something about it; also where there are none. */
function isBuiltOnWords({ sentences }: ShortsGround, pieces: readonly Range[]): boolean {
  const own = pieces.flatMap((piece) => sentences.filter((sentence) => overlap(sentence, piece) > 0));
  return (
    own.length === 0 ||
    own.reduce((sum, each) => sum + each.sure * (each.to - each.from), 0) /
      own.reduce((sum, each) => sum + each.to - each.from, 0) >=
      sureEnough
  );
}

/** Seconds that two lists of stretches have in common. */
export const sharedSeconds = (a: readonly Range[], b: readonly Range[]): number =>
  a.reduce((sum, range) => sum + b.reduce((part, other) => part + overlap(range, other), 0), 0);
const whole = (pieces: readonly Range[]): Range => ({ start: pieces[0]!.start, end: pieces.at(-1)!.end });

function toShort(
  ground: ShortsGround,
  { pieces, shares, hook, score, endings, theme }: Candidate,
  title: string,
): Short {
  const own = weights[ground.material];
  const asked =
    score /
    Math.max(
      1e-9,
      shortParts.reduce((sum, part) => sum + own[part] * shares[part], 0),
    );
  const parts = Object.fromEntries(shortParts.map((part) => [part, own[part] * shares[part] * asked])) as Record<
    ShortPart,
    number
  >;
  const { footage } = ground.recording;
  return {
    id: `${footage.id}@${pieces
      .map((piece) => `${piece.start.toFixed(2)}-${piece.end.toFixed(2)}`)
      .join('+')
      .slice(0, 80)}`,
    media: footage.id,
    pieces,
    title,
    score,
    parts,
    endings,
    reason: reasonOf(ground.prepared, pieces, shares, hook, {
      theme: theme ?? null,
      isDoubtful: !isBuiltOnWords(ground, pieces),
    }),
  };
}

/** Sentences that end in the range, by binary search. */
function sentenceAfter(sentences: readonly Sentence[], time: number): number {
  let [low, high] = [0, sentences.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sentences[middle]!.start < time) low = middle + 1;
    else high = middle;
  }
  return low;
}

function beginningsAndEnds(ground: ShortsGround): { beginnings: Beginning[]; ends: End[] } {
  const {
    sentences,
    range,
    recording: { footage },
  } = ground;
  const beginnings: Beginning[] = [],
    ends: End[] = [];
  for (const [index, sentence] of sentences.entries()) {
    if (sentence.start < range.start || sentence.end > range.end) continue;
    const before = sentences[index - 1]?.end ?? range.start;
    const after = sentences[index + 1]?.start ?? range.end;
    beginnings.push({
      time: Math.max(range.start, sentence.start - Math.min(breathBefore, Math.max(0, sentence.start - before) / 2)),
      sentence: index,
      hook: sentenceHook(sentence.sureText),
    });
    ends.push({
      time: Math.min(range.end, sentence.end + Math.min(breathAfter, Math.max(0, after - sentence.end) * 0.6)),
      sentence: index,
      kind: 'sentence',
    });
  }
  // Where nobody speaks, pieces begin and end where scenes and actions do.
  const talks = ground.material === 'talk' || ground.material === 'lesson' || ground.material === 'comment';
  const quiet = cutPoints(footage, []).filter(
    (time) => time >= range.start && time <= range.end && !nearSentence(sentences, time),
  );
  const scenes = new Set(
    runsOf(footage.runs, 'scene')
      .flatMap((scene) => [scene.start, scene.end])
      .map((time) => time.toFixed(1)),
  );
  for (const time of quiet) {
    const scene = scenes.has(time.toFixed(1));
    if (talks && sentences.length > 0 && !scene) continue;
    beginnings.push({ time, sentence: -1, hook: { kind: 'none', strength: 0 } });
    ends.push({ time, sentence: -1, kind: 'action' });
  }
  return { beginnings: beginnings.sort((a, b) => a.time - b.time), ends: ends.sort((a, b) => a.time - b.time) };
}

/** Inside a sentence, or so near to its end that ending there would be the same again. */
function nearSentence(sentences: readonly Sentence[], time: number): boolean {
  const at = sentenceAfter(sentences, time);
  const [before, after] = [sentences[at - 1], sentences[at]];
  return (before !== undefined && time < before.end + 1) || (after !== undefined && time > after.start - 0.3);
}

function stretches(ground: ShortsGround): Candidate[] {
  const { wish, trimmed } = ground;
  const { beginnings, ends } = beginningsAndEnds(ground);
  const found: Candidate[] = [];
  const reach = (time: number) => {
    let [low, high] = [0, ends.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (ends[middle]!.time <= time) low = middle + 1;
      else high = middle;
    }
    return low;
  };
  for (const beginning of beginnings) {
    const fitting: { end: End; shares: Record<ShortPart, number>; hook: Hook; score: number }[] = [];
    for (let at = reach(beginning.time + wish.minSeconds); at < ends.length; at++) {
      const end = ends[at]!;
      const range = { start: beginning.time, end: end.time };
      const length = trimmed.shown(range);
      if (length > wish.maxSeconds) break;
      if (length < wish.minSeconds) continue;
      const { shares, hook } = judge(ground, [range], beginning, end);
      fitting.push({ end, shares, hook, score: scoreOf(ground, shares, [range]) });
    }
    // The two best ends of every beginning are enough; the rest overlaps with them.
    for (const each of fitting.sort((a, b) => b.score - a.score).slice(0, 2)) {
      const range = { start: beginning.time, end: each.end.time };
      const pieces = trimmed.pieces(range);
      if (pieces.length === 0 || !fits(wish, pieces)) continue;
      found.push({
        pieces,
        shares: each.shares,
        hook: each.hook,
        score: each.score,
        endings: endingsAround(
          ground,
          range,
          fitting.map(({ end }) => end),
          each.end,
        ),
      });
    }
  }
  return found;
}

const fits = ({ minSeconds, maxSeconds }: ShortsWish, pieces: readonly Range[]): boolean => {
  const length = lengthOfShort({ pieces: [...pieces] });
  return length >= minSeconds - 1e-6 && length <= maxSeconds + 1e-6;
};

function scoreOf(
  { material, wish }: ShortsGround,
  shares: Record<ShortPart, number>,
  pieces: readonly Range[],
): number {
  const plain = shortParts.reduce((sum, part) => sum + weights[material][part] * shares[part], 0);
  if (!wish.asked) return plain;
  // What was asked for should be in it; half a short of it is enough.
  const length = lengthOfShort({ pieces: [...pieces] });
  const answered = Math.min(
    1,
    pieces.reduce((sum, piece) => sum + coveredSeconds(piece, wish.asked!), 0) / Math.max(1, Math.min(6, length / 2)),
  );
  return plain * (0.25 + 0.75 * answered);
}

/** The parts of a short's score, 0 to 1 each; see `weights` for what they give. */
function judge(
  ground: ShortsGround,
  pieces: readonly Range[],
  beginning: Beginning,
  end: End,
): { shares: Record<ShortPart, number>; hook: Hook } {
  const {
    prepared,
    recording: { words },
    sentences,
    topics,
  } = ground;
  const { footage } = prepared;
  const range = { start: pieces[0]!.start, end: pieces.at(-1)!.end };
  const means = meanIngredients(prepared, range.start, range.end);
  const first = { start: range.start, end: Math.min(range.end, range.start + hookSeconds) };
  const opening = meanIngredients(prepared, first.start, first.end);
  const loud = peakOf(footage.traces.bursts, footage.hz, first);
  const inside = sentences.slice(Math.max(0, beginning.sentence), end.sentence < 0 ? undefined : end.sentence + 1);
  const sure = beginning.sentence >= 0 && end.sentence >= beginning.sentence ? surenessOf(words, inside) : 1;
  const isSure = sure >= sureEnough;
  const candidates: Hook[] = [
    isSure ? beginning.hook : { kind: 'none', strength: 0 },
    { kind: 'reaction', strength: 0.85 * loud },
    { kind: 'action', strength: clamp(opening.action * 1.4) },
  ];
  const hook = candidates.reduce((best, each) => (each.strength > best.strength ? each : best));
  const spoken =
    beginning.sentence >= 0 && end.sentence >= beginning.sentence
      ? coveredSeconds(range, inside) / (range.end - range.start)
      : means.talk;
  const shares: Record<ShortPart, number> = {
    hook: hook.strength,
    // What nobody understands is no clear speech, and where it begins and ends no whole thought.
    speech: clamp(spoken / 0.7) * (isSure ? 0.4 + 0.6 * sure : 0.3),
    faces: clamp(means.people / 0.75),
    action: clamp(means.action * 1.3),
    reactions: peakOf(footage.traces.bursts, footage.hz, range),
    whole: isSure
      ? wholeness(sentences, topics, beginning, end)
      : Math.min(0.4, wholeness(sentences, topics, beginning, end)),
    picture: clamp(means.picture),
  };
  return { shares, hook };
}

/** Words that are less sure than this on average are not built upon: a short is then judged by sound, faces and motion. */
const sureEnough = 0.65;
/** So many words tell how sure a stretch is; a long one is not read whole for every place where it may end. */
const probes = 24;

/** How sure the words of some sentences are, 0 to 1. */
function surenessOf(words: readonly Word[], inside: readonly Sentence[]): number {
  const [from, to] = [inside[0]?.from ?? 0, inside.at(-1)?.to ?? 0];
  if (to <= from) return 1;
  const step = Math.max(1, Math.floor((to - from) / probes));
  let [sum, count] = [0, 0];
  for (let index = from; index < to; index += step, count++) sum += words[index]!.confidence;
  return sum / count;
}

function peakOf(values: Float32Array, hz: number, range: Range): number {
  let most = 0;
  const to = Math.min(values.length, Math.ceil(range.end * hz));
  for (let index = Math.max(0, Math.floor(range.start * hz)); index < to; index++)
    if (values[index]! > most) most = values[index]!;
  return most;
}

/** How complete a thought is: where it begins and ends, and whether the subject changes inside. */
function wholeness(
  sentences: readonly Sentence[],
  topics: ReadonlyMap<number, number>,
  beginning: Beginning,
  end: End,
): number {
  if (beginning.sentence < 0 && end.sentence < 0) return 0.6;
  let worth = 0.3;
  const first = sentences[beginning.sentence];
  if (first) {
    const pause = first.start - (sentences[beginning.sentence - 1]?.end ?? -2);
    worth += leansBack.test(first.text) ? -0.15 : 0.15;
    worth += topics.has(beginning.sentence) || beginning.sentence === 0 ? 0.15 : 0.1 * clamp(pause / 1.5);
  } else worth += 0.15;
  const last = sentences[end.sentence];
  if (last) {
    const pause = (sentences[end.sentence + 1]?.start ?? Infinity) - last.end;
    worth += /\?["'”’)]*$/.test(last.text) ? -0.1 : 0.1;
    worth +=
      topics.has(end.sentence + 1) || end.sentence === sentences.length - 1 ? 0.2 : 0.2 * clamp((pause - 0.3) / 1.2);
  } else worth += 0.15;
  if (first && last)
    for (let at = beginning.sentence + 1; at <= end.sentence; at++) {
      const depth = topics.get(at);
      // Near either end a change of subject is no harm: half a sentence of another topic leads in or out.
      if (depth !== undefined && at - beginning.sentence > 1 && end.sentence - at > 0)
        worth -= 0.15 + 0.3 * clamp(depth);
    }
  return clamp(worth);
}

/** Three places to end: the one taken, and the best before and after it, with the words they end on. */
function endingsAround({ sentences }: ShortsGround, range: Range, fitting: readonly End[], taken: End): Ending[] {
  const says = (end: End): string =>
    end.sentence >= 0 ? tail(sentences[end.sentence]!.text) : 'where the action ends';
  const before = fitting.filter((end) => end.time < taken.time - 1).sort((a, b) => b.time - a.time)[0];
  const after = fitting.filter((end) => end.time > taken.time + 1).sort((a, b) => a.time - b.time)[0];
  const others = [before, after].filter((end) => end !== undefined);
  const more = fitting
    .filter((end) => end !== taken && !others.includes(end) && Math.abs(end.time - taken.time) > 1)
    .sort((a, b) => Math.abs(a.time - taken.time) - Math.abs(b.time - taken.time));
  return [taken, ...others, ...more]
    .slice(0, 3)
    .sort((a, b) => a.time - b.time)
    .map((end) => ({ end: end.time, says: says(end), kind: end.kind }));
}

const tail = (text: string): string => {
  const words = text.split(/\s+/);
  return words.length <= 6 ? text : `…${words.slice(-6).join(' ')}`;
};

/** Sentences that share a word that is theirs more than the rest's, in the order in which they were said. */
function compilations(ground: ShortsGround): Candidate[] {
  const { sentences, vocabulary, wish, range, trimmed } = ground;
  const within = sentences
    .map((sentence, index) => ({ sentence, index }))
    .filter(({ sentence }) => sentence.start >= range.start && sentence.end <= range.end);
  const byTheme = new Map<string, typeof within>();
  for (const each of within)
    for (const term of new Set(each.sentence.sureText.split(/\s+/).flatMap((word) => termOf(word) ?? [])))
      byTheme.set(term, [...(byTheme.get(term) ?? []), each]);
  const found: Candidate[] = [];
  const add = (own: typeof within, theme?: string) => {
    const worth = own
      .map((each) => ({
        ...each,
        worth:
          sentenceHook(each.sentence.sureText).strength +
          vocabulary.weight(each.sentence.sureText) +
          (wish.asked ? 2 * coveredSeconds(each.sentence, wish.asked) : 0),
      }))
      .sort((a, b) => b.worth - a.worth);
    const taken: typeof within = [];
    let length = 0;
    for (const each of worth) {
      const piece = stretchOf(ground, each.index);
      const extra = trimmed.shown(piece);
      if (length + extra > wish.maxSeconds) continue;
      taken.push(each);
      length += extra;
      if (length >= wish.minSeconds && taken.length >= 3 && length > (wish.minSeconds + wish.maxSeconds) / 2) break;
    }
    if (taken.length < 2 || length < wish.minSeconds) return;
    const order = taken.sort((a, b) => a.index - b.index);
    const ranges = order.map(({ index }) => stretchOf(ground, index));
    const pieces = joined(ranges.flatMap((each) => trimmed.pieces(each)));
    if (!fits(wish, pieces)) return;
    const last = order.at(-1)!.index;
    const judged = order.map(({ index, sentence }) =>
      judge(
        ground,
        [stretchOf(ground, index)],
        { time: sentence.start, sentence: index, hook: sentenceHook(sentence.sureText) },
        { time: sentence.end, sentence: index, kind: 'sentence' },
      ),
    );
    const shares = Object.fromEntries(
      shortParts.map((part) => [part, judged.reduce((sum, each) => sum + each.shares[part], 0) / judged.length]),
    ) as Record<ShortPart, number>;
    shares.hook = judged[0]!.shares.hook;
    shares.reactions = Math.max(...judged.map((each) => each.shares.reactions));
    // It holds together by its theme, not by its place.
    shares.whole = clamp(0.45 + 0.1 * order.length);
    const ends: End[] = [0, 1, 2].flatMap((more) =>
      sentences[last + more] && sentences[last + more]!.end <= range.end
        ? [{ time: stretchOf(ground, last + more).end, sentence: last + more, kind: 'sentence' as const }]
        : [],
    );
    found.push({
      pieces,
      shares,
      hook: judged[0]!.hook,
      score: scoreOf(ground, shares, pieces),
      endings: endingsAround(ground, ranges.at(-1)!, ends, ends[0]!),
      ...(theme ? { theme } : {}),
    });
  };
  for (const [theme, own] of byTheme)
    if (own.length >= 2 && own.length <= Math.max(6, within.length / 4)) add(own, vocabulary.spelled(theme));
  if (found.length === 0 && within.length === 0) return loudest(ground);
  return found;
}

/** A sentence with its breath; a short one together with the next, if that follows at once. */
function stretchOf({ sentences, range }: ShortsGround, index: number): Range {
  const sentence = sentences[index]!;
  const next = sentences[index + 1];
  const before = sentences[index - 1]?.end ?? range.start;
  const long = next && sentence.end - sentence.start < 2.2 && next.start - sentence.end < 0.7 ? next : sentence;
  const after = sentences[sentences.indexOf(long) + 1]?.start ?? range.end;
  return {
    start: Math.max(range.start, sentence.start - Math.min(breathBefore, Math.max(0, sentence.start - before) / 2)),
    end: Math.min(range.end, long.end + Math.min(breathAfter, Math.max(0, after - long.end) * 0.6)),
  };
}

function joined(ranges: readonly Range[]): Range[] {
  const out: Range[] = [];
  for (const range of [...ranges].sort((a, b) => a.start - b.start)) {
    const last = out.at(-1);
    if (last && range.start < last.end) last.end = Math.max(last.end, range.end);
    else out.push({ ...range });
  }
  return out;
}

/** Without words: the loudest and fastest places, from quiet point to quiet point, spread over several compilations. */
function loudest(ground: ShortsGround): Candidate[] {
  const {
    prepared,
    wish,
    range,
    recording: { footage },
  } = ground;
  const points = cutPoints(footage, []).filter((time) => time >= range.start && time <= range.end);
  const parts: { piece: Range; worth: number }[] = [];
  for (let from = 0; from < points.length; from++) {
    const to = points.findIndex((time, at) => at > from && time - points[from]! >= 2.5);
    if (to < 0 || points[to]! - points[from]! > 8) continue;
    const piece = { start: points[from]!, end: points[to]! };
    const means = meanIngredients(prepared, piece.start, piece.end);
    parts.push({ piece, worth: means.action + means.sound + 0.4 * means.people + 0.2 * means.picture });
  }
  const free = parts
    .sort((a, b) => b.worth - a.worth)
    .filter((each, index, all) =>
      all.slice(0, index).every((other) => overlap(each.piece, other.piece) === 0 || all.indexOf(other) > index),
    );
  const found: Candidate[] = [];
  const used = new Set<(typeof parts)[number]>();
  for (let round = 0; round < wish.count * 3; round++) {
    const taken: Range[] = [];
    let length = 0;
    for (const each of free) {
      if (
        used.has(each) ||
        length + each.piece.end - each.piece.start > wish.maxSeconds ||
        taken.some((piece) => overlap(piece, each.piece) > 0)
      )
        continue;
      used.add(each);
      taken.push(each.piece);
      length += each.piece.end - each.piece.start;
      if (length >= wish.minSeconds) break;
    }
    if (length < wish.minSeconds || taken.length < 2) break;
    const pieces = joined(taken);
    const end = { time: pieces.at(-1)!.end, sentence: -1, kind: 'action' as const };
    const { shares, hook } = judge(
      ground,
      pieces,
      { time: pieces[0]!.start, sentence: -1, hook: { kind: 'none', strength: 0 } },
      end,
    );
    found.push({
      pieces,
      shares,
      hook,
      score: scoreOf(ground, shares, pieces),
      endings: [{ end: end.time, says: 'where the action ends', kind: 'action' }],
    });
  }
  return found;
}
