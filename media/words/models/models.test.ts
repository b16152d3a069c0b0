import { readFileSync, truncateSync, writeFileSync } from 'node:fs';
import { createServer, type RequestListener } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { Cancelled } from '../../process';
import { writeWhisperModel } from '../../testMaterial/whisperModel';
import { realSpeech, testFolder } from '../../testMedia';
import { entriesOf, wordsOfEntries } from './entries';
import { readModelFile } from './modelFile';
import { parseService, serviceRecogniser } from './service';
import { tryModel, whisperModel, windowsOf } from './whisperModel';

const folder = testFolder();
const file = join(folder, 'ggml-made.bin');
// Number 2 of the languages is German (whisper.cpp, `g_lang`).
writeWhisperModel(file, { language: 2, parts: [0, ' Das', ' Papp', 'boot', ' sinkt', '.', 2] });
const speech = realSpeech('cards/003.wav');

describe('the file of a speech model', () => {
  it('says how large it is, how its numbers are stored, and what it hears', async () => {
    const facts = await readModelFile(file);
    expect(facts.precision).toBe('f16');
    expect(facts.size).toBeNull();
    // Source: the multilingual vocabulary of 51,865 tokens has 99 languages, the English one (51,864) none.
    expect(facts.languages).toHaveLength(99);
    expect(facts.languages.slice(0, 3)).toEqual(['en', 'zh', 'de']);
  });
  it.each([
    ['nothing', Buffer.alloc(0), /no speech model/],
    ['a film', readFileSync(speech), /no speech model/],
    ['a header and nothing behind it', readFileSync(file).subarray(0, 48), /not whole/],
    [
      'a header of nonsense',
      Buffer.from(Int32Array.from({ length: 41 }, (_, at) => (at === 0 ? 0x67676d6c : 7)).buffer),
      /no speech model/,
    ],
  ])('is refused in a sentence when it is %s', async (_, bytes, sentence) => {
    const path = join(folder, 'other.bin');
    writeFileSync(path, bytes);
    await expect(readModelFile(path)).rejects.toThrow(sentence);
  });
  it.each([1, 1000, 4_000_000])('is refused when its last %i bytes are missing', async (missing) => {
    const path = join(folder, 'cut.bin');
    const bytes = readFileSync(file);
    writeFileSync(path, bytes);
    truncateSync(path, bytes.length - missing);
    await expect(readModelFile(path)).rejects.toThrow(/not whole/);
  });
});

describe('hearing with a speech model', () => {
  const locate = () => Promise.resolve(file);
  it('tells the language from the sound, and gives words the times of the file', async () => {
    const model = whisperModel({ name: 'made', facts: await readModelFile(file), locate });
    expect(model.languages[0]).toBe('und');
    const shares: number[] = [];
    let spoken = '';
    const words = await model.recognise(speech, [{ start: 0.3, end: 2.5 }], {
      folder: join(folder, 'whisper'),
      language: 'und',
      onProgress: (share) => shares.push(share),
      onLanguage: (tag) => (spoken = tag),
    });
    expect(spoken).toBe('de');
    expect(words.map(({ text }) => text)).toEqual(['Das', 'Pappboot', 'sinkt.']);
    expect(words[0]!.start).toBeCloseTo(0.3, 5);
    // The model says that two seconds went by; the window begins at 0.3.
    expect(words.at(-1)!.end).toBeCloseTo(2.3, 5);
    expect(shares.at(-1)).toBeCloseTo(1, 6);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
  });
  it('hears a window after the other, in the language that is wanted', async () => {
    const model = whisperModel({ name: 'made', facts: await readModelFile(file), locate });
    const words = await model.recognise(
      speech,
      [
        { start: 0, end: 1.2 },
        { start: 40, end: 41 },
      ],
      { folder: join(folder, 'two'), language: 'fr-FR' },
    );
    // Of the second, nothing is left in the recording.
    const begun = words.filter(({ text }) => text === 'Das').map(({ start }) => start);
    expect(begun).toHaveLength(1);
    expect(begun[0]).toBeLessThan(0.5);
  });
  it('is cancelled while it hears', async () => {
    const model = whisperModel({ name: 'made', facts: await readModelFile(file), locate });
    const stop = new AbortController();
    const hearing = model.recognise(speech, [{ start: 0, end: 2 }], {
      folder: join(folder, 'cancelled'),
      language: 'de',
      signal: stop.signal,
    });
    setTimeout(() => stop.abort(), 300);
    await expect(hearing).rejects.toThrow(Cancelled);
  });
  it('is tried on noise before it is used; one that cannot be loaded says so', async () => {
    expect(await tryModel(file, join(folder, 'tried'))).toBeGreaterThan(0);
    const damaged = join(folder, 'damaged.bin');
    writeFileSync(damaged, readFileSync(file).subarray(0, 2_000_000));
    await expect(tryModel(damaged, join(folder, 'tried'))).rejects.toThrow(/cannot be loaded/);
  });
  it('fills windows of half a minute with stretches, and parts none', () => {
    expect(
      windowsOf([
        { start: 0, end: 10 },
        { start: 15, end: 28 },
        { start: 29, end: 40 },
        { start: 100, end: 126 },
      ]),
    ).toEqual([
      { start: 0, end: 28 },
      { start: 29, end: 40 },
      { start: 100, end: 126 },
    ]);
  });
});

describe('tokens become words', () => {
  const entry = (text: string, t0: number, t1: number) => ({ text, t0, t1 });
  const window = { start: 10, end: 14 };
  const as = { language: 'de', confidence: 0.5 };
  it('letters that were broken over tokens are whole again', () => {
    const entries = [entry(' Gr', 0, 100), entry('\uFFFD', 100, 150), entry('\uFFFD', 150, 200), entry('n', 200, 300)];
    const whole = entriesOf({ language: 'de', text: ' Grün', entries });
    expect(whole.map(({ text }) => text)).toEqual([' Gr', 'ü', 'n']);
    expect(wordsOfEntries(whole, window, as)).toEqual([{ text: 'Grün', start: 10, end: 10.3, confidence: 0.5 }]);
    const last = [entry(' Gr', 0, 100), entry('\uFFFD', 100, 150), entry('\uFFFD', 150, 200)];
    expect(entriesOf({ language: 'de', text: ' Grü', entries: last }).map(({ text }) => text)).toEqual([' Gr', 'ü']);
  });
  it('sounds in brackets are no words, also over several tokens; marks stay on their word', () => {
    const entries = [
      entry(' [', 0, 10),
      entry('M', 10, 20),
      entry('usik', 20, 30),
      entry(']', 30, 40),
      entry(' (laughs)', 40, 50),
      entry(' Ahoi', 100, 200),
      entry(' !', 200, 210),
    ];
    expect(wordsOfEntries(entries, window, as).map(({ text }) => text)).toEqual(['Ahoi!']);
  });
  it('a language without spaces has words all the same, and no time leaves the window', () => {
    const entries = [entry('你', 0, 100), entry('好', 100, 9000), entry('。', 9000, 9100)];
    const words = wordsOfEntries(entries, window, { ...as, language: 'zh' });
    expect(words.map(({ text }) => text)).toEqual(['你', '好。']);
    expect(words.at(-1)!.end).toBe(14);
  });
});

describe('a service that hears words', () => {
  const servers: ReturnType<typeof createServer>[] = [];
  afterAll(() => servers.forEach((server) => server.close()));
  const serve = (answer: RequestListener) =>
    new Promise<string>((resolve) => {
      const server = createServer(answer).listen(0, '127.0.0.1', () =>
        resolve(`http://127.0.0.1:${(server.address() as AddressInfo).port}/v1/audio/transcriptions`),
      );
      servers.push(server);
    });
  const options = { key: 'secret', model: 'small', languages: ['de'] };
  const hear = (address: string, signal?: AbortSignal) =>
    serviceRecogniser({ address, ...options }).recognise(speech, [{ start: 0.5, end: 2 }], {
      folder: join(folder, 'service'),
      language: 'de-DE',
      terms: ['Regatta'],
      ...(signal ? { signal } : {}),
    });
  // A stand-in in the manner of the common transcription API: form fields and `verbose_json`, from memory.
  it('is sent the sound as a form, and its words have the times of the file', async () => {
    let form = '';
    const address = await serve((request, response) => {
      const chunks: Buffer[] = [];
      request.on('data', (chunk: Buffer) => chunks.push(chunk));
      request.on('end', () => {
        form = Buffer.concat(chunks).toString('latin1');
        expect(request.headers.authorization).toBe('Bearer secret');
        response.end(
          JSON.stringify({
            segments: [{ start: 0, end: 1.4, text: ' Das Boot', avg_logprob: Math.log(0.8) }],
            words: [
              { word: ' Das', start: 0.1, end: 0.4 },
              { word: 'Boot', start: 0.5, end: 9 },
            ],
          }),
        );
      });
    });
    expect(await hear(address)).toEqual([
      { text: 'Das', start: 0.6, end: 0.9, confidence: expect.closeTo(0.8, 6) as number },
      { text: 'Boot', start: 1, end: 2, confidence: 0.85 },
    ]);
    for (const field of ['name="model"\r\n\r\nsmall', 'name="language"\r\n\r\nde', 'verbose_json', 'Regatta', 'RIFF'])
      expect(form).toContain(field);
  });
  it('words without times are spread over their segment', () => {
    const words = parseService(
      { segments: [{ start: 1, end: 3, text: 'Das Boot' }, { start: 'x' }, null] },
      { start: 10, end: 20 },
    );
    expect(words.map(({ text }) => text)).toEqual(['Das', 'Boot']);
    expect(words[0]!.start).toBe(11);
    expect(words[1]!.end).toBe(13);
    expect(parseService('nothing', { start: 0, end: 1 })).toEqual([]);
  });
  it('what goes wrong is said in a sentence', async () => {
    const answering = (status: number, text: string) =>
      serve((request, response) => {
        request.resume().on('end', () => response.writeHead(status).end(text));
      });
    await expect(answering(401, '').then(hear)).rejects.toThrow(/refuses the key/);
    await expect(answering(500, 'oh').then(hear)).rejects.toThrow(/refused the sound \(500\)/);
    await expect(answering(200, '<html>').then(hear)).rejects.toThrow(/not JSON/);
    await expect(hear('http://127.0.0.1:9/v1')).rejects.toThrow(/cannot be reached/);
    const silent = await serve(() => undefined);
    const stop = new AbortController();
    setTimeout(() => stop.abort(), 400);
    await expect(hear(silent, stop.signal)).rejects.toThrow(Cancelled);
  });
});
