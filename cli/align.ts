import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { guessLanguage, scriptWords, type Word } from '#core/words';
import { MediaError } from '#media/process';
import { alignScript } from '#media/words/align';
import { recognisers } from '#media/words/recognisers';
import { speechStretches } from '#media/words/speechStretches';
import { roundedWords, spokenIn } from './spoken';

/** Half of the way is what is heard without the text: it tells whether the text is that of the file, and what was said besides. */
const overhearing = 0.6;

/** The words of a plain text with the times at which they are said in a file. */
export async function align(
  file: string,
  textFile: string,
  wanted: string | undefined,
  onProgress: (share: number) => void = () => undefined,
): Promise<{ language: string; leftOut: number; added: number; otherwise: number; words: Word[] }> {
  const text = await readFile(textFile, 'utf8');
  const script = scriptWords(text);
  if (script.length === 0) throw new MediaError('The text holds no words.');
  const language = wanted ?? guessLanguage(text, textFile) ?? 'en';
  const folder = await mkdtemp(join(tmpdir(), 'bright-reel-'));
  try {
    const { sound, speech, duration } = await spokenIn(file);
    const own = recognisers().find((each) =>
      each.languages.some((tag) => tag.split('-')[0] === language.split('-')[0]),
    );
    const overheard = own
      ? await own.recognise(file, speechStretches(speech, duration), {
          folder: join(folder, 'overheard'),
          sound,
          language,
          onProgress: (share) => onProgress(share * overhearing),
        })
      : [];
    const { words, ...counts } = await alignScript(file, script, overheard, {
      within: { start: 0, end: duration },
      speech,
      folder: join(folder, 'aligned'),
      language,
      sound,
      onProgress: (share) => onProgress(overhearing + share * (1 - overhearing)),
    });
    return { language, ...counts, words: roundedWords(words) };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
