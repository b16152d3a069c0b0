import { toast } from 'sonner';
import type { OtherLine } from './OtherTexts';
import type { ScriptState } from './PasteText';
import { mergeRuns } from '#core/merge';
import { applyWordsCommand, type Word, type WordsCommand } from '#core/words';
import { Documents, LiveDocument } from '../history/document';
import { historyOf, type Participant } from '../history/history';
import { whenChangedElsewhere } from '../ui/changesElsewhere';
import { postJson, saveQueue, type SaveQueue } from '../history/saveQueue';

export interface ShownTranscript {
  words: Word[];
  version: number;
  source: string | null;
}
/** What is known about the words besides themselves. */
export interface WordsAbout {
  /** Whether they are being heard now, by what, and what languages that knows. */
  hearing: boolean;
  recogniser: string;
  languages: string[];
  /** Whether the words that are shown would be heard better by now. */
  hearsBetter: boolean;
  language: string | null;
  /** A text that has no times yet. */
  script: ScriptState | null;
  /** Texts that stand beside this one. */
  others: OtherLine[];
}
interface WordsState {
  /** Null until it is loaded. */
  transcript: ShownTranscript | null;
  about: WordsAbout | null;
  problem: string | null;
}

/**
 * The words of a file under one's hands: an edit shows at once (by the same function that the server uses), and so does
 * a step back; both are sent in order, and kept until the server has them. What somebody else corrected elsewhere in them
 * meanwhile stays. Reels and pages show the same document.
 */
export class WordsDocument extends LiveDocument<WordsState> implements Participant {
  private readonly queue: SaveQueue<WordsCommand> | null;
  private version = 0;
  /** The words as the server has them, in that version. */
  private there: Word[] = [];
  /** How many edits the server has confirmed. */
  private confirmed = 0;
  private past: Word[][] = [];
  private future: Word[][] = [];
  private loading: Promise<void> | null = null;

  constructor(
    private readonly projectId: string,
    private readonly media: string,
  ) {
    super({ transcript: null, about: null, problem: null });
    this.queue = typeof window === 'undefined' ? null : saveQueue<WordsCommand>(`words:${media}`);
    this.queue?.whenLeft((left) => this.showLeft(left));
    this.queue?.connect({
      send: async (command) => {
        await this.need();
        return postJson(this.address, { version: this.version, command });
      },
      settle: (answer, sent) => this.settle(answer, sent),
    });
    if (this.queue) whenChangedElsewhere(() => void (this.onScreen && this.state().transcript && this.reload()));
  }

  readonly title = 'the words';
  get canUndo(): boolean {
    return this.past.length > 0;
  }
  get canRedo(): boolean {
    return this.future.length > 0;
  }

  /** Loads them if they are not there yet. */
  need(): Promise<void> {
    return this.state().transcript ? Promise.resolve() : (this.loading ??= this.reload());
  }

  /** As they stand on the server, after a text was brought in or heard; what waits here is shown on top. */
  async reload(waiting?: readonly WordsCommand[]): Promise<void> {
    await this.queue?.ready;
    const { confirmed } = this;
    const answer = await fetch(this.address).catch(() => null);
    this.loading = null;
    const loaded = answer?.ok
      ? ((await answer.json().catch(() => null)) as (ShownTranscript & WordsAbout) | null)
      : null;
    if (!loaded) return;
    // What was asked for before an edit was saved may be from before it.
    if (this.confirmed !== confirmed) return this.reload(waiting);
    const { hearing, recogniser, languages, hearsBetter, language, script = null, others } = loaded;
    this.set({ about: { hearing, recogniser, languages, hearsBetter, language, script, others } });
    this.take(loaded, waiting);
  }

  /** @param waiting what is shown on top */
  private take(
    { words, version, source }: ShownTranscript,
    waiting: readonly WordsCommand[] = this.queue?.waiting ?? [],
  ): void {
    const known = this.state().transcript;
    if (known && waiting.length > 0) return;
    if (known && version !== this.version) this.goOnFrom(words);
    [this.version, this.there] = [version, words];
    // The same as before stays the same, so that nothing is drawn anew.
    if (known && version > 0 && known.version === version) return;
    const shown = withCommands(words, waiting);
    this.set({ transcript: { words: shown, version, source } });
    if (known) correctedWords(this.projectId).put(this.media, shown);
  }

  edit(command: WordsCommand): boolean {
    const { transcript } = this.state();
    if (!transcript) return false;
    const result = applyWordsCommand(transcript.words, command);
    this.set({ problem: result.ok ? null : result.reason });
    if (!result.ok) return false;
    this.past.push(transcript.words);
    this.future = [];
    this.show(result.words);
    this.queue?.add(command);
    historyOf(this.projectId).did(this);
    return true;
  }

  undo(): boolean {
    return this.step(this.past, this.future);
  }
  redo(): boolean {
    return this.step(this.future, this.past);
  }

  forgetProblem(): void {
    this.set({ problem: null });
  }

  /** What an earlier page left, when the words are there before it; else it is shown with them. */
  private showLeft(left: readonly WordsCommand[]): void {
    const { transcript } = this.state();
    if (transcript && this.past.length + this.future.length === 0) this.show(withCommands(transcript.words, left));
  }

  private get address(): string {
    return `/media/${this.media}/words`;
  }

  private step(from: Word[][], to: Word[][]): boolean {
    const words = from.pop();
    if (!words) return false;
    to.push(this.state().transcript!.words);
    this.set({ problem: null });
    this.show(words);
    // One step back makes another that still waits void: both put all words.
    this.queue?.add({ type: 'put', words }, (waiting) => waiting.type === 'put');
    return true;
  }

  private show(words: Word[]): void {
    const { source, version } = this.state().transcript!;
    this.set({ transcript: { words, version, source: source === 'imported' ? source : 'corrected' } });
    correctedWords(this.projectId).put(this.media, words);
  }

  /** What was done here is taken back among what somebody else made of the words. */
  private goOnFrom(theirs: Word[]): void {
    const among = (steps: readonly Word[][]) => steps.flatMap((words) => [mergeRuns(this.there, words, theirs) ?? []]);
    const [past, future] = [among(this.past), among(this.future)];
    if ([...past, ...future].some((words) => words.length === 0)) return this.startAnew();
    [this.past, this.future] = [past, future];
  }

  private startAnew(): void {
    if (this.past.length + this.future.length > 0) historyOf(this.projectId).forget(this);
    this.past = [];
    this.future = [];
  }

  /**
   * Ours done to what somebody else made of the words: saved anew, on their version.
   * @returns false where both changed the same
   */
  private async joined(): Promise<boolean> {
    const [before, ours] = [this.there, this.state().transcript];
    const answer = await fetch(this.address).catch(() => null);
    const loaded = answer?.ok ? ((await answer.json().catch(() => null)) as ShownTranscript | null) : null;
    const words = ours && loaded && mergeRuns(before, ours.words, loaded.words);
    if (!words) return false;
    this.goOnFrom(loaded.words);
    this.queue!.drop();
    [this.version, this.there] = [loaded.version, loaded.words];
    this.show(words);
    if (JSON.stringify(words) !== JSON.stringify(loaded.words)) this.queue!.add({ type: 'put', words });
    return true;
  }

  private async settle(answer: Response, sent: WordsCommand): Promise<void> {
    const body = (await answer.json().catch(() => null)) as { version?: number; problem?: string | null } | null;
    if (answer.ok && body?.version !== undefined) {
      this.confirmed++;
      this.version = body.version;
      const done = applyWordsCommand(this.there, sent);
      if (done.ok) this.there = done.words;
      const { transcript } = this.state();
      if (transcript) this.set({ transcript: { ...transcript, version: body.version } });
      return;
    }
    if (answer.status === 409 && (await this.joined())) return;
    // An answer that was lost on its way makes the same edit come twice; then the words are there already.
    const ours = JSON.stringify(this.state().transcript?.words ?? []);
    this.queue!.drop();
    this.set({ transcript: null });
    await this.reload([]);
    if (JSON.stringify(this.state().transcript?.words ?? []) === ours) return;
    this.startAnew();
    const problem = body?.problem ?? 'The words could not be saved; they are shown as they stand.';
    if (this.onScreen) this.set({ problem });
    else toast.error(problem);
  }
}

/** Words after edits; one that does not fit any more is passed over. */
const withCommands = (words: Word[], commands: readonly WordsCommand[]): Word[] =>
  commands.reduce((now, command) => {
    const result = applyWordsCommand(now, command);
    return result.ok ? result.words : now;
  }, words);

/** Words of a project's files as they were corrected on this page, for whoever looks things up in them. */
class CorrectedWords extends LiveDocument<ReadonlyMap<string, Word[]>> {
  put(media: string, words: Word[]): void {
    this.replace(new Map([...this.state(), [media, words]]));
  }
}
const corrected = new Documents<CorrectedWords>();
export const correctedWords = (projectId: string): CorrectedWords =>
  corrected.get(projectId, () => new CorrectedWords(new Map()));

const documents = new Documents<WordsDocument>();
/** The words of a file on this page; always the same document. */
export const wordsDocument = (projectId: string, media: string): WordsDocument =>
  documents.get(media, () => new WordsDocument(projectId, media));
