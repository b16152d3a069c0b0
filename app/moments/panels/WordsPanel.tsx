import { Ear, FileInput, RotateCcw } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { useFetcher } from 'react-router';
import { sentences, type Word } from '#core/words';
import type { ImportQuestion } from '#usecases/words';
import { wordsDocument } from '../../words/wordsDocument';
import { Button, inputLook } from '../../ui/controls';
import { scrollWithin } from '../../ui/scrollWithin';
import { SpokenSentence } from './SpokenSentence';
import { ImportAsk, languageName, OtherTexts, sourceWords, type OtherLine } from '../../words/OtherTexts';

interface Loaded {
  words: Word[];
  source: string | null;
  version: number;
  hearing: boolean;
  recogniser: string;
  languages: string[];
  language: string | null;
  others: OtherLine[];
}

interface WordsPanelProps {
  projectId: string;
  media: string;
  name: string;
  /** Time in the file. */
  seconds: number;
  onSeek(seconds: number): void;
}

/** The words of the file under the playhead, sentence by sentence: click to go there, double-click to correct. */
export function WordsPanel({ projectId, media, name, seconds, onSeek }: WordsPanelProps) {
  const loader = useFetcher<Loaded>({ key: `words-${media}` });
  const sender = useFetcher<{ problem: string | null; ask?: ImportQuestion; before?: string | null }>();
  /** A text that was chosen, until the question about it is answered. */
  const [chosen, setChosen] = useState<{ name: string; text: string } | null>(null);
  const picker = useRef<HTMLInputElement>(null);
  /** The text that the last change took the place of. */
  const [replaced, setReplaced] = useState<string | null>(null);
  const wentBack = useRef(false);
  const current = useRef<HTMLParagraphElement>(null);
  const address = `/media/${media}/words`;
  const { load } = loader;
  useEffect(() => void load(address), [load, address]);
  const hearing = loader.data?.hearing ?? false;
  useEffect(() => {
    if (!hearing) return;
    const timer = setInterval(() => void load(address), 3000);
    return () => clearInterval(timer);
  }, [hearing, load, address]);
  const document = useMemo(() => wordsDocument(projectId, media), [projectId, media]);
  const { transcript, problem: editProblem } = useSyncExternalStore(document.subscribe, document.state, document.state);
  useEffect(() => {
    if (loader.data) document.take(loader.data);
  }, [document, loader.data]);
  const words = useMemo(() => transcript?.words ?? loader.data?.words ?? [], [transcript, loader.data]);
  const spoken = useMemo(() => sentences(words), [words]);
  const here = spoken.findLastIndex((each) => each.start <= seconds + 0.05);
  useEffect(() => scrollWithin(current.current), [here]);
  const send = (values: Record<string, string>) =>
    void sender.submit({ ...values, version: String(transcript?.version ?? 0) }, { method: 'post', action: address });
  const answer = sender.state === 'idle' ? sender.data : undefined;
  useEffect(() => {
    // What was brought in is there, or was refused; only a question keeps the file.
    if (answer && !answer.ask) setChosen(null);
    // Going back needs no way back of its own: all texts stand in the list.
    setReplaced(wentBack.current ? null : (answer?.before ?? null));
  }, [answer]);
  const bringIn = (file: { name: string; text: string }, more: Record<string, string> = {}) => {
    wentBack.current = false;
    setChosen(file);
    send({ intent: 'import', ...file, ...more });
  };
  const problem = editProblem ?? (sender.state === 'idle' ? sender.data?.problem : null);
  const source = transcript?.source ?? loader.data?.source;
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
      {words.length > 0 && (
        <p className="mb-2 text-xs text-muted">
          {name}: {words.length} words{loader.data?.language ? ` in ${languageName(loader.data.language)}` : ''},{' '}
          {sourceWords(source)}
          {source !== 'corrected' && source !== 'imported' && '; dotted ones are doubtful'}
        </p>
      )}
      {loader.data && loader.data.others.length > 0 && (
        <OtherTexts
          others={loader.data.others}
          replaced={replaced}
          onShow={(other) => {
            wentBack.current = true;
            send({ intent: 'again', other });
          }}
        />
      )}
      {!loader.data ? (
        <p className="text-muted">Looking for words…</p>
      ) : (
        words.length === 0 && (
          <p className="text-muted">
            {hearing
              ? 'The words are being heard; they show here as soon as they are.'
              : 'No words yet. Have them heard, or bring in a text with times (SRT, WebVTT, ASS or JSON).'}
          </p>
        )
      )}
      {spoken.map((each, index) => (
        <SpokenSentence
          key={each.from}
          start={each.start}
          words={words.slice(each.from, each.to)}
          seconds={seconds}
          at={index === here ? current : undefined}
          onSeek={onSeek}
          onCorrect={(text) => document.edit({ type: 'correct', from: each.from, to: each.to, text })}
        />
      ))}
      <div className="sticky -bottom-3 mt-auto flex flex-wrap gap-2 bg-[#12191f] pb-3 pt-2">
        <Button onClick={() => picker.current?.click()}>
          <FileInput size={15} aria-hidden /> Bring in a text
        </Button>
        <input
          ref={picker}
          type="file"
          hidden
          accept=".srt,.vtt,.ass,.ssa,.json,text/plain"
          aria-label="Text with times"
          onChange={(event) => {
            const file = event.target.files?.[0];
            void file?.text().then((text) => bringIn({ name: file.name, text }));
            event.target.value = '';
          }}
        />
        {loader.data &&
          !hearing &&
          (!source || (loader.data.languages.length > 1 && source !== 'corrected' && source !== 'imported')) && (
            <HearForm
              recogniser={loader.data.recogniser}
              languages={loader.data.languages}
              again={Boolean(source)}
              onHear={(language) => send({ intent: 'hear', language })}
            />
          )}
        {(source === 'corrected' || source === 'imported') && (
          <Button onClick={() => send({ intent: 'reset' })}>
            <RotateCcw size={15} aria-hidden /> Back to what was heard
          </Button>
        )}
      </div>
    </div>
  );
}

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
        <Ear size={15} aria-hidden /> {again ? 'Hear again' : 'Hear the words'}
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
          in {languageName(language)}; {recogniser} has no other language
        </span>
      )}
    </span>
  );
}
