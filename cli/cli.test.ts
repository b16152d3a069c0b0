import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { beatScore } from '../core/sound/index';
import { ffmpeg, realPicture, realSpeech, testFolder } from '../media/testMedia';
import { promptTexts, talkOf } from '../media/testSpeech';
import { writeWhisperModel } from '#media/testMaterial/whisperModel';

const folder = testFolder();
const at = (name: string) => join(folder, name);
const run = (...args: string[]) => spawnSync('./bright-reel', args, { encoding: 'utf8' });
const read = <T>(name: string) => JSON.parse(readFileSync(at(name), 'utf8')) as T;

describe('./bright-reel', () => {
  it('names its commands, and says in one line what it did not understand', () => {
    const help = run('--help').stdout;
    for (const command of ['analyze', 'transcribe', 'sync', 'beats', 'highlights', 'montage', 'convert', 'render'])
      expect(help).toContain(`./bright-reel ${command}`);
    for (const wrong of [
      ['dance'],
      ['analyze'],
      ['analyze', 'a.mp4'],
      ['sync', 'a.wav', '--out', 'x'],
      ['beats', 'a.wav'],
      ['transcribe', 'a', 'b', '--out', 'x'],
      ['analyze', 'a.mp4', '--out', 'x', '--from', 'soon'],
      ['analyze', 'a.mp4', '--out', 'x', '--from', '9', '--to', '3'],
      ['--loud'],
    ]) {
      const { status, stderr } = run(...wrong);
      expect(status, wrong.join(' ')).toBe(2);
      expect(stderr.trim().split('\n'), wrong.join(' ')).toHaveLength(1);
    }
  });

  // Source: pocketsphinx-testdata, cards.transcription: 005 is "eight of spades four of clubs seven of hearts".
  it('transcribes a recorded sentence', () => {
    expect(run('transcribe', realSpeech('cards/005.wav'), '--out', at('words.json')).status).toBe(0);
    const { words, language, recogniser } = read<{
      words: { text: string; start: number; end: number; confidence: number }[];
      language: string;
      recogniser: string;
    }>('words.json');
    expect([language, recogniser]).toEqual(['en-US', 'pocketsphinx']);
    const said = words.map((word) => word.text);
    for (const word of ['spades', 'clubs', 'hearts']) expect(said).toContain(word);
    expect(
      words.every(
        (word, index) => word.end > word.start && (index === 0 || word.start >= words[index - 1]!.end - 0.02),
      ),
    ).toBe(true);
  });

  // Source: a prompt of Debian's asterisk-core-sounds-en, of which the recogniser's dictionary lacks a word.
  it('hears names that it is told of, as they are written', () => {
    const prompts = promptTexts('en').filter(({ name }) => ['conf-unmuted', 'uppercase', 'lowercase'].includes(name));
    const { file } = talkOf(at('prompt'), 'cases', prompts, 'en', () => 0.8);
    writeFileSync(at('names.txt'), 'unMuted\nupperCase, lowerCase');
    expect(run('transcribe', file, '--terms', at('names.txt'), '--out', at('named.json')).status).toBe(0);
    const { words } = read<{ words: { text: string; rivals?: unknown[] }[] }>('named.json');
    expect(words.map(({ text }) => text).join(' ')).toMatch(/unMuted|upperCase|lowerCase/);
    const { status, stderr } = run('transcribe', file, '--terms', at('none.txt'), '--out', at('x'));
    expect([status, stderr]).toEqual([1, expect.stringContaining('cannot be read as a list of names')]);
  });

  it('hears with a speech model that is named, and tells the language from the sound', () => {
    writeWhisperModel(at('ggml-made.bin'), { language: 2, parts: [0, ' Das', ' Boot', 2] });
    const { file } = talkOf(at('modelled'), 'one', promptTexts('en').slice(0, 1), 'en', () => 0.8);
    expect(run('transcribe', file, '--model', at('ggml-made.bin'), '--out', at('modelled.json')).status).toBe(0);
    const { words, language } = read<{ words: { text: string }[]; language: string }>('modelled.json');
    expect([language, words[0]!.text]).toEqual(['de', 'Das']);
    const { status, stderr } = run('transcribe', file, '--model', at('names.txt'), '--out', at('x'));
    expect([status, stderr]).toEqual([1, expect.stringContaining('no speech model')]);
  });

  it('gives the words of a plain text their times, and says what was not said', () => {
    writeFileSync(
      at('cards.txt'),
      'READER: [softly] Eight of spades, four of clubs.\nThe kitchen umbrella. Seven of hearts!',
    );
    const given = ['align', realSpeech('cards/005.wav'), '--words', at('cards.txt'), '--out', at('aligned.json')];
    expect(run(...given).status).toBe(0);
    const { words, language, leftOut } = read<{
      words: { text: string; start: number; end: number; unsaid?: string }[];
      language: string;
      leftOut: number;
    }>('aligned.json');
    expect([language, leftOut]).toEqual(['en', 3]);
    expect(words.map((word) => word.text).join(' ')).toBe('Eight of spades, four of clubs. Seven of hearts!');
    expect(words[6]).toMatchObject({ unsaid: 'The kitchen umbrella.' });
    expect(run('align', realSpeech('cards/005.wav'), '--out', at('x.json')).stderr).toMatch(/--words/);
  });

  it('offers no language that the recogniser does not have', () => {
    const { status, stderr } = run(
      'transcribe',
      realSpeech('cards/005.wav'),
      '--out',
      at('x.json'),
      '--language',
      'fr',
    );
    expect(status).toBe(1);
    expect(stderr).toMatch(/No recogniser here knows “fr”.*pocketsphinx \(en-US\)/);
  });

  it('finds where a recording lies in another', () => {
    ffmpeg(
      '-i',
      realSpeech('librivox/sense_and_sensibility_01_austen_64kb-0870.wav'),
      '-i',
      realSpeech('librivox/sense_and_sensibility_01_austen_64kb-0920.wav'),
      '-filter_complex',
      '[0][1]concat=n=2:v=0:a=1',
      at('whole.wav'),
    );
    ffmpeg('-ss', '2.5', '-i', at('whole.wav'), '-af', 'highpass=f=200,volume=0.4', '-ar', '22050', at('part.wav'));
    expect(run('sync', at('whole.wav'), at('part.wav'), '--out', at('sync.json')).status).toBe(0);
    const { offsetSeconds, confidence } = read<{ offsetSeconds: number; confidence: number }>('sync.json');
    expect(Math.abs(offsetSeconds - 2.5)).toBeLessThan(0.005);
    expect(confidence).toBeGreaterThan(0.5);
  });

  // Source: the demo's generator, which lays every stroke on a beat it knows.
  it('finds the beats of music', () => {
    expect(run('beats', 'demo/media/paper-sails.m4a', '--out', at('beats.json')).status).toBe(0);
    const found = read<{
      tempo: number;
      beats: number[];
      downbeats: number[];
      sections: { start: number; end: number; name: string }[];
      drops: number[];
      beatsPerBar: number;
    }>('beats.json');
    const truth = JSON.parse(readFileSync('demo/media/paper-sails.truth.json', 'utf8')) as {
      beats: number[];
      downbeats: number[];
      drop: number;
    };
    expect(found.tempo).toBeCloseTo(112, 0);
    expect(beatScore(found.beats, truth.beats)).toBeGreaterThan(0.98);
    expect(beatScore(found.downbeats, truth.downbeats)).toBeGreaterThan(0.9);
    expect(found.beatsPerBar).toBe(4);
    expect(Math.abs(found.drops[0]! - truth.drop)).toBeLessThan(0.1);
    expect(found.sections.length).toBeGreaterThan(3);
    ffmpeg('-f', 'lavfi', '-i', 'anullsrc=d=4', at('silent.wav'));
    const silent = run('beats', at('silent.wav'), '--out', at('none.json'));
    expect([silent.status, silent.stderr.trim().split('\n').length]).toEqual([1, 1]);
    expect(silent.stderr).toMatch(/^No beat can be heard in/);
  });

  it('finds shorts with a text beside, and says what is wrong with a wish or a text', () => {
    const said = [
      'What floats in the morning?',
      'Nobody knows it before the start.',
      'Every boat is made of cardboard and tape.',
      'The captain has lost eleven of them.',
      'This one is painted with candle wax.',
      'It smells of birthdays, and it stays dry.',
    ];
    const clock = (seconds: number) => `00:00:${String(Math.floor(seconds)).padStart(2, '0')},000`;
    writeFileSync(
      at('said.srt'),
      said
        .map((text, index) => `${index + 1}\n${clock(1 + index * 4)} --> ${clock(4 + index * 4)}\n${text}\n`)
        .join('\n'),
    );
    ffmpeg(
      '-f',
      'lavfi',
      '-i',
      // Nothing moves: what is said decides.
      'color=c=0x405060:s=160x90:r=12.5:d=26',
      '-f',
      'lavfi',
      '-i',
      'sine=200:d=26',
      '-pix_fmt',
      'yuv420p',
      at('long.mp4'),
    );
    const made = run(
      'shorts',
      at('long.mp4'),
      '--words',
      at('said.srt'),
      '--count',
      '1',
      '--min',
      '6',
      '--max',
      '16',
      '--out',
      at('shorts.json'),
    );
    expect([made.status, made.stderr]).toEqual([0, '']);
    const { shorts } = read<{
      shorts: {
        title: string;
        score: number;
        parts: Record<string, number>;
        pieces: { start: number; end: number }[];
      }[];
    }>('shorts.json');
    expect(shorts).toHaveLength(1);
    // The one question of the text is its hook.
    expect(shorts[0]!.pieces[0]!.start).toBeLessThan(1.1);
    expect(Object.values(shorts[0]!.parts).reduce((sum, points) => sum + points, 0)).toBeCloseTo(shorts[0]!.score, 1);
    expect(run('shorts', at('long.mp4'), '--min', '50', '--out', at('x.json')).status).toBe(2);
    const none = run('shorts', at('long.mp4'), '--words', at('missing.srt'), '--out', at('x.json'));
    expect([none.status, none.stderr.trim()]).toEqual([1, `${at('missing.srt')} cannot be read.`]);
  });

  it('refuses what has no sound, in one line', () => {
    ffmpeg('-f', 'lavfi', '-i', 'color=c=blue:s=64x64:d=1', at('mute.mp4'));
    for (const args of [
      ['transcribe', at('mute.mp4')],
      ['beats', at('mute.mp4')],
      ['sync', at('mute.mp4'), at('mute.mp4')],
    ]) {
      const { status, stderr } = run(...args, '--out', at('none.json'));
      expect(status).toBe(1);
      expect(stderr.trim()).toMatch(/^There is no sound in/);
    }
  });

  it('says which colours things and clothes have', () => {
    expect(run('analyze', realPicture('messi5.jpg'), '--out', at('photo.json')).status).toBe(0);
    const { colours } = read<{ colours: { label: string }[] }>('photo.json');
    expect(colours.map(({ label }) => label)).toContain('yellow sports ball');
  });
  it('analyzes a part of a file only', () => {
    ffmpeg(
      '-f',
      'lavfi',
      '-i',
      'testsrc2=s=320x180:r=25:d=8',
      '-f',
      'lavfi',
      '-i',
      'sine=440:d=8',
      '-pix_fmt',
      'yuv420p',
      '-g',
      '25',
      at('eight.mp4'),
    );
    expect(run('analyze', at('eight.mp4'), '--out', at('part.json'), '--from', '2', '--to', '5').status).toBe(0);
    const { source, traces, scenes, faces, people, objects, steadying, loudness } = read<
      Record<string, never> & {
        source: { durationSeconds: number };
        traces: Record<string, number[]>;
        scenes: { start: number; end: number }[];
        faces: { time: number }[];
        loudness: { truePeakDb: number };
      }
    >('part.json');
    expect(source.durationSeconds).toBeCloseTo(8, 1);
    expect(traces.sharpness!.slice(0, 19).every((value) => value === 0)).toBe(true);
    expect(traces.sharpness!.slice(25, 45).every((value) => value > 0)).toBe(true);
    expect(traces.sharpness!.slice(52).every((value) => value === 0)).toBe(true);
    expect(scenes[0]!.start).toBeGreaterThanOrEqual(2);
    expect(scenes.at(-1)!.end).toBeLessThanOrEqual(5.1);
    expect(faces[0]!.time).toBe(2);
    expect([people, steadying]).toEqual([[], []]);
    expect(Array.isArray(objects)).toBe(true);

    // A sine of ffmpeg has an amplitude of 1/8, which is -18.06 dBFS; the encoder adds a little at its start.
    expect(Math.abs(loudness.truePeakDb + 18.06)).toBeLessThan(0.6);
    const outside = run('analyze', at('eight.mp4'), '--out', at('none.json'), '--from', '20');
    expect([outside.status, outside.stderr.trim()]).toEqual([
      1,
      'Nothing of this file lies between 20 s and its end; it is 8.0 s long.',
    ]);
  });

  it('leaves nothing behind when it fails', () => {
    writeFileSync(at('text.mp4'), 'no film');
    expect(run('analyze', at('text.mp4'), '--out', at('failed.json')).status).toBe(1);
    expect(() => read('failed.json')).toThrow();
  });
});
