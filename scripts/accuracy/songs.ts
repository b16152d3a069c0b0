import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import MusicTempo from 'music-tempo';

/**
 * Songs with exact tempo maps: Debian's fretsonfire-songs-sectoid and -muldjord, whose `notes.mid` holds the tempo of
 * `song.ogg` and `guitar.ogg`. All were recorded to a click.
 */
const folder = '/usr/share/games/fretsonfire/data/songs';
export const songs = [
  'sectoid/Escape from chaosland',
  'sectoid/Feelings',
  'sectoid/Metal madness',
  'sectoid/War of freedom',
  'muldjord/armygeddon',
  'muldjord/chaos_god',
  'muldjord/internal_degeneration',
  'muldjord/mutilated_mime',
] as const;
export const songsAreHere = (): boolean => songs.every((song) => existsSync(join(folder, song, 'notes.mid')));

/** Beats by a Standard MIDI File's tempo events (meta event 0x51, microseconds a quarter note), from tick 0 on. */
function beatsOfMidi(bytes: Buffer, seconds: number): number[] {
  const division = bytes.readUInt16BE(12);
  const tempi: { tick: number; seconds: number }[] = [];
  let at = 14;
  const length = () => {
    let value = 0;
    for (;;) {
      const byte = bytes[at++]!;
      value = value * 128 + (byte & 127);
      if (byte < 128) return value;
    }
  };
  for (let track = bytes.readUInt16BE(10); track > 0; track--) {
    const end = at + 8 + bytes.readUInt32BE(at + 4);
    at += 8;
    for (let tick = 0, status = 0; at < end;) {
      tick += length();
      if (bytes[at]! & 128) status = bytes[at++]!;
      if (status === 0xff) {
        const type = bytes[at++]!;
        const size = length();
        if (type === 0x51) tempi.push({ tick, seconds: bytes.readUIntBE(at, 3) / 1e6 });
        at += size;
      } else if (status >= 0xf0) at += length();
      else at += (status & 0xf0) === 0xc0 || (status & 0xf0) === 0xd0 ? 1 : 2;
    }
    at = end;
  }
  tempi.sort((a, b) => a.tick - b.tick);
  const beats: number[] = [];
  for (let beat = 0, time = 0; time < seconds; beat++) {
    beats.push(time);
    time += (tempi.findLast((tempo) => tempo.tick <= beat * division) ?? { seconds: 0.5 }).seconds;
  }
  return beats;
}

/** A song mixed to one channel at 16 kHz, its beats, and what `aubio beat` of aubio-tools finds in it. */
export function loadSong(name: string): { samples: Float32Array; beats: number[]; aubio: number[] } {
  const work = mkdtempSync(join(tmpdir(), 'bright-reel-song-'));
  try {
    const parts = ['song.ogg', 'guitar.ogg'].flatMap((part) => ['-i', join(folder, name, part)]);
    const wave = join(work, 'song.wav');
    execFileSync('ffmpeg', [
      '-v',
      'error',
      ...parts,
      '-filter_complex',
      'amix=inputs=2:normalize=0',
      '-ac',
      '1',
      '-ar',
      '44100',
      wave,
    ]);
    const bytes = execFileSync('ffmpeg', ['-v', 'error', '-i', wave, '-ar', '16000', '-f', 'f32le', '-'], {
      maxBuffer: 1 << 28,
    });
    const samples = new Float32Array(
      bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength - (bytes.byteLength % 4)),
    );
    const aubio = execFileSync('aubio', ['beat', wave]).toString().trim().split('\n').map(Number);
    return {
      samples,
      beats: beatsOfMidi(readFileSync(join(folder, name, 'notes.mid')), samples.length / 16000),
      aubio,
    };
  } finally {
    rmSync(work, { recursive: true, force: true });
  }
}

/** What `aubio beat` finds in samples of 16 kHz. */
export function aubioBeats(samples: Float32Array): number[] {
  const work = mkdtempSync(join(tmpdir(), 'bright-reel-song-'));
  try {
    const wave = join(work, 'song.wav');
    execFileSync(
      'ffmpeg',
      ['-v', 'error', '-f', 'f32le', '-ar', '16000', '-ac', '1', '-i', '-', '-ar', '44100', wave],
      { input: Buffer.from(samples.buffer, samples.byteOffset, samples.byteLength) },
    );
    return execFileSync('aubio', ['beat', wave]).toString().trim().split('\n').filter(Boolean).map(Number);
  } finally {
    rmSync(work, { recursive: true, force: true });
  }
}

/** What the package music-tempo finds in samples of 16 kHz: BeatRoot (Dixon 2001). Empty where it gives up. */
export function beatrootBeats(samples: Float32Array): number[] {
  // It counts in samples of 44.1 kHz, whatever it is told.
  const rate = 44_100 / 16_000;
  const resampled = Float32Array.from({ length: Math.floor(samples.length * rate) }, (_, index) => {
    const at = index / rate;
    const low = Math.floor(at);
    return samples[low]! + ((samples[low + 1] ?? 0) - samples[low]!) * (at - low);
  });
  try {
    return new MusicTempo(resampled).beats;
  } catch {
    return [];
  }
}
