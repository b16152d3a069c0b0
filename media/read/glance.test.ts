import { mkdirSync, readFileSync, truncateSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { derive, runsOf } from '#core/readings';
import { probe } from '../probe/probe';
import { ffmpeg, realPicture, realSpeech, testFolder } from '../testMedia';
import { glance, type GlanceResult } from './glance';

const folder = testFolder();

/** Four minutes with a key frame every five seconds: people for a minute, black for a minute, people; speech in the last two minutes. */
function makeFilm(file: string) {
  const speech = realSpeech('librivox/sense_and_sensibility_01_austen_64kb-0870.wav');
  ffmpeg(
    ...['-loop', '1', '-framerate', '10', '-t', '240', '-i', realPicture('messi5.jpg')],
    ...['-stream_loop', '-1', '-i', speech],
    '-filter_complex',
    `[0]scale=640:360,setsar=1,drawbox=c=black:t=fill:enable='between(t,60,120)',format=yuv420p[v];[1]atrim=duration=240,volume=0:enable='lt(t,120)'[s]`,
    ...['-map', '[v]', '-map', '[s]', '-t', '240', '-c:v', 'libx264', '-preset', 'ultrafast', '-g', '50', file],
  );
}

async function look(file: string, range?: { start: number; end: number }): Promise<GlanceResult[]> {
  const results: GlanceResult[] = [];
  const own = `${file}-look`;
  mkdirSync(own, { recursive: true });
  await glance(file, await probe(file), { folder: own, range }, async (result) => results.push(result) < 2);
  return results;
}

describe('a first look at points of a film', () => {
  const film = join(folder, 'film.mp4');
  it('finds faces, darkness and speech where they are, at the time of the frame that was seen', async () => {
    makeFilm(film);
    const [result] = await look(film);
    const { raw, sheets, partSeconds, speechShare } = result!;
    expect([partSeconds, raw.faces.length]).toEqual([10, 24]);
    // A key frame every five seconds: each point saw the one before it.
    for (const { time } of raw.faces) expect(Math.abs(time / 5 - Math.round(time / 5))).toBeLessThan(0.03);
    const seen = raw.faces.map(({ time, boxes }) => [time >= 60 && time < 120, boxes.length > 0]);
    for (const [isBlack, hasFaces] of seen) expect(hasFaces).toBe(!isBlack);
    const derived = derive(raw);
    const [black] = runsOf(derived.runs, 'black');
    expect(Math.abs(black!.start - 60)).toBeLessThan(8);
    expect(Math.abs(black!.end - 120)).toBeLessThan(8);
    const speech = runsOf(derived.runs, 'speech');
    expect(speech.length).toBeGreaterThan(3);
    expect(speech.every(({ start }) => start > 110)).toBe(true);
    expect(speechShare).toBeGreaterThan(0.25);
    expect(speechShare).toBeLessThan(0.51);
    // A sheet with a thumbnail for each part, dark where the film is.
    expect(sheets).toMatchObject({ hz: 0.1, count: 1 });
    const { data, info } = await sharp(readFileSync(`${film}-look/sheet-0001.jpg`))
      .greyscale()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const brightness = (index: number) => {
      const x = (index % 10) * sheets!.width + Math.round(sheets!.width / 2);
      const y = Math.floor(index / 10) * sheets!.height + Math.round(sheets!.height / 2);
      return data[y * info.width + x]!;
    };
    expect(brightness(8)).toBeLessThan(20);
    expect(brightness(2)).toBeGreaterThan(40);
  });
  it('looks only into a range', async () => {
    const [result] = await look(film, { start: 100, end: 200 });
    const times = result!.raw.faces.map(({ time }) => time);
    expect([times[0]! >= 100, times.at(-1)! < 200, result!.sheets!.start]).toEqual([true, true, 100]);
    expect(runsOf(derive(result!.raw).runs, 'unread').map(({ end }) => Math.round(end))).toEqual([100, 240]);
  });
  it('passes over what is missing, and says nothing of what cannot be read at all', async () => {
    const broken = join(folder, 'broken.ts');
    ffmpeg('-i', film, '-c', 'copy', broken);
    truncateSync(broken, 1_500_000);
    const [result] = await look(broken);
    expect(result!.raw.faces.length).toBeGreaterThan(0);
    const lies = { ...(await probe(film)), durationSeconds: 240 };
    const results: GlanceResult[] = [];
    await glance(join(folder, 'gone.mp4'), lies, { folder }, async (found) => results.push(found) > 0);
    expect(results).toEqual([]);
  });
});
