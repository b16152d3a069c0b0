import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { derive, runsOf } from '#core/readings';
import { ffmpeg, realPicture, realSpeech, testFolder } from '../testMedia';
import { readMedia, type ReadResult } from './read';
import { readCoarse } from './readCoarse';

const folder = testFolder();
const film = join(folder, 'film.mp4');

describe('a rough first reading against the whole one', () => {
  let rough: ReadResult, whole: ReadResult;
  beforeAll(async () => {
    // Twelve seconds of a photograph with people, then black; a recorded sentence from the third second on.
    ffmpeg(
      '-loop',
      '1',
      '-framerate',
      '25',
      '-t',
      '12',
      '-i',
      realPicture('messi5.jpg'),
      '-f',
      'lavfi',
      '-i',
      'color=black:s=640x360:r=25:d=6',
      '-itsoffset',
      '3',
      '-i',
      realSpeech('librivox/sense_and_sensibility_01_austen_64kb-0870.wav'),
      '-filter_complex',
      '[0]scale=640:360,setsar=1,format=yuv420p[a];[1]setsar=1,format=yuv420p[b];[a][b]concat=n=2[v];[2]adelay=3000|3000,apad=whole_dur=18[s]',
      '-map',
      '[v]',
      '-map',
      '[s]',
      '-t',
      '18',
      '-g',
      '25',
      film,
    );
    rough = (await readCoarse(film, { folder: join(folder, 'rough') }))!;
    whole = await readMedia(film, { folder: join(folder, 'whole') });
  });
  it('hears the same speech and sees the same darkness', () => {
    const [a, b] = [derive(rough.raw), derive(whole.raw)];
    const [first, second] = [runsOf(a.runs, 'speech'), runsOf(b.runs, 'speech')];
    expect(first.length).toBe(second.length);
    for (const [index, run] of first.entries()) expect(Math.abs(run.start - second[index]!.start)).toBeLessThan(0.05);
    expect(runsOf(a.runs, 'black')[0]!.start).toBeCloseTo(runsOf(b.runs, 'black')[0]!.start, -1);
    expect(Math.abs(runsOf(a.runs, 'black')[0]!.start - 12)).toBeLessThan(2.1);
    expect(a.durationSeconds).toBeCloseTo(b.durationSeconds, 0);
  });
  it('says nothing of motion, and has thumbnails of its own', () => {
    const { runs } = derive(rough.raw);
    expect(runsOf(runs, 'shaky', 'whip', 'frozen', 'smooth')).toEqual([]);
    expect(rough.sheets).toMatchObject({ hz: 0.5, count: 1 });
  });
  it('looks at a part only, at the times of the file', async () => {
    const part = (await readCoarse(film, { folder: join(folder, 'part'), range: { start: 10, end: 16 } }))!;
    const { runs, traces } = derive(part.raw);
    expect(runsOf(runs, 'unread').map((run) => [run.start, Math.round(run.end)])).toEqual([
      [0, 10],
      [16, 18],
    ]);
    expect(traces.sharpness[50]).toBe(0);
    expect(traces.sharpness[110]).toBeGreaterThan(0.3);
    expect(part.sheets!.start).toBe(10);
  });
  it('has nothing to say about a photograph', async () =>
    expect(await readCoarse(realPicture('messi5.jpg'), { folder })).toBeNull());
});

describe('a part of a file, read whole', () => {
  it('measures the same there as a reading of everything', async () => {
    const part = await readMedia(film, { folder: join(folder, 'range'), range: { start: 2, end: 9 } });
    const all = await readMedia(film, { folder: join(folder, 'all') });
    const [a, b] = [derive(part.raw), derive(all.raw)];
    for (let index = 25; index < 85; index++) {
      expect(Math.abs(a.traces.sharpness[index]! - b.traces.sharpness[index]!)).toBeLessThan(0.05);
      expect(Math.abs(a.traces.loudness[index]! - b.traces.loudness[index]!)).toBeLessThan(1.5);
    }
    expect(part.raw.faces[0]!.time).toBe(2);
    expect(part.raw.faces.length).toBe(14);
    expect(a.durationSeconds).toBeCloseTo(18, 0);
  });
  it('makes no proxy of a part, whose times would be wrong, and says so', async () => {
    const odd = join(folder, 'odd.avi');
    ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=25:d=6', '-c:v', 'mpeg4', odd);
    const part = await readMedia(odd, { folder: join(folder, 'odd'), proxy: true, range: { start: 2, end: 5 } });
    expect([part.proxy, part.warnings[0]]).toEqual([false, expect.stringMatching(/Read the whole file once/)]);
    expect(await readMedia(odd, { folder: join(folder, 'odd2'), proxy: true })).toMatchObject({
      proxy: true,
      warnings: [],
    });
  });
  it('refuses a part that is not there', async () => {
    await expect(readMedia(film, { folder, range: { start: 30, end: 40 } })).rejects.toThrow(
      /Nothing of this file lies between 30 s and 40 s/,
    );
  });
});
