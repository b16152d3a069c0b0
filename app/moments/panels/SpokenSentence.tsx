import { useRef, useState, type RefObject } from 'react';
import { formatClock } from '#core/time';
import { doubtfulUnder, type Word } from '#core/words';

interface SpokenSentenceProps {
  /** Seconds of the file. */
  start: number;
  words: readonly Word[];
  /** The playhead, in seconds of the file. */
  seconds: number;
  /** For scrolling to it; only the one that is being said has it. */
  at: RefObject<HTMLParagraphElement | null> | undefined;
  onSeek(seconds: number): void;
  onCorrect(text: string): void;
}

/** A sentence: each word leads to where it is said, a double click corrects all of them. */
export function SpokenSentence({ start, words, seconds, at, onSeek, onCorrect }: SpokenSentenceProps) {
  const [editing, setEditing] = useState(false);
  return (
    <p ref={at} className={`mb-1.5 rounded px-1.5 py-0.5 leading-5 ${at ? 'bg-raised' : ''}`}>
      <button type="button" className="tabular mr-2 text-xs text-muted hover:text-text" onClick={() => onSeek(start)}>
        {formatClock(start)}
      </button>
      {editing ? (
        <Edit
          words={words}
          onCancel={() => setEditing(false)}
          onSave={(text) => {
            setEditing(false);
            onCorrect(text);
          }}
        />
      ) : (
        words.map((word, offset) => (
          <span key={offset}>
            <button
              type="button"
              title={word.confidence < doubtfulUnder ? 'Doubtful; double-click to correct' : 'Double-click to correct'}
              onClick={() => onSeek(word.start)}
              onDoubleClick={() => setEditing(true)}
              className={`rounded hover:bg-line ${seconds >= word.start && seconds < word.end ? 'bg-line text-text' : ''} ${word.confidence < doubtfulUnder ? 'text-muted underline decoration-dotted underline-offset-2' : ''}`}
            >
              {word.text}
            </button>{' '}
          </span>
        ))
      )}
    </p>
  );
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
