import { Link2, Star, Unlink, Volume2 } from 'lucide-react';
import { useRef, useState, type ReactNode, type Ref } from 'react';
import {
  easyReading,
  fastestReading,
  lineText,
  type CaptionLine,
  type CaptionStyle,
  type HeardWord,
} from '#core/captions';
import { decimal } from '#core/sentences';
import { formatClock } from '#core/time';
import { isDoubtful, type Word } from '#core/words';
import type { ReelDesk } from '../reel/useReelDesk';
import { IconButton, inputLook } from '../ui/controls';
import { millisecond } from './millisecond';
import { WordStrip } from './WordStrip';

/** Letters a second beyond which a caption is too fast to be read, with room for rounding. */
export const isTooFast = (line: CaptionLine): boolean => line.pace > fastestReading + 0.05;

interface CaptionRowProps {
  line: CaptionLine;
  index: number;
  isHere: boolean;
  /** For scrolling to it. */
  at: Ref<HTMLLIElement> | undefined;
  style: CaptionStyle;
  /** Of the reel, in seconds. */
  now: number;
  chosen: HeardWord | null;
  isEdited: boolean;
  onEdit(on: boolean): void;
  onCorrect(text: string): void;
  onShow(seconds: number): void;
  onChoose(word: HeardWord): void;
  children: ReactNode;
}

/** One caption: when it comes, its words, how fast it has to be read; beneath it what is done with a word. */
export function CaptionRow(row: CaptionRowProps) {
  const { line, index, isHere } = row;
  return (
    <li ref={row.at} className={`rounded px-1.5 py-1 ${isHere ? 'bg-raised' : ''}`} data-caption={index}>
      <div className="flex items-start gap-2">
        <button
          type="button"
          className="tabular pt-0.5 text-xs text-muted hover:text-text"
          onClick={() => row.onShow(line.start)}
        >
          {formatClock(line.start, true)}
        </button>
        {row.isEdited ? (
          <EditLine line={line} onCancel={() => row.onEdit(false)} onSave={row.onCorrect} />
        ) : (
          <CaptionWords {...row} />
        )}
        {line.pace > easyReading && (
          <span
            className={`tabular ml-auto whitespace-nowrap pt-0.5 text-xs ${isTooFast(line) ? 'text-shake' : 'text-muted'}`}
            title={`Characters a second; ${easyReading} are read with ease, ${fastestReading} at the most`}
          >
            {decimal(line.pace, 0)}/s
          </span>
        )}
      </div>
      {row.children}
    </li>
  );
}

function CaptionWords({ line, style, now, chosen, onEdit, onShow, onChoose }: CaptionRowProps) {
  const colourOf = (word: HeardWord) => {
    if (now >= word.start && now < word.end) return { color: style.lit };
    return word.emphasis ? { color: style.emphasis } : undefined;
  };
  const looksOf = (word: HeardWord) => {
    const isChosen = word.index === chosen?.index && word.media === chosen.media;
    const doubtful = isDoubtful(word);
    return `rounded px-px hover:bg-line ${isChosen ? 'bg-line' : ''} ${word.emphasis ? 'font-semibold' : ''} ${doubtful ? 'underline decoration-dotted underline-offset-2' : ''}`;
  };
  return (
    <span className="leading-5" onDoubleClick={() => onEdit(true)}>
      {line.words.map((word, at) => (
        <span key={`${word.media} ${word.index}`}>
          <button
            type="button"
            onClick={() => {
              onChoose(word);
              onShow(word.start);
            }}
            title={isDoubtful(word) ? 'Doubtful; double-click to correct' : undefined}
            data-word={word.index}
            className={looksOf(word)}
            style={colourOf(word)}
          >
            {word.text}
          </button>
          {at === line.firstRow - 1 && line.firstRow < line.words.length ? <br /> : ' '}
        </span>
      ))}
    </span>
  );
}

function EditLine({ line, onSave, onCancel }: { line: CaptionLine; onSave(text: string): void; onCancel(): void }) {
  const [text, setText] = useState(lineText(line.words));
  const left = useRef(false);
  return (
    <input
      autoFocus
      aria-label="Correct the caption"
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => !left.current && onSave(text.trim())}
      className={`${inputLook} min-w-0 flex-1`}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        else if (event.key === 'Escape') {
          left.current = true;
          onCancel();
        }
      }}
    />
  );
}

interface WordToolsProps {
  line: CaptionLine;
  word: HeardWord;
  /** All words of its file. */
  words: readonly Word[];
  /** Second of the source that is shown. */
  time: number;
  edit: ReelDesk['spoken']['edit'];
  onHear(): void;
}

/** What is done with a word: when it is said, whether it is important, where a caption ends. */
export function WordTools({ line, word, words, time, edit, onHear }: WordToolsProps) {
  const flag = (flags: { emphasis?: boolean; breakAfter?: boolean | null }) =>
    edit(word.media, { type: 'flag', index: word.index, ...flags });
  const [parted, together] = [word.breakAfter === true, word.breakAfter === false];
  return (
    <div className="mt-1.5 space-y-1.5">
      <WordStrip
        media={word.media}
        words={words}
        from={line.words[0]!.index}
        to={line.words.at(-1)!.index + 1}
        chosen={word.index}
        time={time}
        onRetime={(at, start) =>
          edit(word.media, {
            type: 'retime',
            from: at,
            starts: [millisecond(start)],
            end: millisecond(Math.max(start + 0.05, words[at]!.end)),
          })
        }
      />
      <div className="flex flex-wrap items-center gap-1" role="group" aria-label={`The word “${word.text}”`}>
        <IconButton label="Hear this caption" onClick={onHear}>
          <Volume2 size={14} />
        </IconButton>
        <IconButton
          label={word.emphasis ? 'No longer important' : 'Important: in its own colour'}
          aria-pressed={word.emphasis ?? false}
          className={word.emphasis ? 'bg-line' : ''}
          onClick={() => flag({ emphasis: !word.emphasis })}
        >
          <Star size={14} />
        </IconButton>
        <IconButton
          label="A new caption after this word"
          aria-pressed={parted}
          className={parted ? 'bg-line' : ''}
          onClick={() => flag({ breakAfter: parted ? null : true })}
        >
          <Unlink size={14} />
        </IconButton>
        <IconButton
          label="Keep together with the next word"
          aria-pressed={together}
          className={together ? 'bg-line' : ''}
          onClick={() => flag({ breakAfter: together ? null : false })}
        >
          <Link2 size={14} />
        </IconButton>
        <span className="tabular ml-auto text-xs text-muted">
          {formatClock(words[word.index]?.start ?? 0, true)} in the source
        </span>
      </div>
    </div>
  );
}
