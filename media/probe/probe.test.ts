import { copyFileSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { rates } from '#core/time';
import { analyze } from '../../cli/analyze';
import { keyFrameGap, playsInBrowser, probe } from './probe';
import { MediaError } from '../process';
import { ffmpeg, testFolder } from '../testMedia';

const folder = testFolder();
const at = (name: string) => join(folder, name);
const whole = at('whole.mp4');

beforeAll(() => {
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=320x240:r=30:d=4',
    '-f',
    'lavfi',
    '-i',
    'sine=440:d=4',
    '-pix_fmt',
    'yuv420p',
    '-g',
    '30',
    whole,
  );
});

async function sentence(file: string): Promise<string> {
  const error = await analyze(file).then(
    () => null,
    (reason: unknown) => reason,
  );
  expect(error).toBeInstanceOf(MediaError);
  return (error as Error).message;
}

describe('files that cannot be used get one plain sentence', () => {
  it('empty', async () => {
    writeFileSync(at('empty.mp4'), '');
    expect(await sentence(at('empty.mp4'))).toBe('The file is empty. Copy it from the camera again.');
  });
  it('text under a false name', async () => {
    writeFileSync(at('text.mp4'), 'These are only words.\n'.repeat(50));
    expect(await sentence(at('text.mp4'))).toMatch(/^This is not a video/);
  });
  it('cut off before its index', async () => {
    writeFileSync(at('cut.mp4'), readFileSync(whole).subarray(0, 60_000));
    expect(await sentence(at('cut.mp4'))).toMatch(/stops before its end/);
  });
  it('vanished', async () => expect(await sentence(at('nothing.mp4'))).toMatch(/not there/));
  it.each([
    ['list.m3u8', '#EXTM3U\n#EXT-X-TARGETDURATION:9\n#EXTINF:9,\nfile:///etc/hostname\n#EXT-X-ENDLIST\n'],
    ['list.mp4', '#EXTM3U\n#EXT-X-TARGETDURATION:9\n#EXTINF:9,\nfile:///etc/hostname\n#EXT-X-ENDLIST\n'],
    ['concat.mp4', "ffconcat version 1.0\nfile '/etc/hostname'\n"],
    ['titles.mp4', '1\n00:00:01,000 --> 00:00:02,000\nhello\n'],
  ])('a playlist or text that points elsewhere: %s', async (name, text) => {
    writeFileSync(at(name), text);
    expect(await sentence(at(name))).not.toMatch(/hostname|ffmpeg|ffprobe|Error/);
  });
  it('a playlist that points at real footage beside it is still refused', async () => {
    ffmpeg('-i', whole, '-c', 'copy', '-f', 'mpegts', at('part.ts'));
    writeFileSync(at('near.m3u8'), '#EXTM3U\n#EXT-X-TARGETDURATION:9\n#EXTINF:4,\npart.ts\n#EXT-X-ENDLIST\n');
    expect(await sentence(at('near.m3u8'))).toMatch(/points to other files|not a video/);
  });
});

describe('files that can be used get a right result', () => {
  it('without sound', async () => {
    ffmpeg('-i', whole, '-an', '-c', 'copy', at('mute.mp4'));
    const { source, speech, traces } = await analyze(at('mute.mp4'));
    expect(source).toMatchObject({ durationSeconds: 4, width: 320, height: 240, frameRate: 30 });
    expect(speech).toEqual([]);
    expect(traces.motion).toHaveLength(40);
  });
  it('only sound', async () => {
    ffmpeg('-i', whole, '-vn', '-c', 'copy', at('sound.m4a'));
    const { source, scenes, loudness } = await analyze(at('sound.m4a'));
    expect(source.width).toBe(0);
    expect(source.durationSeconds).toBeCloseTo(4, 0);
    expect(scenes).toEqual([]);
    expect(loudness!.integratedLufs).toBeLessThan(-10);
  });
  it('one frame', async () => {
    ffmpeg('-i', whole, '-frames:v', '1', '-an', at('one.mp4'));
    expect((await analyze(at('one.mp4'))).source.durationSeconds).toBeCloseTo(1 / 30, 3);
  });
  it('cut off after its index: what is there, and a sentence about the rest', async () => {
    ffmpeg('-i', whole, '-c', 'copy', '-movflags', '+faststart', at('fast.mp4'));
    const bytes = readFileSync(at('fast.mp4'));
    writeFileSync(at('half.mp4'), bytes.subarray(0, bytes.length / 2));
    const { source, warnings } = await analyze(at('half.mp4'));
    expect(source.durationSeconds).toBeGreaterThan(0.5);
    expect(source.durationSeconds).toBeLessThan(3.5);
    expect(warnings[0]).toMatch(/Only the first .* could be read/);
  });
  it('odd sizes and unusual names', async () => {
    const name = at('büro "q" %03d $x;&.mp4');
    ffmpeg('-i', whole, '-t', '1', '-vf', 'scale=333:187,setsar=1', '-pix_fmt', 'yuv444p', at('odd.mp4'));
    copyFileSync(at('odd.mp4'), name);
    expect((await analyze(name)).source).toMatchObject({ width: 333, height: 187 });
  });
  it('turned phone video: size and boxes after rotation', async () => {
    ffmpeg('-i', whole, '-c', 'copy', '-metadata:s:v', 'rotate=90', at('turned.mp4'));
    expect((await analyze(at('turned.mp4'))).source).toMatchObject({ width: 240, height: 320 });
  });
  it('variable frame rate keeps its length', async () => {
    ffmpeg('-i', whole, '-vf', "select='lt(n,40)+not(mod(n,3))'", '-vsync', 'vfr', at('variable.mp4'));
    expect(await probe(at('variable.mp4'))).toMatchObject({ variableRate: true, rate: rates['30'] });
    expect((await analyze(at('variable.mp4'))).source.durationSeconds).toBeCloseTo(4, 0);
  });
});

it('asks for a proxy only where the browser cannot play or seek well', async () => {
  const info = await probe(whole);
  expect(await keyFrameGap(whole, 'v:0')).toBeCloseTo(1, 1);
  expect(playsInBrowser(info, 1, 5e5)).toBe(true);
  expect(playsInBrowser(info, 20, 5e5)).toBe(false);
  expect(playsInBrowser({ ...info, videoCodec: 'prores' }, 1, 5e5)).toBe(false);
  expect(playsInBrowser({ ...info, width: 3840, height: 2160 }, 1, 5e5)).toBe(false);
});
