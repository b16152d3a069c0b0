import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import type { Range } from '#core/time';
import { formatClock } from '#core/time';
import { counted } from '#core/sentences';
import { doubtsOf, isDoubtful, rivalTexts, sameElsewhere, sentences, type DoubtfulPlace, type Word } from '#core/words';
import { useOtherFiles } from '../../words/useOtherFiles';
import { wordsDocument } from '../../words/wordsDocument';
import { Button } from '../../ui/controls';
import { useLatest } from '../../ui/useLatest';

interface ReviewPanelProps {
  projectId: string;
  media: string;
  /** The playhead, in seconds of the file: the review begins there. */
  seconds: number;
  /** Plays a stretch of the file over and over. */
  onLoop(range: Range): void;
  onLeave(): void;
}

const noWords: readonly Word[] = [];
/** So much is played before and after a doubtful word, in seconds, so that it is heard in what is said. */
const around = 0.9;

/** The doubtful words of a file one after the other, each played in a loop: right as it stands, or typed anew; by keyboard alone. */
export function ReviewPanel({ projectId, media, seconds, onLoop, onLeave }: ReviewPanelProps) {
  const document = useMemo(() => wordsDocument(projectId, media), [projectId, media]);
  const { transcript, problem } = useSyncExternalStore(document.subscribe, document.state, document.state);
  useEffect(() => void document.need(), [document]);
  const words = transcript?.words ?? noWords;
  const doubts = useMemo(() => doubtsOf(words), [words]);
  /** Doubts before this are passed over; in seconds of the file. */
  const [from, setFrom] = useState(seconds);
  const [done, setDone] = useState(0);
  const doubt = doubts.find(({ start }) => start >= from - 0.001) ?? null;
  const at = doubt ? doubts.indexOf(doubt) : doubts.length;
  const otherFiles = useOtherFiles(projectId, media);
  const latest = useLatest({ onLoop });
  const place = doubt?.start ?? null;
  const end = doubt?.end ?? null;
  useEffect(() => {
    if (place !== null && end !== null)
      latest.current.onLoop({ start: Math.max(0, place - around), end: end + around });
  }, [place, end, latest]);

  const goOn = (after: DoubtfulPlace) => setFrom(after.end);
  const goBack = () => {
    const before = doubts[at - 1];
    if (before) setFrom(before.start);
  };
  /** Takes a text for the doubt, and where it is to be everywhere, for all that was heard the same in the project. */
  const take = (own: DoubtfulPlace, text: string, isEverywhere: boolean) => {
    const count = own.to - own.from;
    const others = isEverywhere ? sameElsewhere(words, own) : [];
    const heard = words.slice(own.from, own.to).map((word) => word.text);
    const isTaken =
      others.length > 0
        ? document.edit({ type: 'correctAll', places: [own.from, ...others], count, text })
        : document.edit({ type: 'correct', from: own.from, to: own.to, text });
    if (!isTaken) return;
    const elsewhere = isEverywhere ? otherFiles.count(heard).places : 0;
    if (elsewhere > 0) void otherFiles.correct(heard, text);
    setDone((before) => before + 1 + others.length + elsewhere);
    goOn(own);
  };
  return (
    <div className="flex min-h-full flex-col">
      <p role="status" className="mb-2 text-xs text-muted">
        {!transcript
          ? 'Looking for words…'
          : doubts.length === 0
            ? 'No word is doubtful.'
            : doubt
              ? `${at + 1} of ${counted(doubts.length, 'doubtful place')}${done > 0 ? `, ${done} put right` : ''}`
              : `${counted(doubts.length, 'doubtful place')} before this; none behind it`}
      </p>
      {problem && (
        <p role="alert" className="mb-2 text-shake">
          {problem}
        </p>
      )}
      {doubt && (
        <DoubtForm
          key={`${doubt.start} ${doubt.text}`}
          words={words}
          doubt={doubt}
          here={sameElsewhere(words, doubt).length}
          elsewhere={otherFiles.count(words.slice(doubt.from, doubt.to).map((word) => word.text))}
          onTake={(text, isEverywhere) => take(doubt, text, isEverywhere)}
          onPass={() => goOn(doubt)}
          onBack={goBack}
          onLeave={onLeave}
        />
      )}
      <div className="mt-auto flex gap-2 pt-3">
        {!doubt && doubts.length > 0 && <Button onClick={() => setFrom(0)}>From the beginning</Button>}
        <Button onClick={onLeave}>Back to all words</Button>
      </div>
    </div>
  );
}

interface DoubtFormProps {
  words: readonly Word[];
  doubt: DoubtfulPlace;
  /** In how many other places of this file the same was heard. */
  here: number;
  /** And of other files of the project. */
  elsewhere: { places: number; files: number };
  onTake(text: string, isEverywhere: boolean): void;
  onPass(): void;
  onBack(): void;
  onLeave(): void;
}

/** One doubtful place in its sentence, and a field with what was heard. */
function DoubtForm({ words, doubt, here, elsewhere, onTake, onPass, onBack, onLeave }: DoubtFormProps) {
  const [text, setText] = useState(doubt.text);
  const rivals = useMemo(() => rivalTexts(words, doubt), [words, doubt]);
  const others = here + elsewhere.places;
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.select(), []);
  const sentence = useMemo(
    () => sentences(words).find(({ from, to }) => doubt.from >= from && doubt.from < to) ?? doubt,
    [words, doubt],
  );
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onTake(text, false);
      }}
    >
      <p className="leading-6">
        <span className="tabular mr-2 text-xs text-muted">{formatClock(doubt.start)}</span>
        {words.slice(sentence.from, Math.max(sentence.to, doubt.to)).map((word, offset) => {
          const index = sentence.from + offset;
          const isHere = index >= doubt.from && index < doubt.to;
          const look = isHere ? 'rounded bg-line px-1' : isDoubtful(word) ? 'text-muted' : '';
          return (
            <span key={index}>
              <span className={look}>{word.text}</span>{' '}
            </span>
          );
        })}
      </p>
      <input
        ref={field}
        autoFocus
        aria-label="What is said here"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          const rival = event.altKey ? rivals[Number(/^Digit(\d)$/.exec(event.code)?.[1] ?? 0) - 1] : undefined;
          const does =
            rival !== undefined
              ? () => onTake(rival, false)
              : event.key === 'Escape'
                ? onLeave
                : event.key === 'ArrowDown'
                  ? onPass
                  : event.key === 'ArrowUp'
                    ? onBack
                    : event.key === 'Enter' && event.altKey
                      ? () => onTake(text, true)
                      : null;
          if (!does) return;
          event.preventDefault();
          event.stopPropagation();
          does();
        }}
        className="mt-2 block w-full rounded-md border border-line bg-ground px-2 py-1.5"
      />
      {rivals.length > 0 && (
        <div role="group" aria-label="What may have been said instead" className="mt-2 flex flex-wrap gap-2">
          {rivals.map((rival, at) => (
            <Button key={rival} keys={`Alt ${at + 1}`} onClick={() => onTake(rival, false)}>
              {rival}
            </Button>
          ))}
        </div>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <Button type="submit" look="lamp" keys="Enter">
          {text === doubt.text ? 'It is right' : text.trim() ? 'Put it right' : 'Nothing is said'}
        </Button>
        <Button keys="↓" onClick={onPass}>
          Pass over
        </Button>
        <Button keys="↑" onClick={onBack}>
          Before
        </Button>
        {others > 0 && text !== doubt.text && (
          <Button keys="Alt Enter" onClick={() => onTake(text, true)}>
            And in {counted(others, 'other place')}
            {elsewhere.files > 0 ? `, ${elsewhere.places} of them in ${counted(elsewhere.files, 'other file')}` : ''}
          </Button>
        )}
      </div>
    </form>
  );
}
