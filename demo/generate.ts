/** Draws and synthesises the whole demo into demo/media. Needs ffmpeg and espeak-ng; takes about ten minutes. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { FilmCamera } from './camera';
import { encodeFilm, encodeSound } from './film';
import { longPiece, sayInterview } from './longPiece';
import { dryShoes, paperSails } from './music';
import { cleanVoice, photos, secondCamera, shortPieces } from './pieces';
import { paintWorld } from './scenery';

const folder = join(dirname(fileURLToPath(import.meta.url)), 'media');
const only = process.argv[2];
const wanted = (file: string) => !only || file.includes(only);
mkdirSync(folder, { recursive: true });
const camera = new FilmCamera(paintWorld());
const write = (file: string, value: unknown) =>
  writeFileSync(join(folder, file), `${JSON.stringify(value, roundTimes, 1)}\n`);

const lines = sayInterview();
const cameraBLate = 3.2;
const recorderEarly = 6.45;
for (const song of [paperSails(), dryShoes()]) {
  if (!wanted(`${song.name}.m4a`)) continue;
  await encodeSound(song.mix, join(folder, `${song.name}.m4a`));
  write(`${song.name}.truth.json`, {
    file: `${song.name}.m4a`,
    beats: song.beats,
    downbeats: song.downbeats,
    sections: song.sections,
    drop: song.drop,
  });
}
for (const photo of photos()) {
  camera.take(photo.shot, photo.second);
  writeFileSync(join(folder, photo.file), camera.still().toBuffer('image/jpeg', 88));
}
if (wanted('builder-voice.m4a'))
  await encodeSound(cleanVoice(lines, recorderEarly), join(folder, 'builder-voice.m4a'), 1);
const long = longPiece(lines);
for (const piece of [...shortPieces(), secondCamera(lines, cameraBLate), { file: 'race-day.mp4', ...long }]) {
  if (!wanted(piece.file)) continue;
  console.log(`${piece.file}: ${piece.truth.seconds.toFixed(1)} s`);
  await encodeFilm(camera, piece.shots, piece.mix, join(folder, piece.file));
  write(piece.file.replace('.mp4', '.truth.json'), piece.truth);
}
write('sync.truth.json', {
  reference: 'race-day.mp4',
  interviewAt: long.interviewAt,
  'builder-camera-b.mp4': long.interviewAt + cameraBLate,
  'builder-voice.m4a': long.interviewAt - recorderEarly,
});

function roundTimes(_key: string, value: unknown) {
  return typeof value === 'number' ? Math.round(value * 1000) / 1000 : value;
}
