import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { firstTrack, type SoundChoice } from '#core/sound';
import type { Range } from '#core/time';
import {
  anchorsOf,
  canBeSaid,
  firmAnchors,
  gapsBetween,
  gapsInSpeech,
  searchOf,
  languageModelOf,
  pieceGrammar,
  settleScript,
  spokenWord,
  strayPrefix,
  type AlignedWords,
  type AlignmentGap,
  type Anchor,
  type FittedSound,
  type ScriptWord,
  type Word,
} from '#core/words';
import { MediaError } from '../process';
import { pronounce, type Pronunciations } from './pronounce';
import { decodeSound, inParts, parseSegments, runSphinx } from './sphinx';
import { speechStretches } from './speechStretches';

interface AlignOptions {
  /** In which the text is said, in seconds of the file. */
  within: Range;
  /** Stretches in which somebody speaks. */
  speech: readonly Range[];
  /** For intermediate files; emptied by the caller. */
  folder: string;
  /** BCP 47. */
  language: string;
  sound?: SoundChoice;
  signal?: AbortSignal;
  onProgress?(share: number): void;
}

/** Of the time, what hearing by the text takes; the rest is the search in gaps. */
const hearingShare = 0.7;

/**
 * Finds when the words of a text are said. The sound is heard by somebody who follows the text: the recogniser with a language
 * model of nothing else. Where what it hears agrees with the text, the words have their times; between these anchors the text is
 * fitted to the sound as a grammar in which words may be missing and others may be said (after Moreno, Joerg, Van Thong and Glickman 1998, “A
 * recursive algorithm for the forced alignment of very long audio segments”).
 * @param overheard what was heard in the file without the text
 * @throws MediaError when nothing of the text can be found
 */
export async function alignScript(
  file: string,
  script: readonly ScriptWord[],
  overheard: readonly Word[],
  { within, speech, folder, language, sound = firstTrack, signal, onProgress }: AlignOptions,
): Promise<AlignedWords> {
  await decodeSound(file, folder, sound, signal);
  const pronunciations = await pronounce(
    script.map(({ text }) => text),
    language,
    folder,
    signal,
  );
  const inside = speech.flatMap((run) => {
    const range = { start: Math.max(run.start, within.start), end: Math.min(run.end, within.end) };
    return range.end > range.start ? [range] : [];
  });
  const hearer = new Hearer(script, pronunciations, folder, signal);
  const listened = await hearer.follow(speechStretches(inside, within.end), (share) =>
    onProgress?.(share * hearingShare),
  );
  const texts = (words: readonly { text: string }[]) => words.map(({ text }) => text);
  const firm = firmAnchors(anchorsOf(texts(script), texts(listened)), listened);
  const isOwn = language.toLowerCase().startsWith('en');
  const found = firm.map(({ heard }) => listened[heard]!);
  if (firm.length === 0 || (isOwn && !canBeSaid(found, overheard)))
    throw new MediaError(
      'Nothing of this text was heard in the recording. Is it the right one, and in the right language?',
    );
  const gaps = gapsInSpeech(gapsBetween(script.length, listened, firm, within), inside);
  const placed = await hearer.search(gaps, firm, listened, within, (share) =>
    onProgress?.(hearingShare + share * (1 - hearingShare)),
  );
  return settleScript(script, listened, firm, gaps, placed, isOwn ? overheard : [], inside, isOwn);
}

/** A gap is searched a little way into the words on both sides, in seconds, since these may be cut short. */
const reach = 0.02;
/** So many seconds of sound in one process: its dictionary is loaded once for them, and there is progress to show. */
const partSeconds = 120,
  searchSeconds = 25;
/** What words that are left out and sounds that are said besides the text cost; the rates at which they are told from the text best in recorded prompts. */
const looseness = { closely: { leftOut: 0.001, added: 0.0003 }, 'for words': { leftOut: 0.001, added: 0 } };
/** A grammar costs what it says, not its sixth power, and nothing is given up before the words fit. */
const fitting = ['-lw', '1', '-beam', '1e-100', '-wbeam', '1e-80', '-pbeam', '1e-100'];
/** The second and third pass through what is heard do not better the anchors, and take as long again. */
const following = ['-fwdflat', 'no', '-bestpath', 'no'];

/** Listens by the text. */
class Hearer {
  private readonly names = new Map<string, string>();

  constructor(
    private readonly script: readonly ScriptWord[],
    private readonly pronunciations: Pronunciations,
    private readonly folder: string,
    private readonly signal: AbortSignal | undefined,
  ) {
    for (const { text } of script) {
      const word = spokenWord(text);
      if (pronunciations.has(word) && !this.names.has(word)) this.names.set(word, `v${this.names.size}`);
    }
  }

  private own(name: string): string {
    return join(this.folder, name);
  }

  /** What is heard in the stretches by a language model of the text alone. */
  async follow(stretches: readonly Range[], onProgress: (share: number) => void): Promise<Word[]> {
    const said = this.script.flatMap(({ text }) => this.names.get(spokenWord(text)) ?? []);
    if (said.length === 0 || stretches.length === 0) return [];
    await writeFile(this.own('text.arpa'), languageModelOf(said));
    await writeFile(this.own('text.dict'), this.rows([...this.names]));
    const words = new Map([...this.names].map(([word, name]) => [name, word]));
    const named = stretches.map((stretch, at) => ({ ...stretch, name: `s${at}` }));
    const args = ['-dict', this.own('text.dict'), '-lm', this.own('text.arpa'), ...following];
    const heard: Word[] = [];
    await inParts(named, partSeconds, onProgress, async (part, name, onSeconds) => {
      const { segments } = await runSphinx(this.folder, name, part, args, this.signal, onSeconds);
      const found = parseSegments(segments);
      for (const { name: stretch, start } of part)
        for (const segment of found.get(stretch) ?? []) {
          const text = words.get(segment.word.replace(/\(\d+\)$/, ''));
          if (text !== undefined)
            heard.push({ text, start: start + segment.start, end: start + segment.end, confidence: 1 });
        }
    });
    return heard.sort((a, b) => a.start - b.start);
  }

  /** Where in each gap the words of the text are; those on both sides are fitted with them, and left where they were. */
  async search(
    gaps: readonly AlignmentGap[],
    firm: readonly Anchor[],
    listened: readonly Word[],
    within: Range,
    onProgress: (share: number) => void,
  ): Promise<Map<number, FittedSound[]>> {
    const heardAs = new Map(firm.map(({ script, heard }) => [script, listened[heard]!]));
    const phones = [...new Set([...this.pronunciations.values()].flat().flatMap((row) => row.split(' ')))].sort();
    const pieces = gaps.filter(searchOf).map((gap) => ({
      name: `g${gap.from}`,
      gap,
      first: Math.max(0, gap.from - 1),
      last: Math.min(this.script.length - 1, gap.to),
      start: Math.max(within.start, (heardAs.get(gap.from - 1)?.start ?? gap.start) - reach),
      end: Math.min(within.end, (heardAs.get(gap.to)?.end ?? gap.end) + reach),
    }));
    const placed = new Map<number, FittedSound[]>();
    await inParts(pieces, searchSeconds, onProgress, async (part, name, onSeconds) => {
      const rows: [string, string][] = [];
      for (const { name: grammar, gap, first, last } of part) {
        const words: string[] = [];
        for (let at = first; at <= last; at++) {
          const word = spokenWord(this.script[at]!.text);
          if (!this.pronunciations.has(word)) continue;
          rows.push([word, `w${at}`]);
          words.push(`w${at}`);
        }
        await writeFile(this.own(`${grammar}.fsg`), pieceGrammar(grammar, words, phones, looseness[searchOf(gap)!]));
      }
      const strays = phones.map((phone) => `${strayPrefix}${phone} ${phone}\n`).join('');
      await writeFile(this.own(`${name}.dict`), `${this.rows(rows)}${strays}`);
      await writeFile(this.own(`${name}.grammars`), part.map((piece) => `${piece.name}\n`).join(''));
      const grammars = ['-fsg', this.own(`${part[0]!.name}.fsg`), '-fsgctl', this.own(`${name}.grammars`)];
      const args = [
        '-dict',
        this.own(`${name}.dict`),
        ...grammars,
        '-fsgdir',
        this.folder,
        '-fsgext',
        '.fsg',
        ...fitting,
      ];
      const { segments } = await runSphinx(this.folder, name, part, args, this.signal, onSeconds);
      const found = parseSegments(segments);
      for (const piece of part) {
        const places = (found.get(piece.name) ?? []).flatMap(({ word, start, end }): FittedSound[] => {
          const index = /^w(\d+)/.exec(word)?.[1];
          const range = { start: piece.start + start, end: piece.start + end };
          if (index !== undefined) return [{ word: Number(index), ...range }];
          return word.startsWith(strayPrefix) ? [{ word: null, ...range }] : [];
        });
        placed.set(piece.gap.from, places);
      }
    });
    return placed;
  }

  /** Lines of a dictionary: each word under its name, with all its pronunciations. */
  private rows(named: Iterable<[string, string]>): string {
    let text = '';
    for (const [word, name] of named)
      for (const [variant, row] of this.pronunciations.get(word)!.entries())
        text += `${name}${variant > 0 ? `(${variant + 1})` : ''} ${row}\n`;
    return text;
  }
}
