import type { SoundChoice } from '#core/sound';
import type { Range } from '#core/time';
import type { Word } from '#core/words';

/** Something that turns speech into words. */
export interface Recogniser {
  /** Stands in the database beside what it heard. */
  name: string;
  /** Goes up when it hears better: what an earlier one heard can be heard again. */
  revision: number;
  /** Whether it can be told names and terms. */
  takesTerms: boolean;
  /** As BCP 47 tags; the first is the usual one, "und" for what is told from the sound. */
  languages: string[];
  /** Words of one stretch after another, in seconds of the file. */
  recognise(file: string, stretches: readonly Range[], options: RecogniseOptions): Promise<Word[]>;
}

interface RecogniseOptions {
  /** What of the file is heard; all of its first track when missing. */
  sound?: SoundChoice;
  /** Names and terms that may be said and are in no dictionary. */
  terms?: readonly string[];
  /** For intermediate files; emptied by the caller. */
  folder: string;
  language: string;
  signal?: AbortSignal;
  onProgress?(share: number): void;
  /** Which language it is, where it was to be told from the sound. */
  onLanguage?(tag: string): void;
}
