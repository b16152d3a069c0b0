import { memo, useRef, useState } from 'react';
import { formatClock } from '#core/time';
import { listOf } from '#core/sentences';
import { voiceColour, type Speaker } from '../../words/useSpeakers';
import { isDoubtful, type Sentence, type Word } from '#core/words';

/** What can be done with sentences, the same for all of them. */
export interface SentenceHands {
  onSeek(seconds: number): void;
  /** Opens a sentence to be corrected, by the index of its first word; null leaves it. */
  onEdit(from: number | null): void;
  onCorrect(sentence: Sentence, text: string): void;
}

interface SpokenSentenceProps {
  sentence: Sentence;
  /** All words of the file. */
  words: readonly Word[];
  /** The playhead, in seconds of the file; null while another sentence is being said. */
  seconds: number | null;
  editing: boolean;
  /** Words of the file that are chosen, by their places; nothing of it where these are the same or the wrong way round. */
  chosenFrom: number;
  chosenTo: number;
  /** Whoever begins to speak with it; null where that is known to nobody, or the one before goes on alone. */
  speaker: Speaker | null;
  hands: SentenceHands;
}

/** A sentence: each word leads to where it is said, a double click corrects all of them. */
export const SpokenSentence = memo(function SpokenSentence({
  sentence,
  words,
  seconds,
  editing,
  chosenFrom,
  chosenTo,
  speaker,
  hands,
}: SpokenSentenceProps) {
  const { start, from, to } = sentence;
  const own = words.slice(from, to);
  return (
    <p className={`mb-1.5 rounded px-1.5 py-0.5 leading-5 ${seconds !== null ? 'bg-raised' : ''}`}>
      {speaker && (
        <span className="block text-xs font-semibold" style={{ color: voiceColour(speaker.voice) }}>
          {speaker.name}
          {speaker.together.length > 0 && (
            <span className="font-normal text-muted"> and {listOf(speaker.together)} at once</span>
          )}
        </span>
      )}
      <button
        type="button"
        className="tabular mr-2 text-xs text-muted hover:text-text"
        onClick={() => hands.onSeek(start)}
      >
        {formatClock(start)}
      </button>
      {editing ? (
        <Edit words={own} onCancel={() => hands.onEdit(null)} onSave={(text) => hands.onCorrect(sentence, text)} />
      ) : (
        own.map((word, offset) => (
          <span
            key={offset}
            className={from + offset >= chosenFrom && from + offset < chosenTo ? 'bg-text py-0.5 text-ground' : ''}
          >
            {word.unsaid && (
              <s title={`In the text, but not said: ${word.unsaid}`} className="text-xs text-muted">
                {shortened(word.unsaid)}
              </s>
            )}{' '}
            <button
              type="button"
              title={`${whatIsAmiss(word)}Double-click to correct`}
              data-word={from + offset}
              onClick={(event) => !event.shiftKey && hands.onSeek(word.start)}
              onDoubleClick={() => hands.onEdit(from)}
              className={`rounded ${from + offset >= chosenFrom && from + offset < chosenTo ? '' : 'hover:bg-line'} ${seconds !== null && seconds >= word.start && seconds < word.end ? 'bg-line text-text' : ''} ${isDoubtful(word) ? 'text-muted underline decoration-dotted underline-offset-2' : ''}`}
            >
              {word.text}
            </button>{' '}
          </span>
        ))
      )}
    </p>
  );
});

/** Why a word is to be looked at, before what can be done. */
const whatIsAmiss = (word: Word): string =>
  word.differs === 'added'
    ? 'Said besides the text. '
    : word.differs === 'otherwise'
      ? 'Something else was said here. '
      : isDoubtful(word)
        ? 'Doubtful. '
        : '';

const shownWords = 5;
/** The first words of a longer text. */
function shortened(text: string): string {
  const words = text.split(' ');
  return words.length > shownWords ? `${words.slice(0, shownWords).join(' ')}…` : text;
}

function Edit({ words, onSave, onCancel }: { words: readonly Word[]; onSave(text: string): void; onCancel(): void }) {
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
