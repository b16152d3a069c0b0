import { hearMusic, downbeats } from './core/sound';
import { testSong, grooves } from './core/sound/beats/testSongs';
import { f, load, midiBeats } from './tmp-beats';
import { readFileSync } from 'node:fs';
let sum = 0, n = 0;
const show = (name: string, s: Float32Array, beats: number[], down?: number[], extra = '') => {
  const t0 = Date.now(); const h = hearMusic(s); const ms = Date.now() - t0;
  const F = f(h.grid.beats, beats); sum += F; n++;
  const near = beats.map((b) => Math.min(...h.grid.beats.map((x) => Math.abs(x - b)))).sort((a, b) => a - b);
  console.log(name.padEnd(14), 'F', F.toFixed(3), extra, 'tempo', h.tempo.toFixed(1), 'bar', h.grid.bar, 'down', down ? f(downbeats(h.grid), down).toFixed(2) : '', 'med err ms', (near[near.length >> 1]! * 1000).toFixed(1), '95%', (near[Math.floor(near.length * .95)]! * 1000).toFixed(1), 'conf', h.confidence.toFixed(2), 'rivals', h.rivals.map((r) => r.tempo.toFixed(0)).join(), 'ms', ms);
  return h;
};
const sec = (h: ReturnType<typeof hearMusic>) => console.log('    ', h.sections.map((x) => `${x.start.toFixed(1)} ${x.name}/${x.letter} ${x.energy.toFixed(2)}`).join(' | '), 'drops', h.drops.map((x) => x.toFixed(1)).join(), 'last', h.lastHit?.toFixed(2));
for (let i = 1; i <= 4; i++) { const s = load(`/tmp/b/${i}.wav`); const b = midiBeats(`/tmp/b/${i}.mid`, s.length / 16000).beats; sec(show(`song ${i}`, s, b, b.filter((_, k) => k % 4 === 0), 'aubio ' + f(readFileSync(`/tmp/b/${i}.aubio`, 'utf8').trim().split('\n').map(Number), b).toFixed(3))); }
for (const [name, file] of [['paper', 'paper-sails'], ['dry', 'dry-shoes']]) { const s = load(`demo/media/${file}.m4a`); let truth: any = {}; try { truth = JSON.parse(readFileSync(`demo/media/${file}.truth.json`, 'utf8')); } catch { /* */ } sec(show(name!, s, truth.beats ?? [], truth.downbeats)); if (truth.sections) console.log('     truth', truth.sections.map((x: any) => `${x.start.toFixed(1)} ${x.name}`).join(' | '), truth.drop); }
for (const g of grooves) for (const bpm of [60, 84, 100, 120, 144, 172, 200]) { const t = testSong(g, () => bpm, 60, bpm); const h = show(t.name, t.samples, t.beats, t.downbeats); if (bpm === 120) { sec(h); console.log('     truth', t.parts.map((x) => x.toFixed(1)).join()); } }
console.log('mean constant', sum / n); sum = n = 0;
for (const g of grooves) { { const t = testSong(g, (b) => 90 + 30 * b / 100, 60, 5); show(t.name + ' drift', t.samples, t.beats, t.downbeats); } { const t = testSong(g, (b) => b < 64 ? 100 : 132, 60, 6); show(t.name + ' step', t.samples, t.beats, t.downbeats); } { const t = testSong(g, (b) => 110 + 5 * Math.sin(b / 8), 60, 7); show(t.name + ' sway', t.samples, t.beats, t.downbeats); } }
console.log('mean drift', sum / n);
