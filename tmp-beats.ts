import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';

export function midiBeats(file: string, duration: number) {
  const b = readFileSync(file); let p = 0;
  const u32 = () => { const v = b.readUInt32BE(p); p += 4; return v; };
  p = 8; b.readUInt16BE(p); p += 2; const n = b.readUInt16BE(p); p += 2; const div = b.readUInt16BE(p); p += 2;
  const tempos: { tick: number; us: number }[] = [];
  for (let t = 0; t < n; t++) {
    p += 4; const len = u32(); const end = p + len; let tick = 0; let status = 0;
    const varint = () => { let v = 0; for (;;) { const c = b[p++]!; v = v * 128 + (c & 127); if (c < 128) return v; } };
    while (p < end) {
      tick += varint();
      if (b[p]! & 128) status = b[p++]!;
      if (status === 0xff) { const type = b[p++]!; const l = varint(); if (type === 0x51) tempos.push({ tick, us: (b[p]! << 16) | (b[p + 1]! << 8) | b[p + 2]! }); p += l; }
      else if (status === 0xf0 || status === 0xf7) { const l = varint(); p += l; }
      else p += (status & 0xf0) === 0xc0 || (status & 0xf0) === 0xd0 ? 1 : 2;
    }
    p = end;
  }
  tempos.sort((a, b) => a.tick - b.tick);
  const beats: number[] = []; let time = 0; let us = tempos[0]?.us ?? 500000;
  for (let k = 0; time < duration; k++) {
    beats.push(time);
    const next = tempos.filter((t) => t.tick <= k * div).at(-1); us = next?.us ?? us; time += us / 1e6;
  }
  return { beats, bpm: tempos.map((t) => 60e6 / t.us) };
}
export function f(est: number[], ref: number[]) {
  const e = est.filter((t) => t >= 5), r = ref.filter((t) => t >= 5);
  let hit = 0; let j = 0; 
  for (const t of r) { while (j < e.length && e[j]! < t - 0.07) j++; if (j < e.length && Math.abs(e[j]! - t) <= 0.07) { hit++; j++; } }
  const p = hit / Math.max(1, e.length), q = hit / Math.max(1, r.length); return p + q ? (2 * p * q) / (p + q) : 0;
}
export function load(file: string) { const out = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-ac', '1', '-ar', '16000', '-f', 'f32le', '-'], { maxBuffer: 1 << 30 }); return new Float32Array(out.buffer.slice(out.byteOffset, out.byteOffset + out.byteLength)); }
