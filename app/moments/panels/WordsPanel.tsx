import { BookA, ClipboardPaste, Ear, ListChecks, RotateCcw, Users } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { Link, useFetcher } from 'react-router';
import { isDoubtful, sentences, stretchOfWords, type Word } from '#core/words';
import type { Range } from '#core/time';
import { counted, listOf } from '#core/sentences';
import type { ImportQuestion } from '#usecases/words';
import { wordsDocument, type WordsAbout } from '../../words/wordsDocument';
import { Button, inputLook } from '../../ui/controls';
import { LongList } from '../../ui/LongList';
import { useLatest } from '../../ui/useLatest';
import { SpokenSentence, type SentenceHands } from './SpokenSentence';
import { ImportAsk, languageName, OtherTexts, sourceWords } from '../../words/OtherTexts';
import { PasteText, ScriptLine } from '../../words/PasteText';
import { SpeakersForm } from '../../words/SpeakersForm';
import { TermsForm } from '../../words/TermsForm';
import { TextFileButton } from '../../words/TextFileButton';
import { readText } from '../../words/readText';
import { useSpeakers, voiceName, type Speakers, type Speaker } from '../../words/useSpeakers';
import { useWordChoice } from '../../words/useWordChoice';
import { repeatedly } from '../../ui/repeatedly';

const noWords: readonly Word[] = [];

interface WordsPanelProps {
  projectId: string;
  media: string;
  name: string;
  /** Time in the file. */
  seconds: number;
  onSeek(seconds: number): void;
  /** What can be done with chosen words: they become the marked stretch, and what acts on it acts on them. */
  onMark(range: Range): void;
  onKeep(): void;
  onDrop(): void;
  onAppend(): void;
  /** Whether what is marked on the page was drawn over here. */
  isMarked: boolean;
  /** Goes through the doubtful words. */
  onReview(): void;
}

/** The words of the file under the playhead, sentence by sentence: click to go there, double-click to correct. */
export function WordsPanel(props: WordsPanelProps) {
  const { projectId, media, name, seconds, onSeek, onReview } = props;
  const sender = useFetcher<{ problem: string | null; ask?: ImportQuestion; before?: string | null }>();
  /** A text that was chosen, until the question about it is answered. */
  const [chosen, setChosen] = useState<{ name: string; text: string } | null>(null);
  /** The text that the last change took the place of. */
  const [replaced, setReplaced] = useState<string | null>(null);
  const wentBack = useRef(false);
  /** Which forms are open. */
  const [open, setOpen] = useState({ pasting: false, names: false, speakers: false });
  const speakers = useSpeakers(media);
  /** The stretch that was drawn over last. */
  const [drawn, setDrawn] = useState<Range | null>(null);
  /** Why a file that was chosen is no text. */
  const [unread, setUnread] = useState<string | null>(null);
  const address = `/media/${media}/words`;
  const document = useMemo(() => wordsDocument(projectId, media), [projectId, media]);
  const state = useSyncExternalStore(document.subscribe, document.state, document.state);
  const { transcript, about } = state;
  const leaveNames = useCallback(() => {
    setOpen((now) => ({ ...now, names: false }));
    void document.reload();
  }, [document]);
  useEffect(() => void document.reload(), [document]);
  const hearing = about?.hearing ?? false;
  const asksAgain = !about || hearing || Boolean(about.script);
  useEffect(() => {
    if (!asksAgain) return;
    return repeatedly(() => document.reload(), 3000);
  }, [asksAgain, document]);
  const words = transcript?.words ?? noWords;
  const send = (values: Record<string, string>) =>
    void sender.submit({ ...values, version: String(transcript?.version ?? 0) }, { method: 'post', action: address });
  const answer = sender.state === 'idle' ? sender.data : undefined;
  useEffect(() => {
    if (answer) void document.reload();
    // What was brought in is there, or was refused; only a question keeps the file.
    if (answer && !answer.ask) setChosen(null);
    if (answer && !answer.problem) setOpen((now) => ({ ...now, pasting: false }));
    // Going back needs no way back of its own: all texts stand in the list.
    setReplaced(wentBack.current ? null : (answer?.before ?? null));
  }, [answer, document]);
  const bringIn = (file: { name: string; text: string }, more: Record<string, string> = {}) => {
    wentBack.current = false;
    setUnread(null);
    setChosen(file);
    send({ intent: 'import', ...file, ...more });
  };
  const bringInFile = (file: File) =>
    readText(file).then(
      (text) => bringIn(text),
      (error: Error) => setUnread(error.message),
    );
  const problem = unread ?? state.problem ?? (sender.state === 'idle' ? sender.data?.problem : null);
  const source = transcript?.source;
  return (
    <div className="flex min-h-full flex-col">
      {problem && (
        <p role="alert" className="mb-2 rounded-md bg-raised px-3 py-2 text-shake">
          {problem}
        </p>
      )}
      {answer?.ask && chosen && (
        <ImportAsk
          name={chosen.name}
          ask={answer.ask}
          onAnswer={(language) => (language === null ? setChosen(null) : bringIn(chosen, { anyway: 'true', language }))}
        />
      )}
      {open.pasting && (
        <PasteText
          onGive={(text) => bringIn({ name: '', text })}
          onLeave={() => setOpen({ ...open, pasting: false })}
        />
      )}
      {open.names && <TermsForm projectId={projectId} onLeave={leaveNames} />}
      {open.speakers && (
        <SpeakersForm speakers={speakers} onSeek={onSeek} onLeave={() => setOpen({ ...open, speakers: false })} />
      )}
      {about?.script && (
        <ScriptLine
          script={about.script}
          onAgain={() => send({ intent: 'align' })}
          onLeave={() => send({ intent: 'leave' })}
        />
      )}
      {words.length > 0 && (
        <p className="mb-2 text-xs text-muted">
          {name}: {counted(words.length, 'word')}
          {about?.language ? ` in ${languageName(about.language)}` : ''}, {sourceWords(source)}
          {aboutDoubts(words)}
        </p>
      )}
      {about && about.others.length > 0 && (
        <OtherTexts
          others={about.others}
          replaced={replaced}
          onShow={(other) => {
            wentBack.current = true;
            send({ intent: 'again', other });
          }}
        />
      )}
      {!about ? (
        <p className="text-muted">Looking for words…</p>
      ) : (
        words.length === 0 && (
          <p className="text-muted">
            {hearing
              ? 'The recording is being transcribed; its words show here as soon as they are known.'
              : 'No words yet. Transcribe the recording, or bring in a text, with times (SRT, WebVTT, ASS, JSON, CSV) or without.'}
          </p>
        )
      )}
      {!open.pasting && !open.names && (
        <Sentences
          words={words}
          seconds={seconds}
          onSeek={onSeek}
          onMark={(range) => {
            setDrawn(range);
            props.onMark(range);
          }}
          isMarked={props.isMarked}
          speakers={speakers}
          onCorrect={(from, to, text) => document.edit({ type: 'correct', from, to, text })}
        />
      )}
      {props.isMarked && <MarkedWords {...props} range={drawn} speakers={speakers} />}
      <WordsTools
        words={words}
        about={about}
        source={source}
        isHidden={props.isMarked}
        open={open}
        onOpen={setOpen}
        onFile={(file) => void bringInFile(file)}
        onReview={onReview}
        onSend={send}
      />
    </div>
  );
}

/** Which of the forms above the words are open. */
interface OpenForms {
  pasting: boolean;
  names: boolean;
  speakers: boolean;
}

interface WordsToolsProps {
  words: readonly Word[];
  about: WordsAbout | null;
  source: string | null | undefined;
  /** While words are marked, what can be done with them stands here instead. */
  isHidden: boolean;
  open: OpenForms;
  onOpen(open: OpenForms): void;
  onFile(file: File): void;
  onReview(): void;
  onSend(values: Record<string, string>): void;
}

/** What can be done with the words of a file as a whole. */
function WordsTools({ words, about, source, isHidden, open, onOpen, onFile, onReview, onSend }: WordsToolsProps) {
  return (
    <div
      hidden={isHidden}
      className="sticky -bottom-3 mt-auto flex flex-wrap gap-2 bg-panel pb-3 pt-2 [&[hidden]]:hidden"
    >
      <TextFileButton onFile={onFile} />
      {words.some(isDoubtful) && (
        <Button command="reviewWords" onClick={onReview}>
          <ListChecks size={15} aria-hidden /> Review
        </Button>
      )}
      {!open.pasting && (
        <Button onClick={() => onOpen({ ...open, pasting: true })}>
          <ClipboardPaste size={15} aria-hidden /> Paste a text
        </Button>
      )}
      {words.length > 0 && !open.speakers && (
        <Button onClick={() => onOpen({ ...open, speakers: true })}>
          <Users size={15} aria-hidden /> Speakers
        </Button>
      )}
      {!open.names && (
        <Button onClick={() => onOpen({ ...open, names: true })}>
          <BookA size={15} aria-hidden /> Names and terms
        </Button>
      )}
      {about && !about.hearing && hearsAnew(about, source) && (
        <HearForm
          recogniser={about.recogniser}
          languages={about.languages}
          again={Boolean(source)}
          onHear={(language) => onSend({ intent: 'hear', language })}
        />
      )}
      {isByHand(source) && (
        <Button onClick={() => onSend({ intent: 'reset' })}>
          <RotateCcw size={15} aria-hidden /> Back to what was heard
        </Button>
      )}
    </div>
  );
}

const isByHand = (source: string | null | undefined): boolean => source === 'corrected' || source === 'imported';
/** Whether hearing can be asked for: where nothing is heard yet, or it would be heard better, or in another language. */
const hearsAnew = (
  { languages, hearsBetter }: { languages: readonly string[]; hearsBetter: boolean },
  source: string | null | undefined,
): boolean => !source || ((languages.length > 1 || hearsBetter) && !isByHand(source));

/** What can be done with words that are drawn over. */
function MarkedWords({
  range,
  speakers,
  onKeep,
  onDrop,
  onAppend,
}: Pick<WordsPanelProps, 'onKeep' | 'onDrop' | 'onAppend'> & { range: Range | null; speakers: Speakers }) {
  const voices = speakers.known?.voices ?? [];
  return (
    <div
      role="group"
      aria-label="The marked words"
      className="sticky -bottom-3 mt-auto flex flex-wrap gap-2 bg-panel pb-3 pt-2"
    >
      <Button command="keep" onClick={onKeep}>
        Keep
      </Button>
      <Button command="drop" onClick={onDrop}>
        Drop
      </Button>
      <Button command="append" onClick={onAppend}>
        Append to the reel
      </Button>
      {range && voices.length > 0 && (
        <select
          aria-label="Who says the marked words"
          value=""
          className={`w-24 ${inputLook}`}
          onChange={({ target: { value } }) =>
            speakers.send({ intent: 'change', ...range, ...(value === 'new' ? {} : { voice: value }) })
          }
        >
          <option value="">Said by…</option>
          {voices.map((line) => (
            <option key={line.voice} value={line.voice}>
              {voiceName(line)}
            </option>
          ))}
          <option value="new">somebody else</option>
        </select>
      )}
    </div>
  );
}

/** What of the words is to be looked at, as the end of a sentence; nothing where all of them are sure. */
function aboutDoubts(words: readonly Word[]): string {
  const doubtful = words.filter(isDoubtful).length;
  const leftOut = words.reduce((sum, { unsaid }) => sum + (unsaid ? unsaid.split(' ').length : 0), 0);
  const added = words.filter(({ differs }) => differs === 'added').length;
  const parts = [
    doubtful > 0 && `${doubtful} of them doubtful, dotted`,
    added > 0 && `${added} besides the text`,
    leftOut > 0 && `${counted(leftOut, 'word')} of the text not said, struck out`,
  ].filter((part) => part !== false);
  return parts.length > 0 ? `; ${listOf(parts)}` : '';
}

interface SentencesProps {
  words: readonly Word[];
  /** The playhead, in seconds of the file. */
  seconds: number;
  onSeek(seconds: number): void;
  onMark(range: Range): void;
  isMarked: boolean;
  speakers: Speakers;
  onCorrect(from: number, to: number, text: string): void;
}

/** All that is said, sentence by sentence; the one that is being said stands in the middle. */
function Sentences({ words, seconds, isMarked, speakers, ...does }: SentencesProps) {
  const spoken = useMemo(() => sentences(words), [words]);
  const here = spoken.findLastIndex((each) => each.start <= seconds + 0.05);
  /** Index of the first word of the sentence that is being corrected. */
  const [editing, setEditing] = useState<number | null>(null);
  const latest = useLatest({ words, ...does });
  const hands = useMemo(
    (): SentenceHands => ({
      onSeek: (to) => latest.current.onSeek(to),
      onEdit: setEditing,
      onCorrect: ({ from, to }, text) => {
        setEditing(null);
        latest.current.onCorrect(from, to, text);
      },
    }),
    [latest],
  );
  const { choice, boxProps } = useWordChoice({
    count: words.length,
    onGo: () => undefined,
    onDrawn: ({ from, to }) => does.onMark(stretchOfWords(words, from, to)),
  });
  const { speakerAt } = speakers;
  const said = useMemo(() => spoken.map((each) => speakerAt(each)), [spoken, speakerAt]);
  const chosen = isMarked && choice && choice.to - choice.from > 1 ? choice : null;
  return (
    <div {...boxProps} tabIndex={-1} className="outline-none">
      <LongList
        label="What is said"
        items={spoken}
        keyOf={(each) => each.from}
        height={76}
        current={here}
        align="center"
        held={editing === null ? -1 : spoken.findIndex((each) => each.from === editing)}
      >
        {(each, index) => (
          <SpokenSentence
            sentence={each}
            words={words}
            seconds={index === here ? seconds : null}
            editing={each.from === editing}
            chosenFrom={chosen ? Math.max(chosen.from, each.from) : 0}
            chosenTo={chosen ? Math.min(chosen.to, each.to) : 0}
            speaker={beginsToSpeak(said[index], said[index - 1])}
            hands={hands}
          />
        )}
      </LongList>
    </div>
  );
}

/** Whose name stands above a sentence: that of somebody else than before, and where two speak at once. */
const beginsToSpeak = (now: Speaker | null | undefined, before: Speaker | null | undefined): Speaker | null =>
  now && (now.voice !== before?.voice || now.together.length > 0) ? now : null;

/** Asks to hear the words; the language is offered where the recogniser has more than one. */
function HearForm({
  recogniser,
  languages,
  again,
  onHear,
}: {
  recogniser: string;
  languages: string[];
  again: boolean;
  onHear(language: string): void;
}) {
  const [language, setLanguage] = useState(languages[0]!);
  return (
    <span className="flex items-center gap-2">
      <Button onClick={() => onHear(language)}>
        <Ear size={15} aria-hidden /> {again ? 'Transcribe again' : 'Transcribe'}
      </Button>
      {languages.length > 1 ? (
        <select
          aria-label="Language that is spoken"
          value={language}
          onChange={(event) => setLanguage(event.target.value)}
          className={inputLook}
        >
          {languages.map((tag) => (
            <option key={tag} value={tag}>
              {languageName(tag)}
            </option>
          ))}
        </select>
      ) : (
        <span className="text-xs text-muted">
          in {languageName(language)}; {recogniser} has no other language.{' '}
          <Link to="/speech-models" className="underline hover:text-text">
            Bring a speech model
          </Link>
        </span>
      )}
    </span>
  );
}
