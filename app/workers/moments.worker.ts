import { answerRequest, lexiconOf, loadThesaurus, noThesaurus, parseRequest, type AskContext } from '#core/ask';
import {
  chooseAbove,
  chooseForTarget,
  compareTake,
  examplesOf,
  explainScore,
  findRemedies,
  ingredientPhrases,
  learnPreference,
  layGround,
  leavesAt,
  momentReason,
  momentTitle,
  nothingKnown,
  knowFiles,
  prepare,
  proposeMix,
  reweigh,
  scoreOf,
  tellStory,
  titlesApart,
  type Choice,
  type Footage,
  type Ground,
  type Known,
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
let weightKey = '';
let choice: Choice | null = null;
/** The last question; answered once more when titles would be others. */
let asked: Extract<Ask, { kind: 'choose' }> | null = null;
let story: ReturnType<typeof tellStory> = [];
let mix: Extract<Ask, { kind: 'choose' }>['settings']['mix'] | null = null;
let spoken: Known = nothingKnown;
let files: ReturnType<typeof knowFiles> = new Map();
let world: AskWorld = { people: [], words: {}, markers: [], names: [], starts: {}, recorded: {}, clocks: {} };
/** Only when nothing was asked for so long is it computed what would change something. */
const restMilliseconds = 250;
/** Then it gives way so often. */
const turnMilliseconds = 8;
/** Goes up with every question about reasons, and with every choice; a search for remedies ends when it is not the latest. */
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
      know();
      groundKey = '';
      asked = null;
      break;
    case 'choose':
      // What would change the last choice is of no use any more; the new one is asked about anew.
      whyNumber++;
      asked = ask;
      return choose(ask);
    case 'why':
      return void why(ask);
    case 'learn':
      return learn(ask);
    case 'world':
      world = ask.world;
      know();
      grounds = grounds.map((ground) => ({ ...ground, known: files.get(ground.prepared.footage.id)! }));
      spoken = { words: world.words, people: world.people.filter(({ named }) => named) };
      // Titles say what is said and who is seen.
      said.clear();
      if (asked) choose(asked);
      break;
    case 'ask':
      return void find(ask.text);
  }
};

/** Who and what is known of the files that are loaded. */
function know(): void {
  files = knowFiles(
    prepared.map(({ footage }) => footage.id),
    world.people,
    world.words,
    world.clocks,
    files,
  );
}

function choose({ settings, decisions, targetSeconds, water, arrangement, columns }: Extract<Ask, { kind: 'choose' }>) {
  const started = performance.now();
  const key = JSON.stringify([settings.limits, settings.piece, decisions]);
  if (key !== groundKey)
    grounds = prepared.map((each) => layGround(each, settings, decisions, files.get(each.footage.id)));
  else if (weightKey !== JSON.stringify([settings.mix, settings.variety]))
    grounds = grounds.map((ground) => reweigh(ground, settings.mix, settings.variety));
  groundKey = key;
  weightKey = JSON.stringify([settings.mix, settings.variety]);
  mix = settings.mix;
  choice = water === null ? chooseForTarget(grounds, targetSeconds) : chooseAbove(grounds, water);
  const byId = new Map(prepared.map((each) => [each.footage.id, each]));
  story = tellStory(choice.moments, byId, arrangement, (media) => files.get(media)?.people ?? []);
  const place = new Map(choice.moments.map((moment, index) => [moment, index]));
  const titles = titlesApart(
    choice.moments,
    choice.moments.map((moment) => saidOf(byId.get(moment.media)!, moment).title),
  );
  const landscape = drawLandscape(columns, choice);
  answer(
    {
      kind: 'chosen',
      water: choice.threshold,
      seconds: choice.seconds,
      landscape,
      story: story.map(({ moment, because }) => ({ moment: place.get(moment)!, ...(because ? { because } : {}) })),
      moments: choice.moments.map((moment, index) => {
        const { phrases } = saidOf(byId.get(moment.media)!, moment);
        return { ...moment, title: titles[index]!, reason: momentReason(moment, phrases) };
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
    own = { title: momentTitle(file, range, spoken), phrases: ingredientPhrases(file, range) };
    said.set(key, own);
  }
  return own;
}

/** What a stretch that is shut out still shows of itself, as a share of its score; and one that is none of a piece. */
const sunk = 0.1;

/**
 * What each column of all footage end to end is worth a second, given what is in: the most of what could be a piece there.
 * So what is taken rises above the water, and nothing else does.
 */
function drawLandscape(columns: number, { worths, threshold }: Choice): Float32Array {
  const total = prepared.reduce((sum, each) => sum + each.footage.durationSeconds, 0);
  const offsets = new Map<string, number>();
  const heights = new Float32Array(columns);
  const isTaken = new Uint8Array(columns);
  let offset = 0;
  const columnAt = (seconds: number) => Math.min(columns - 1, Math.floor((seconds / total) * columns));
  for (const { prepared: own, curve } of grounds) {
    const { hz, durationSeconds, id } = own.footage;
    offsets.set(id, offset);
    for (let index = 0; index < curve.length; index++) {
      const column = columnAt(offset + index / hz);
      heights[column] = Math.max(heights[column]!, Math.min(threshold * 0.5, curve[index]! * sunk));
    }
    offset += durationSeconds;
  }
  for (const { media, start, end, worth, taken } of worths) {
    const from = columnAt(offsets.get(media)! + start);
    const to = columnAt(offsets.get(media)! + end - 1e-3);
    for (let column = from; column <= to; column++) {
      heights[column] = Math.max(heights[column]!, worth);
      if (taken) isTaken[column] = 1;
    }
  }
  return gaussianSmooth(heights, 1).map((height, column) =>
    isTaken[column] ? Math.max(height, threshold) : Math.min(height, threshold),
  );
}

/** Other takes of a stretch: those left out for it, or the one that it is left out for. */
function doublesOf({ doubles }: Choice, { media, ...range }: Range & { media: string }): Why['doubles'] {
  const fileOf = (id: string) => prepared.find(({ footage }) => footage.id === id)!;
  const isThis = (other: Range & { media: string }) =>
    other.media === media && overlap(other, range) > (range.end - range.start) / 2;
  return doubles.flatMap(({ of, ...double }) => {
    const [own, other] = isThis(of) ? [of, double] : [double, of];
    if (!isThis(own)) return [];
    return [{ ...other, differs: compareTake(fileOf(own.media), own, fileOf(other.media), other) }];
  });
}

/** Reasons at once; what would change them follows, and gives way to whatever else is asked meanwhile. */
async function why({ media, start, end }: Extract<Ask, { kind: 'why' }>) {
  const number = ++whyNumber;
  const ground = grounds.find((each) => each.prepared.footage.id === media);
  if (!ground || !mix || !choice) return;
  const range = { start, end };
  const score = scoreOf(ground, range);
  const moments = choice.moments;
  const reasons: Why = {
    kind: 'why',
    media,
    start,
    end,
    score,
    title: momentTitle(ground.prepared, range, spoken),
    shares: explainScore(ground.prepared, mix, start, end, score),
    phrases: ingredientPhrases(ground.prepared, range),
    rank: 1 + moments.filter((moment) => moment.score > score + 0.05).length,
    of: moments.length,
    leavesAt: leavesAt(choice, { media, ...range }),
    flaws: ground.flaws.filter((flaw) => overlap(flaw, range) > 0.05),
    verdict: ground.decisions.find((decision) => overlap(decision, range) > (end - start) / 2)?.verdict ?? null,
    kept: moments.some((moment) => moment.media === media && overlap(moment, range) > (end - start) / 2),
    doubles: doublesOf(choice, { media, ...range }),
    because:
      story.find(
        ({ moment, because }) => because && moment.media === media && overlap(moment, range) > (end - start) / 2,
      )?.because ?? null,
    remedies: null,
  };
  answer(reasons);
  if (reasons.verdict) return;
  const search = findRemedies(grounds, { media, ...range }, mix, choice.threshold);
  // It chooses some dozens of times; while a slider moves it would be in the way.
  await new Promise((wake) => setTimeout(wake, restMilliseconds));
  for (;;) {
    await new Promise((wake) => setTimeout(wake));
    if (number !== whyNumber) return;
    for (const turn = performance.now(); performance.now() - turn < turnMilliseconds;) {
      const step = search.next();
      if (step.done) return answer({ ...reasons, remedies: step.value });
    }
  }
}

function learn({ decisions, others, targetSeconds, water }: Extract<Ask, { kind: 'learn' }>) {
  const preference = learnPreference([...examplesOf(prepared, decisions), ...others]);
  let proposal: Learned['proposal'] = null;
  if (preference && mix && choice) {
    const proposed = proposeMix(preference, mix);
    const under = grounds.map((ground) => reweigh(ground, proposed));
    const then = water === null ? chooseForTarget(under, targetSeconds) : chooseAbove(under, water);
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

/** When somebody is in the picture of a file: of a photo all the time. */
function seenIn(footage: Footage, tracks: AskWorld['people'][number]['tracks']): Range[] {
  const own = tracks.filter((track) => track.media === footage.id);
  return footage.whole && own.length > 0 ? [{ start: 0, end: footage.durationSeconds }] : mergeRanges(own);
}

/** What words mean, made once for all that is known: a letter typed does not change it. */
let lexicon: (ReturnType<typeof lexiconOf> & { of: AskWorld }) | null = null;
let questions = 0;
async function find(text: string) {
  const question = ++questions;
  // Without it words mean what they say.
  const thesaurus = await loadThesaurus().catch(() => noThesaurus);
  if (question !== questions) return;
  if (lexicon?.of !== world || lexicon.thesaurus !== thesaurus)
    lexicon = {
      ...lexiconOf(
        { people: world.people, notes: world.markers.map((marker) => marker.note), names: world.names, thesaurus },
        Object.values(world.words),
      ),
      of: world,
    };
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
      recordedAt: world.recorded[footage.id] ?? null,
      people: new Map(world.people.map((person): [string, Range[]] => [person.id, seenIn(footage, person.tracks)])),
    })),
  };
  answer({ kind: 'found', text, request, ...answerRequest(request, context) });
}
