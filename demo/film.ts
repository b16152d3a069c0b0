import { spawn } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import { once } from 'node:events';
import type { FilmCamera, Shot } from './camera';
import { Mix, sampleRate } from './sound';

/** Encodes shots and sound to an H.264/AAC file in step, one frame at a time. */
export async function encodeFilm(camera: FilmCamera, shots: Shot[], mix: Mix, file: string, crf = 27) {
  const { width, height, fps } = camera.size;
  const wav = `${file}.wav`;
  writeWav(mix, wav);
  const ffmpeg = spawn(
    'ffmpeg',
    [
      '-v',
      'error',
      '-y',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgba',
      '-s',
      `${width}x${height}`,
      '-r',
      String(fps),
      '-i',
      '-',
      '-i',
      wav,
      '-c:v',
      'libx264',
      '-preset',
      'medium',
      '-crf',
      String(crf),
      '-pix_fmt',
      'yuv420p',
      '-g',
      '60',
      '-color_primaries',
      'bt709',
      '-color_trc',
      'bt709',
      '-colorspace',
      'bt709',
      '-vf',
      'scale=out_color_matrix=bt709:out_range=tv',
      '-c:a',
      'aac',
      '-b:a',
      '128k',
      '-movflags',
      '+faststart',
      '-fflags',
      '+bitexact',
      '-map_metadata',
      '-1',
      '-shortest',
      file,
    ],
    { stdio: ['pipe', 'inherit', 'inherit'] },
  );
  const closed = once(ffmpeg, 'close');
  for (const shot of shots) {
    const frames = Math.round(shot.seconds * fps);
    for (let index = 0; index < frames; index++) {
      const pixels = Buffer.from(camera.take(shot, index / fps));
      if (!ffmpeg.stdin.write(pixels)) await once(ffmpeg.stdin, 'drain');
    }
  }
  ffmpeg.stdin.end();
  const [code] = (await closed) as [number | null];
  rmSync(wav);
  if (code !== 0) throw new Error(`ffmpeg ended with ${code} while it wrote ${file}`);
}

/** Encodes sound alone (AAC in an M4A file). */
export async function encodeSound(mix: Mix, file: string, channels = 2) {
  const wav = `${file}.wav`;
  writeWav(mix, wav);
  const ffmpeg = spawn('ffmpeg', [
    '-v',
    'error',
    '-y',
    '-i',
    wav,
    '-ac',
    String(channels),
    '-c:a',
    'aac',
    '-b:a',
    '128k',
    '-fflags',
    '+bitexact',
    '-map_metadata',
    '-1',
    file,
  ]);
  const [code] = (await once(ffmpeg, 'close')) as [number | null];
  rmSync(wav);
  if (code !== 0) throw new Error(`ffmpeg ended with ${code} while it wrote ${file}`);
}

function writeWav(mix: Mix, file: string) {
  const pcm = mix.toPcm();
  const head = Buffer.alloc(44);
  head.write('RIFF', 0);
  head.writeUInt32LE(36 + pcm.length, 4);
  head.write('WAVEfmt ', 8);
  head.writeUInt32LE(16, 16);
  head.writeUInt16LE(1, 20);
  head.writeUInt16LE(2, 22);
  head.writeUInt32LE(sampleRate, 24);
  head.writeUInt32LE(sampleRate * 4, 28);
  head.writeUInt16LE(4, 32);
  head.writeUInt16LE(16, 34);
  head.write('data', 36);
  head.writeUInt32LE(pcm.length, 40);
  writeFileSync(file, Buffer.concat([head, pcm]));
}
