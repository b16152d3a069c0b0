import { answerRequest, lexiconOf, parseRequest, type AskContext } from '#core/ask';
import {
  chooseAbove,
  chooseForTarget,
  explainScore,
  findRemedies,
  ingredientPhrases,
  learnPreference,
  layGround,
  leavesAt,
  momentReason,
  momentTitle,
  prepare,
  proposeMix,
  reweigh,
  type Choice,
  type Ground,
  type Moment,
  type Prepared,
} from '#core/moments';
import { gaussianSmooth } from '#core/signal';
import { mergeRanges, overlap, type Range } from '#core/time';
import type { WorkerAnswer, Ask, AskWorld, Learned, Why } from './protocol';

/** Chooses, explains, learns and searches away from the screen's thread; every slider move asks again. */
const known = new Map<number, Prepared>();
let prepared: Prepared[] = [];
let grounds: Ground[] = [];
let groundKey = '';
let choice: Choice | null = null;
let mix: Extract<Ask, { kind: 'choose' }>['settings']['mix'] | null = null;
let world: AskWorld = { people: [], words: {}, markers: [], starts: {} };
/** Goes up with every question about reasons; a search for remedies ends when it is not the latest. */
let whyNumber = 0;

const answer = (message: WorkerAnswer, transfer: Transferable[] = []) =>
  (self as unknown as Worker).postMessage(message, transfer);

self.onmessage = ({ data: ask }: MessageEvent<Ask>) => {
  switch (ask.kind) {
    case 'read':
      said.clear();
      known.set(ask.number, prepare(ask.footage));
      break;
    case 'footage':
      prepared = ask.numbers.flatMap((number) => known.get(number) ?? []);
      for (const number of [...known.keys()].slice(0, Math.max(0, known.size - 3 * prepared.length)))
        if (!ask.numbers.includes(number)) known.delete(number);
      groundKey = '';
      break;
    case 'choose':
      return choose(ask);
    case 'why':
      return void why(ask);
    case 'learn':
      return learn(ask);
    case 'world':
      world = ask.world;
      break;
    case 'ask':
      return find(ask.text);
  }
};

function choose({ settings, decisions, targetSeconds, water, columns }: Extract<Ask, { kind: 'choose' }>) {
  const started = performance.now();
  const key = JSON.stringify([settings.limits, settings.piece, decisions]);
  if (key !== groundKey) grounds = prepared.map((each) => layGround(each, settings, decisions));
  else if (JSON.stringify(mix) !== JSON.stringify(settings.mix))
    grounds = grounds.map((ground) => reweigh(ground, settings.mix));
  groundKey = key;
  mix = settings.mix;
  choice =
    water === null
      ? chooseForTarget(grounds, mix, targetSeconds, choice?.threshold ?? null)
      : chooseAbove(grounds, mix, water);
  const byId = new Map(prepared.map((each) => [each.footage.id, each]));
  const landscape = drawLandscape(columns);
  answer(
    {
      kind: 'chosen',
      water: choice.threshold,
      seconds: choice.seconds,
      landscape,
      moments: choice.moments.map((moment) => {
        const { title, phrases } = saidOf(byId.get(moment.media)!, moment);
        return { ...moment, title, reason: momentReason(moment, phrases) };
      }),
      flaws: Object.fromEntries(grounds.map((ground) => [ground.prepared.footage.id, ground.flaws])),
      tookMilliseconds: performance.now() - started,
    },
    [landscape.buffer],
  );
}

/** Names and phrases do not depend on the mix, and most moments stay from one choice to the next. */
const said = new Map<string, { title: string; phrases: ReturnType<typeof ingredientPhrases> }>();
function saidOf(file: Prepared, range: Range) {
  const key = `${file.footage.id} ${range.start} ${range.end}`;
  let own = said.get(key);
  if (own === undefined) {
    own = { title: momentTitle(file, range), phrases: ingredientPhrases(file, range) };
    said.set(key, own);
  }
  return own;
}

/** Mean score of what falls into each column, all footage end to end; shut-out stretches sink to a tenth. */
function drawLandscape(columns: number): Float32Array {
  const total = prepared.reduce((sum, each) => sum + each.footage.durationSeconds, 0);
  const sums = new Float32Array(columns);
  const counts = new Float32Array(columns);
  let offset = 0;
  for (const ground of grounds) {
    const { hz, durationSeconds } = ground.prepared.footage;
    const flawed = new Uint8Array(ground.curve.length);
    for (const flaw of ground.flaws) flawed.fill(1, Math.floor(flaw.start * hz), Math.ceil(flaw.end * hz));
    for (let index = 0; index < ground.curve.length; index++) {
      const seconds = index / hz;
      const column = Math.min(columns - 1, Math.floor(((offset + seconds) / total) * columns));
      sums[column]! += ground.curve[index]! * (flawed[index] ? 0.1 : 1);
      counts[column]!++;
    }
    offset += durationSeconds;
  }
  let last = 0;
  return gaussianSmooth(
    sums.map((sum, index) => (last = counts[index] ? sum / counts[index] : last)),
    1.6,
  );
}

/** Reasons at once; what would change them follows, and gives way to whatever else is asked meanwhile. */
async function why({ media, start, end }: Extract<Ask, { kind: 'why' }>) {
  const number = ++whyNumber;
  const ground = grounds.find((each) => each.prepared.footage.id === media);
  if (!ground || !mix || !choice) return;
  const { hz } = ground.prepared.footage;
  const a = Math.round(start * hz);
  const b = Math.min(ground.sums.length - 1, Math.max(a + 1, Math.round(end * hz)));
  const score = (ground.sums[b]! - ground.sums[a]!) / Math.max(1, b - a);
  const range = { start, end };
  const moments = choice.moments;
  const reasons: Why = {
    kind: 'why',
    media,
    start,
    end,
    score,
    title: momentTitle(ground.prepared, range),
    shares: explainScore(ground.prepared, mix, start, end, score),
    phrases: ingredientPhrases(ground.prepared, range),
    rank: 1 + moments.filter((moment) => moment.score > score + 0.05).length,
    of: moments.length,
    leavesAt: leavesAt(ground, range),
    flaws: ground.flaws.filter((flaw) => overlap(flaw, range) > 0.05),
    verdict: ground.decisions.find((decision) => overlap(decision, range) > (end - start) / 2)?.verdict ?? null,
    kept: moments.some((moment) => moment.media === media && overlap(moment, range) > (end - start) / 2),
    remedies: null,
  };
  answer(reasons);
  if (reasons.verdict) return;
  const search = findRemedies(ground, range, mix, choice.threshold);
  for (;;) {
    await new Promise((wake) => setTimeout(wake));
    if (number !== whyNumber) return;
    const step = search.next();
    if (step.done) return answer({ ...reasons, remedies: step.value });
  }
}

function learn({ decisions, targetSeconds, water }: Extract<Ask, { kind: 'learn' }>) {
  const preference = learnPreference(prepared, decisions);
  let proposal: Learned['proposal'] = null;
  if (preference && mix && choice) {
    const proposed = proposeMix(preference, mix);
    const under = grounds.map((ground) => reweigh(ground, proposed));
    const then =
      water === null
        ? chooseForTarget(under, proposed, targetSeconds, choice.threshold)
        : chooseAbove(under, proposed, water);
    proposal = {
      mix: proposed,
      comeIn: onlyIn(then.moments, choice.moments),
      goOut: onlyIn(choice.moments, then.moments),
      moments: then.moments.length,
    };
  }
  answer({ kind: 'learned', preference, proposal });
}

/** Seconds of the first that the second has not. */
function onlyIn(some: readonly Moment[], others: readonly Moment[]): number {
  return some.reduce(
    (sum, moment) =>
      sum +
      moment.end -
      moment.start -
      others.reduce((shared, other) => shared + (other.media === moment.media ? overlap(moment, other) : 0), 0),
    0,
  );
}

function find(text: string) {
  const lexicon = lexiconOf(
    world.people,
    world.markers.map((marker) => marker.note),
    Object.values(world.words),
  );
  const request = parseRequest(text, lexicon);
  let offset = 0;
  const offsets = new Map<string, number>();
  for (const { footage } of prepared) {
    offsets.set(footage.id, offset);
    offset += footage.durationSeconds;
  }
  const context: AskContext = {
    totalSeconds: offset,
    markers: world.markers.flatMap((marker) =>
      offsets.has(marker.media) ? [{ note: marker.note, seconds: offsets.get(marker.media)! + marker.seconds }] : [],
    ),
    files: prepared.map(({ footage }) => ({
      footage,
      offset: offsets.get(footage.id)!,
      words: world.words[footage.id] ?? [],
      start: world.starts[footage.id] ?? null,
      people: new Map(
        world.people.map((person): [string, Range[]] => [
          person.id,
          mergeRanges(person.tracks.filter((track) => track.media === footage.id)),
        ]),
      ),
    })),
  };
  answer({ kind: 'found', text, request, hits: answerRequest(request, context) });
}
