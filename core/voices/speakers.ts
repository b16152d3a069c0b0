import type { VoiceTurn } from './turns';

/** Who speaks when in a file, and what its voices are called, by their number. */
interface FileSpeakers {
  media: string;
  turns: readonly VoiceTurn[];
  names: Readonly<Record<string, string>>;
}

/** The speakers of several files, each once. */
interface ProjectSpeakers {
  /** What each is called; null for a voice that has no name. */
  names: (string | null)[];
  /** Turns of a file; their voices are indices into `names`. */
  turnsOf(media: string): readonly VoiceTurn[];
}

/**
 * Speakers of several files in the order in which they come: files as they are given, voices as they are numbered. Voices of
 * the same name are one person; voices without a name are one each, since nothing tells that two files share one.
 */
export function speakersOf(files: readonly FileSpeakers[]): ProjectSpeakers {
  const names: (string | null)[] = [];
  const byName = new Map<string, number>();
  const known = new Map<string, VoiceTurn[]>();
  for (const { media, turns, names: own } of files) {
    const numbers = new Map<number, number>();
    for (const voice of [...new Set(turns.map((turn) => turn.voice))].sort((a, b) => a - b)) {
      const name = own[voice] ?? null;
      const number = (name === null ? undefined : byName.get(name)) ?? names.push(name) - 1;
      if (name !== null) byName.set(name, number);
      numbers.set(voice, number);
    }
    known.set(
      media,
      turns.map(({ start, end, voice }) => ({ start, end, voice: numbers.get(voice)! })),
    );
  }
  return { names, turnsOf: (media) => known.get(media) ?? [] };
}
