import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { speechRuns } from '#core/sound';
import { pocketsphinx } from '../../media/words/recognisers';
import { speechStretches } from '../../media/words/speechStretches';
import { ffmpeg, realSpeech } from '../../media/testMedia';
import { firstTrack } from '../../core/sound';
import { voiceOf } from '../../media/nets/voiceDetector';
import { add } from './table';

/** Word errors: substitutions, insertions and deletions (Levenshtein 1966) over the number of words said. */
function wordErrors(said: readonly string[], heard: readonly string[]): number {
  let row = Array.from({ length: heard.length + 1 }, (_, index) => index);
  for (const [i, word] of said.entries()) {
    const next = [i + 1];
    for (const [j, other] of heard.entries())
      next.push(Math.min(next[j]! + 1, row[j + 1]! + 1, row[j]! + (word === other ? 0 : 1)));
    row = next;
  }
  return row.at(-1)!;
}

/** Five recorded sentences joined with pauses, through our speech runs, and each alone through the recogniser. */
export async function checkWords(folder: string): Promise<void> {
  const lines = readFileSync(realSpeech('librivox/transcription'), 'utf8')
    .trim()
    .split('\n')
    .map((line) => /<s> (.*) <\/s> \((.*)\)/.exec(line)!);
  const files = lines.map(([, , name]) => realSpeech(`librivox/${name}.wav`));
  const said = lines.flatMap(([, text]) => text!.split(' '));
  const joined = join(folder, 'joined.wav');
  const graph = `${files.map((_, index) => `[${index}:a]apad=pad_dur=1.2[a${index}]`).join(';')};${files.map((_, index) => `[a${index}]`).join('')}concat=n=${files.length}:v=0:a=1`;
  ffmpeg(...files.flatMap((file) => ['-i', file]), '-filter_complex', graph, '-ar', '16000', '-ac', '1', joined);
  const voice = await voiceOf(joined, firstTrack);
  const duration = voice.values.length / voice.hz;
  const heard = await pocketsphinx.recognise(
    joined,
    speechStretches(speechRuns(voice.values, voice.hz, duration), duration),
    { folder: join(folder, 'words'), language: 'en-US' },
  );
  const alone = files.flatMap((file) =>
    execFileSync('pocketsphinx_continuous', ['-infile', file, '-logfn', '/dev/null']).toString().trim().split(/\s+/),
  );
  const ours =
    wordErrors(
      said,
      heard.map((word) => word.text),
    ) / said.length;
  const theirs = wordErrors(said, alone) / said.length;
  add({
    reading: 'words',
    what: `word errors over ${said.length} words`,
    ours: `${(ours * 100).toFixed(1)} %`,
    reference: `${(theirs * 100).toFixed(1)} % recogniser alone`,
    wanted: 'no worse',
    reached: ours <= theirs + 1e-9,
    source: 'librivox sentences of pocketsphinx-testdata',
  });
}
