import { readFile, readdir, stat } from 'node:fs/promises';
import { basename, join, parse, resolve } from 'node:path';
import { importWords, WordsError, type Word } from '#core/words';
import { MediaError } from '#media/process';

/** A text with times. @throws MediaError */
export async function textOf(file: string): Promise<Word[]> {
  const text = await readFile(file, 'utf8').catch((error: unknown) => {
    throw new MediaError(`${file} cannot be read.`, { cause: error });
  });
  try {
    return importWords(text);
  } catch (error) {
    throw error instanceof WordsError ? new MediaError(`${file}: ${error.message}`, { cause: error }) : error;
  }
}

/** Endings of texts with times that can be read. */
const endings = ['.srt', '.vtt', '.ass', '.json'];

/**
 * What is said in some files, by path: of a text, when there is one file, or of a folder whose texts are named like the
 * files. @throws MediaError
 */
export async function textsOf(place: string, paths: readonly string[]): Promise<Record<string, Word[]>> {
  const found = await stat(place).catch((error: unknown) => {
    throw new MediaError(`${place} cannot be read.`, { cause: error });
  });
  if (!found.isDirectory()) {
    if (paths.length > 1)
      throw new MediaError(
        `${place} is one text for ${paths.length} files; give a folder of texts named like the files.`,
      );
    return { [resolve(paths[0]!)]: await textOf(place) };
  }
  const names = await readdir(place);
  const texts: Record<string, Word[]> = {};
  for (const path of paths) {
    const { name, base } = parse(basename(path));
    const text = names.find((each) => {
      const own = parse(each);
      return endings.includes(own.ext.toLowerCase()) && (own.name === name || own.name === base);
    });
    if (text) texts[resolve(path)] = await textOf(join(place, text));
  }
  if (Object.keys(texts).length === 0) throw new MediaError(`No text in ${place} is named like one of these files.`);
  return texts;
}
