import { counted, formatSize, listOf } from '#core/sentences';
import type { SpeechModelsData } from '#usecases/speechModels';

type Model = SpeechModelsData['models'][number];

/** What the place says that shows what words are heard with. */
export const speechModelWords = {
  title: 'Words',
  back: 'All projects',
  heardWith: (name: string | null) => `heard with ${name ?? 'no speech model'}`,
  about:
    'Words are heard on this machine. A speech model that you have, of the kind that whisper.cpp reads (“ggml-….bin”), hears more languages and makes fewer mistakes. Words that are there already stay; under “Words” of a file they can be transcribed again.',
  drop: 'Drop a speech model here, or',
  dropHere: 'Let go to bring the speech model in.',
  choose: 'Choose a file…',
  chooseLabel: 'Speech model to bring in',
  laid: (folder: string) =>
    `On the server it may also be laid into the folder “${folder}” of its data; it is found there by itself.`,
  list: 'What words are heard with',
  without: (name: string) => `No speech model: ${name}`,
  use: (name: string) => `Hear words with ${name}`,
  remove: (name: string) => `Remove ${name}`,
  question: (name: string) => `Remove the speech model ${name}?`,
  says: 'Its file is deleted here. Words that were heard with it stay.',
  facts: ({ size, precision, bytes }: Model) =>
    [size ? `of the size “${size}”` : null, precision, formatSize(bytes)].filter((part) => part !== null).join(', '),
  languages: (names: readonly string[]) => (names.length > 3 ? counted(names.length, 'language') : listOf(names)),
  allLanguages: (names: readonly string[]) => `${names.join(', ')}.`,
  pace: (pace: number | null) =>
    pace === null
      ? 'It is being tried; that takes a moment.'
      : `An hour of speech takes about ${pace >= 1 / 60 ? counted(Math.round(pace * 60), 'minute') : 'a minute'} here.`,
};
