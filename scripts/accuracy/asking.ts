import { askEverything } from '../../core/ask/testDay';
import { add } from './table';

/** Requests in words: the stretches that they find against those that a person would want, as F1 over seconds. */
export async function checkAsking(): Promise<void> {
  const answered = await askEverything();
  const mean = answered.reduce((sum, { f1 }) => sum + f1, 0) / answered.length;
  for (const { question, f1, found, expected } of answered)
    if (f1 < 0.9) console.log(`${f1.toFixed(2)}  ${question}: found ${found || 'nothing'}, wanted ${expected}`);
  add({
    reading: 'asking',
    what: `mean F1 of ${answered.length} questions`,
    ours: mean.toFixed(3),
    wanted: '0.95',
    reached: mean >= 0.95,
    source: 'questions written down before they were tried, on a made-up day',
  });
}
