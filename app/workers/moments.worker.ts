import { chooseAtWater, chooseForTarget, explainScore, ingredientPhrases, layGround, leavesAt, momentTitle, prepare, reweigh, type Choice, type Ground, type Prepared } from '#core/moments';
import { gaussianSmooth } from '#core/signal';
import { overlap } from '#core/time';
import type { Answer, Ask } from './protocol';

/** Chooses moments away from the screen's thread; every slider move asks again. */
let prepared: Prepared[] = [];
let grounds: Ground[] = [];
let groundKey = '';
let choice: Choice | null = null;
let mix: Extract<Ask, { kind: 'choose' }>['settings']['mix'] | null = null;

const answer = (message: Answer, transfer: Transferable[] = []) => (self as unknown as Worker).postMessage(message, transfer);

self.onmessage = ({ data: ask }: MessageEvent<Ask>) => {
  if (ask.kind === 'footage') {
    prepared = ask.footage.map(prepare);
    groundKey = '';
  } else if (ask.kind === 'choose') choose(ask);
  else why(ask);
};

function choose({ settings, decisions, targetSeconds, water, columns }: Extract<Ask, { kind: 'choose' }>) {
  const started = performance.now();
  const key = JSON.stringify([settings.limits, settings.piece, decisions]);
  if (key !== groundKey) grounds = prepared.map((each) => layGround(each, settings, decisions));
  else if (JSON.stringify(mix) !== JSON.stringify(settings.mix)) grounds = grounds.map((ground) => reweigh(ground, settings.mix));
  groundKey = key;
  mix = settings.mix;
  choice = water === null ? chooseForTarget(grounds, mix, targetSeconds) : chooseAtWater(grounds, mix, water);
  const byId = new Map(prepared.map((each) => [each.footage.id, each]));
  const landscape = drawLandscape(columns);
  answer({
    kind: 'chosen', water: choice.water, seconds: choice.seconds, landscape,
    moments: choice.moments.map((moment) => ({ ...moment, title: momentTitle(byId.get(moment.media)!, moment) })),
    flaws: Object.fromEntries(grounds.map((ground) => [ground.prepared.footage.id, ground.flaws])),
    tookMilliseconds: performance.now() - started,
  }, [landscape.buffer]);
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
  return gaussianSmooth(sums.map((sum, index) => (last = counts[index] ? sum / counts[index] : last)), 1.6);
}

function why({ media, start, end }: Extract<Ask, { kind: 'why' }>) {
  const ground = grounds.find((each) => each.prepared.footage.id === media);
  if (!ground || !mix || !choice) return;
  const { hz } = ground.prepared.footage;
  const a = Math.round(start * hz);
  const b = Math.min(ground.sums.length - 1, Math.max(a + 1, Math.round(end * hz)));
  const score = (ground.sums[b]! - ground.sums[a]!) / Math.max(1, b - a);
  const range = { start, end };
  const moments = choice.moments;
  answer({
    kind: 'why', media, start, end, score, title: momentTitle(ground.prepared, range), shares: explainScore(ground.prepared, mix, start, end, score),
    phrases: ingredientPhrases(ground.prepared, range), rank: 1 + moments.filter((moment) => moment.score > score + 0.05).length, of: moments.length,
    leavesAt: leavesAt(ground, range), flaws: ground.flaws.filter((flaw) => overlap(flaw, range) > 0.05),
    verdict: ground.decisions.find((decision) => overlap(decision, range) > (end - start) / 2)?.verdict ?? null,
    kept: moments.some((moment) => moment.media === media && overlap(moment, range) > (end - start) / 2),
  });
}
