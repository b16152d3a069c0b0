import { counted } from '#core/sentences';
import { runsOf } from '#core/readings';
import { coveredSeconds, formatClock, lengthOf, overlap, type Range } from '#core/time';
import { meanIngredients, type Prepared } from './score';
import type { Choice, Worth } from './choose';
import { ingredientNames, type Ingredient, type Moment } from './types';

/** One plain phrase per ingredient: what was read in this stretch. */
export function ingredientPhrases(prepared: Prepared, range: Range): Record<Ingredient, string> {
  const { footage } = prepared;
  const { traces, runs, hz } = footage;
  const from = Math.round(range.start * hz);
  const to = Math.max(from + 1, Math.round(range.end * hz));
  const means = meanIngredients(prepared, range.start, range.end);
  const faces = Array.from(traces.faces.subarray(from, to)).sort((a, b) => a - b);
  const usual = Math.round(faces[Math.floor(faces.length * 0.7)] ?? 0);
  const area = Math.max(0, ...traces.faceArea.subarray(from, to));
  const speech = coveredSeconds(range, runsOf(runs, 'speech')) / lengthOf(range);
  let loudest = from;
  let busiest = from;
  for (let index = from; index < to; index++) {
    if (traces.bursts[index]! > traces.bursts[loudest]!) loudest = index;
    if (traces.motion[index]! > traces.motion[busiest]!) busiest = index;
  }
  const sharp = traces.sharpness.subarray(from, to).reduce((sum, value) => sum + value, 0) / (to - from);
  const light = traces.exposure.subarray(from, to).reduce((sum, value) => sum + value, 0) / (to - from);
  return {
    people: usual
      ? `${counted(usual, 'face')}, ${area > 0.07 ? 'close' : area > 0.015 ? 'medium' : 'wide'}`
      : 'nobody in frame',
    talk:
      speech > 0.7
        ? 'somebody speaks throughout'
        : speech > 0.25
          ? `speech for ${Math.round(speech * 100)} % of it`
          : speech > 0.02
            ? 'a few words'
            : 'no speech',
    action: means.action > 0.08 ? `most motion at ${formatClock(busiest / hz)}` : 'hardly anything moves',
    camera: cameraPhrase(
      runsOf(runs, 'still', 'smooth', 'shaky', 'whip').filter(
        (run) => overlap(run, range) > 0.25 || (run.kind === 'whip' && overlap(run, range) > 0.1),
      ),
    ),
    sound: traces.bursts[loudest]! > 0.3 ? `a loud moment at ${formatClock(loudest / hz)}` : 'nothing loud but speech',
    picture: `${sharp > 0.5 ? 'sharp' : sharp > 0.35 ? 'a little soft' : 'soft'}, ${light > 0.75 ? 'well lit' : light > 0.4 ? 'uneven light' : 'dark'}`,
  };
}

/** Where the camera goes, as a name: "Smooth pan right". */
export function cameraWords({ footage }: Prepared, range: Range): string {
  const [move] = runsOf(footage.runs, 'smooth', 'whip')
    .filter((run) => overlap(run, range) > 0.1)
    .sort((a, b) => overlap(b, range) - overlap(a, range));
  return move ? cameraPhrase([move]).replace(/^a /, '') : 'Camera move';
}

function cameraPhrase(runs: { kind: string; label?: string }[]): string {
  const names = runs.map((run) => {
    const way = run.label ? ` ${run.label}` : '';
    if (run.kind === 'still') return 'still';
    if (run.kind === 'shaky') return 'shaky';
    if (run.kind === 'whip') return `a whip pan${way}`;
    return run.label === 'in' || run.label === 'out'
      ? `a zoom ${run.label}`
      : run.label === 'up' || run.label === 'down'
        ? `a tilt${way}`
        : `a smooth pan${way}`;
  });
  const plain = names.filter((name, index) => name !== names[index - 1]).slice(0, 3);
  return plain.length ? plain.join(', then ') : 'still';
}

/** The water level at which a stretch goes, or comes in: of what covers most of it, what is worth most. Null when nothing does. */
export function leavesAt({ worths }: Choice, { media, ...range }: Range & { media: string }): number | null {
  let best: Worth | null = null;
  for (const each of worths) {
    if (each.media !== media || overlap(each, range) <= Math.min(lengthOf(range), lengthOf(each)) * 0.5) continue;
    if (!best || (each.taken && !best.taken) || (each.taken === best.taken && each.worth > best.worth)) best = each;
  }
  return best && best.worth;
}

/** An ingredient is among the reasons when it gives so much of the score, and no more than these are named. */
const reasonShare = 0.12,
  mostReasons = 3;

/** Why a moment was picked, in one line that goes along with its piece: "74 of 100: somebody speaks throughout; 2 faces, close". */
export function momentReason(
  { score, shares, kept }: Pick<Moment, 'score' | 'shares' | 'kept'>,
  phrases: Readonly<Record<Ingredient, string>>,
): string {
  const named = ingredientNames
    .filter((name) => shares[name] >= reasonShare * Math.max(1, score))
    .sort((a, b) => shares[b] - shares[a])
    .slice(0, mostReasons)
    .map((name) => phrases[name]);
  const first = `${kept === 'hand' ? 'kept by hand, ' : ''}${Math.round(score)} of 100`;
  return named.length > 0 ? `${first}: ${named.join('; ')}` : first;
}

/** A moment as a piece of a reel: its stretch, a name, and why it was picked. */
export function momentPiece(prepared: Prepared, moment: Moment, name: string) {
  const { media, start, end } = moment;
  return { media, start, end, name, reason: momentReason(moment, ingredientPhrases(prepared, moment)) };
}
