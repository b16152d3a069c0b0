import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { firstTrack } from '#core/sound';
import { probe } from '../probe/probe';
import { decodeMono, ffmpeg, realSpeech, testFolder } from '../testMedia';
import { listenForBest } from './listen';
import { readMedia } from './read';

const folder = testFolder();
const at = (name: string) => join(folder, name);
// Real speech (pocketsphinx-testdata), and a hum as microphones give it that nobody speaks into.
const speech = realSpeech('librivox/sense_and_sensibility_01_austen_64kb-0870.wav');
const hum = 'sine=100:d=8,volume=-40dB';
const best = async (name: string) => (await listenForBest(at(name), await probe(at(name)))).choice;

beforeAll(() => {
  const picture = ['-f', 'lavfi', '-i', 'testsrc2=s=160x90:r=25:d=8'];
  const film = ['-pix_fmt', 'yuv420p', '-preset', 'ultrafast', '-c:a', 'aac', '-ar', '48000', '-t', '8'];
  ffmpeg(
    ...picture,
    '-f',
    'lavfi',
    '-i',
    hum,
    '-i',
    speech,
    '-map',
    '0',
    '-map',
    '1',
    '-map',
    '2',
    ...film,
    at('second.mp4'),
  );
  ffmpeg(
    ...picture,
    '-f',
    'lavfi',
    '-i',
    hum,
    '-i',
    speech,
    '-map',
    '0',
    '-map',
    '2',
    '-map',
    '1',
    ...film,
    at('first.mp4'),
  );
  ffmpeg(
    '-i',
    speech,
    '-f',
    'lavfi',
    '-i',
    hum,
    '-filter_complex',
    '[1][1][0][1]amerge=inputs=4[a]',
    '-map',
    '[a]',
    '-t',
    '8',
    at('four.wav'),
  );
  ffmpeg('-i', speech, '-af', 'pan=stereo|c0=0*c0|c1=c0', '-t', '8', at('right.wav'));
  ffmpeg('-i', speech, '-ac', '2', '-t', '8', at('both.wav'));
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'anullsrc=d=3',
    '-f',
    'lavfi',
    '-i',
    'sine=440:d=3',
    '-map',
    '0',
    '-map',
    '1',
    at('tone.mkv'),
  );
});

describe('which sound has the voice', () => {
  it.each([
    ['second.mp4', [{ track: 1, channel: null }]],
    ['first.mp4', firstTrack],
    ['four.wav', [{ track: 0, channel: 2 }]],
    ['right.wav', [{ track: 0, channel: 1 }]],
    ['both.wav', firstTrack],
    ['tone.mkv', [{ track: 1, channel: null }]],
  ])('%s', async (name, wanted) => expect(await best(name)).toEqual(wanted));
});

describe('a reading hears what is chosen', () => {
  const speechIn = async (name: string, sound?: typeof firstTrack) => {
    const { raw, heard, proxy } = await readMedia(at(name), {
      folder: at(`${name}.${JSON.stringify(sound)}`),
      proxy: true,
      ...(sound ? { sound } : {}),
    });
    const voice = raw.traces.get('sound.voice')?.values ?? new Float32Array();
    return { share: voice.filter((value) => value > 0.5).length / Math.max(1, voice.length), heard, proxy, raw };
  };
  it('the second track without being told, the first when told, nothing when muted', async () => {
    const found = await speechIn('second.mp4');
    expect([found.share > 0.5, found.proxy]).toEqual([true, true]);
    expect((await speechIn('second.mp4', firstTrack)).share).toBeLessThan(0.05);
    const muted = await speechIn('second.mp4', []);
    expect([muted.raw.hasSound, muted.raw.hasPicture, muted.proxy]).toEqual([false, true, true]);
  });
  it('players get the same: pictures as they are, with the track that was heard', async () => {
    const proxy = at('second.mp4.undefined/proxy.mp4');
    const info = await probe(proxy);
    expect([info.videoCodec, info.soundTracks.length, info.width]).toEqual(['h264', 1, 160]);
    const [heard, spoken, other] = [
      decodeMono(proxy, 8000),
      decodeMono(speech, 8000),
      decodeMono(at('first.mp4'), 8000),
    ];
    const alike = (a: Float32Array, b: Float32Array) => {
      const count = Math.min(a.length, b.length, 48_000);
      let [ab, aa, bb] = [0, 0, 0];
      for (let index = 4000; index < count; index++) {
        ab += a[index]! * b[index]!;
        aa += a[index]! ** 2;
        bb += b[index]! ** 2;
      }
      return ab / Math.sqrt(aa * bb);
    };
    expect(alike(heard, spoken)).toBeGreaterThan(0.9);
    expect(alike(heard, other)).toBeGreaterThan(0.9);
  });
  it('two tracks mixed are both heard', async () => {
    const { raw } = await speechIn('second.mp4', [
      { track: 0, channel: null },
      { track: 1, channel: null },
    ]);
    const level = raw.traces.get('sound.level')!.values;
    // The hum alone, before the voice begins, lies near −43 dBFS of the mix.
    expect(Math.min(...level)).toBeGreaterThan(-60);
    expect(Math.max(...level)).toBeGreaterThan(-30);
  });
});
