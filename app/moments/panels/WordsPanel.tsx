import { Ear, FileInput, RotateCcw } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { useFetcher } from 'react-router';
import { formatClock } from '#core/time';
import { doubtfulUnder, sentences, type Word } from '#core/words';
import type { ImportQuestion } from '#usecases/words';
import { wordsDocument } from '../../words/wordsDocument';
import { Button, inputLook } from '../../ui/controls';
import { scrollWithin } from '../../ui/scrollWithin';
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
  const [editing, setEditing] = useState<{ from: number; to: number } | null>(null);
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
        <p
          key={each.from}
          ref={index === here ? current : undefined}
          className={`mb-1.5 rounded px-1.5 py-0.5 leading-5 ${index === here ? 'bg-raised' : ''}`}
        >
          <button
            type="button"
            className="tabular mr-2 text-xs text-muted hover:text-text"
            onClick={() => onSeek(each.start)}
          >
            {formatClock(each.start)}
          </button>
          {editing && editing.from >= each.from && editing.to <= each.to ? (
            <Edit
              words={words.slice(each.from, each.to)}
              onCancel={() => setEditing(null)}
              onSave={(text) => {
                setEditing(null);
                document.edit({ type: 'correct', from: each.from, to: each.to, text });
              }}
            />
          ) : (
            words.slice(each.from, each.to).map((word, offset) => (
              <span key={offset}>
                <button
                  type="button"
                  title={
                    word.confidence < doubtfulUnder ? 'Doubtful; double-click to correct' : 'Double-click to correct'
                  }
                  onClick={() => onSeek(word.start)}
                  onDoubleClick={() => setEditing({ from: each.from, to: each.to })}
                  className={`rounded hover:bg-line ${seconds >= word.start && seconds < word.end ? 'bg-line text-text' : ''} ${word.confidence < doubtfulUnder ? 'text-muted underline decoration-dotted underline-offset-2' : ''}`}
                >
                  {word.text}
                </button>{' '}
              </span>
            ))
          )}
        </p>
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

function Edit({ words, onSave, onCancel }: { words: Word[]; onSave(text: string): void; onCancel(): void }) {
  const [text, setText] = useState(words.map((word) => word.text).join(' '));
  const left = useRef(false);
  return (
    <textarea
      autoFocus
      aria-label="Correct the sentence"
      rows={Math.ceil(text.length / 44) + 1}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => !left.current && onSave(text)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') {
          event.preventDefault();
          event.currentTarget.blur();
        } else if (event.key === 'Escape') {
          left.current = true;
          onCancel();
        }
      }}
      className="mt-1 block w-full rounded-md border border-line bg-ground px-2 py-1"
    />
  );
}
