import { readFile, readdir, stat } from 'node:fs/promises';
import { join, parse } from 'node:path';
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
export async function textsOf(
  place: string,
  files: readonly { path: string; name: string }[],
): Promise<Record<string, Word[]>> {
  const found = await stat(place).catch((error: unknown) => {
    throw new MediaError(`${place} cannot be read.`, { cause: error });
  });
  if (!found.isDirectory()) {
    if (files.length > 1)
      throw new MediaError(
        `${place} is one text for ${files.length} files; give a folder of texts named like the files.`,
      );
    return { [files[0]!.path]: await textOf(place) };
  }
  const names = await readdir(place);
  const texts: Record<string, Word[]> = {};
  for (const { path, name } of files) {
    const text = names.find(
      (each) => endings.includes(parse(each).ext.toLowerCase()) && [name, parse(name).name].includes(parse(each).name),
    );
    if (text) texts[path] = await textOf(join(place, text));
  }
  if (Object.keys(texts).length === 0) throw new MediaError(`No text in ${place} is named like one of these files.`);
  return texts;
}
