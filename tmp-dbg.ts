import { hearNovelty } from './core/sound/beats/novelty';
import { evenedOnset } from './core/sound/beats/tempo';
import { findRivals } from './core/sound/beats/rivals';
import { harmonyChange } from './core/sound/beats/meter';
import { onsetNear } from './core/sound/beats/track';
import { testSong } from './core/sound/beats/testSongs';
import { f, load, midiBeats } from './tmp-beats';
import { readFileSync } from 'node:fs';
const z = (v: number[], L: number) => { const m = v.reduce((a, b) => a + b, 0) / v.length; const sd = Math.sqrt(v.reduce((a, b) => a + (b - m) ** 2, 0) / v.length); return Array.from({ length: L }, (_, ph) => { let t = 0, n = 0; for (let k = ph; k < v.length; k += L) { t += v[k]!; n++; } return (t / n - m) / sd; }); };
const dbg = (name: string, s: Float32Array, beats: number[]) => {
  const nov = hearNovelty(s); const on = evenedOnset(nov.onset), low = evenedOnset(nov.low); const st = evenedOnset(nov.low.map((v, i) => v + nov.middle[i]!));
  const rs = findRivals(on, st);
  console.log(name, rs.map((r) => `${r.bpm.toFixed(1)}:${r.score.toFixed(3)} F0 ${f(r.pulses.filter((_, i) => i % 2 === 0).map((x) => x / 200), beats).toFixed(2)} F1 ${f(r.pulses.filter((_, i) => i % 2 === 1).map((x) => x / 200), beats).toFixed(2)}`).join(' | '));
  const p = rs[0]!.pulses, t = p.map((x) => x / 200); const B = 60 / rs[0]!.bpm;
  const ph = t.map((x) => { let j = 0; while (j + 1 < beats.length && beats[j + 1]! <= x + 0.03) j++; return (x - beats[j]!) / ((beats[j + 1] ?? beats[j]! + B) - beats[j]!); });
  console.log('   first pulse', t[0], 'phases', ph.filter((_, i) => i % 8 === 0).map((x) => x.toFixed(2)).join(' '));
  for (const [n, v] of [['har', harmonyChange(nov, t, B)], ['wid', harmonyChange(nov, t, 2 * B)], ['low', p.map((x) => onsetNear(low, x, 4))], ['all', p.map((x) => onsetNear(on, x, 4))]] as [string, number[]][]) console.log('   ', n, z(v, 8).map((x) => x.toFixed(2)).join(' '));
};
for (const w of process.argv.slice(2)) {
  if (/^\d$/.test(w)) { const s = load(`/tmp/b/${w}.wav`); dbg('song ' + w, s, midiBeats(`/tmp/b/${w}.mid`, s.length / 16000).beats); }
  else if (w === 'step') { const t = testSong('rock', (b) => b < 64 ? 100 : 132, 60, 6); dbg('step', t.samples, t.beats); }
  else { const s = load(`demo/media/${w}.m4a`); dbg(w, s, JSON.parse(readFileSync(`demo/media/${w}.truth.json`, 'utf8')).beats); }
}
