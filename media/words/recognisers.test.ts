import { chmodSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { parseCtm, parseWhisper, pocketsphinx, recognisers, whisperLike } from './recognisers';
import { speechStretches } from './speechStretches';
import { realSpeech, testFolder } from '../testMedia';

const folder = testFolder();

// Source: the recordings and their text that pocketsphinx-testdata ships (cards.transcription, 003: "seven of clubs").
it('hears a recorded sentence, with times inside the stretch', async () => {
  const words = await pocketsphinx.recognise(realSpeech('cards/003.wav'), [{ start: 0, end: 2.5 }], {
    folder: join(folder, 'cards'),
    language: 'en-US',
  });
  expect(words.map((word) => word.text).join(' ')).toContain('of clubs');
  for (const [index, word] of words.entries()) {
    expect(word.end).toBeGreaterThan(word.start);
    expect(word.start).toBeGreaterThanOrEqual(index ? words[index - 1]!.end - 0.02 : 0);
    expect(word.confidence).toBeGreaterThanOrEqual(0);
    expect(word.confidence).toBeLessThanOrEqual(1);
  }
});

// Source: CTM as NIST describes it (sctk), "name channel start length word confidence".
it('reads CTM: times from the stretch, no fillers, variants as one word', () => {
  expect(
    parseCtm(
      'stretch-1 1 0.50 0.25 read(2) 0.8\nstretch-1 1 0.80 0.1 <sil> 0.9\nstretch-1 1 1.0 0.2 [NOISE] 0.5\n',
      () => 10,
    ),
  ).toEqual(new Map([['stretch-1', [{ text: 'read', start: 10.5, end: 10.75, confidence: 0.8 }]]]));
});

it('stretches: joined over short pauses, parted when long, never over one another', () => {
  const runs = Array.from({ length: 40 }, (_, index) => ({ start: index * 2, end: index * 2 + 1.7 }));
  const stretches = speechStretches(runs, 90);
  for (const [index, stretch] of stretches.entries()) {
    expect(stretch.end - stretch.start).toBeLessThan(27);
    if (index) expect(stretch.start).toBeGreaterThanOrEqual(stretches[index - 1]!.end);
  }
  expect(stretches[0]!.start).toBe(0);
  expect(runs.every((run) => stretches.some((stretch) => stretch.start <= run.start && stretch.end >= run.end))).toBe(
    true,
  );
  expect(speechStretches([], 10)).toEqual([]);
});

describe('another recogniser on the command line', () => {
  const program = join(folder, 'hear');
  const model = join(folder, 'model.bin');
  writeFileSync(model, 'weights');
  // A small stand-in for the program: checks what it is given and writes what such programs write.
  writeFileSync(
    program,
    `#!/bin/sh
while [ $# -gt 0 ]; do case "$1" in -of) out="$2"; shift;; -l) lang="$2"; shift;; -f) wav="$2"; shift;; esac; shift; done
[ -s "$wav" ] && [ "$lang" = de ] || exit 3
echo '{"transcription":[{"text":" Das","offsets":{"from":100,"to":300},"tokens":[{"p":0.9}]},{"text":" Boo","offsets":{"from":350,"to":500},"tokens":[{"p":0.7}]},{"text":"t","offsets":{"from":500,"to":600}},{"text":" [Musik]","offsets":{"from":600,"to":900}}]}' > "$out.json"
`,
  );
  chmodSync(program, 0o755);
  it('is called for every stretch; pieces of a word are joined, times are those of the file', async () => {
    const words = await whisperLike(program, model, ['de']).recognise(
      realSpeech('cards/001.wav'),
      [{ start: 0.2, end: 1 }],
      { folder: join(folder, 'de'), language: 'de-DE' },
    );
    expect(words).toEqual([
      { text: 'Das', start: 0.30000000000000004, end: 0.5, confidence: 0.9 },
      {
        text: 'Boot',
        start: expect.closeTo(0.55, 6) as number,
        end: expect.closeTo(0.8, 6) as number,
        confidence: 0.7,
      },
    ]);
  });
  it('says in a sentence what is missing', async () => {
    await expect(
      whisperLike('/nowhere/hear', model, ['de']).recognise('x.wav', [{ start: 0, end: 1 }], {
        folder,
        language: 'de',
      }),
    ).rejects.toThrow(/is not there\. Correct BRIGHT_REEL_WHISPER/);
    await expect(
      whisperLike(program, '/nowhere/model', ['de']).recognise('x.wav', [{ start: 0, end: 1 }], {
        folder,
        language: 'de',
      }),
    ).rejects.toThrow(/speech model/);
  });
  it('comes first where it is configured, and offers its languages', () => {
    expect(recognisers({}).map((each) => each.name)).toEqual(['pocketsphinx']);
    const both = recognisers({
      BRIGHT_REEL_WHISPER: program,
      BRIGHT_REEL_WHISPER_MODEL: model,
      BRIGHT_REEL_WHISPER_LANGUAGES: 'de, fr',
    });
    expect(both.map((each) => each.languages)).toEqual([['de', 'fr'], ['en-US']]);
  });
  it('reads empty answers', () => expect(parseWhisper('{}', 0)).toEqual([]));
});
