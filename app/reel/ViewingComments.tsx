import { Check, CornerDownRight, Flag, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { ReelCommand } from '#core/reel';
import { formatTimecode, framesToSeconds } from '#core/time';
import type { ViewedComment } from '#usecases/viewings';
import { Button, IconButton, inputLook } from '../ui/controls';
import { useKept } from '../ui/useKept';
import type { ReelDesk } from './useReelDesk';
import type { ReelViewing } from './useViewing';
import { viewingWords as words } from './viewingWords';

interface CommentListProps {
  desk: ReelDesk;
  comments: readonly ViewedComment[];
  chosen: string | null;
  onChoose(id: string | null): void;
  send: ReelViewing['send'];
}

/** What others said, in the order of the reel as it is now. */
export function CommentList({ desk, comments, chosen, onChoose, send }: CommentListProps) {
  const open = comments.filter(({ isDone }) => !isDone);
  const marks = open.map(({ id, author, text, now }): ReelCommand => ({
    type: 'mark',
    marker: { id, frame: now.frame, note: `${author}: ${text}`.slice(0, 200) },
  }));
  const setMarkers = () => desk.live.edit({ type: 'several', name: 'set markers for comments', commands: marks });
  return (
    <section aria-label="Comments" className="border-t border-line pt-3">
      <div className="flex items-center gap-2">
        <h2 className="font-semibold">
          {comments.length === 0 ? words.noComments : words.comments(open.length, comments.length)}
        </h2>
        {open.length > 0 && (
          <Button className="ml-auto" title={words.asMarkersHint} onClick={setMarkers}>
            <Flag size={14} aria-hidden /> {words.asMarkers}
          </Button>
        )}
      </div>
      <ol className="mt-1">
        {[...comments]
          .sort((a, b) => a.now.frame - b.now.frame)
          .map((comment) => (
            <Comment
              key={comment.id}
              comment={comment}
              desk={desk}
              isChosen={comment.id === chosen}
              onChoose={() => onChoose(comment.id)}
              send={send}
            />
          ))}
      </ol>
    </section>
  );
}

interface CommentProps {
  comment: ViewedComment;
  desk: ReelDesk;
  isChosen: boolean;
  onChoose(): void;
  send: ReelViewing['send'];
}

function Comment({ comment, desk, isChosen, onChoose, send }: CommentProps) {
  const [answers, setAnswers] = useState(false);
  const { id, now, version, author, text, isDone, replies } = comment;
  const { rate } = desk;
  const remove = () => {
    send({ intent: 'remove', id });
    toast(words.removed, { action: { label: words.undo, onClick: () => send({ intent: 'restore', id }) } });
  };
  return (
    <li
      data-comment={id}
      ref={(row) => void (isChosen && row?.scrollIntoView({ block: 'nearest' }))}
      className={`rounded-md px-1 py-2 ${isChosen ? 'bg-raised' : ''} ${isDone ? 'text-muted' : ''}`}
    >
      <div className="flex items-center gap-1">
        <button
          type="button"
          className="tabular rounded px-1 hover:bg-line/60"
          onClick={() => {
            onChoose();
            desk.player.seek(framesToSeconds(now.frame, rate) + 1e-4);
          }}
        >
          {formatTimecode(now.frame, rate)}
        </button>
        <span className="truncate font-semibold">{author}</span>
        <span className="text-xs text-muted">{words.version(version)}</span>
        <span className="ml-auto flex">
          <IconButton
            label={isDone ? words.untick : words.tick}
            aria-pressed={isDone}
            onClick={() => send({ intent: isDone ? 'untick' : 'tick', id })}
          >
            <Check size={15} className={isDone ? 'text-speech' : ''} />
          </IconButton>
          <IconButton label={words.answer} onClick={() => setAnswers(!answers)}>
            <CornerDownRight size={15} />
          </IconButton>
          <IconButton label={words.remove} onClick={remove}>
            <Trash2 size={15} />
          </IconButton>
        </span>
      </div>
      <p className="whitespace-pre-wrap break-words pl-1">{text}</p>
      {now.how !== 'there' && (
        <p className="pl-1 text-xs text-muted">{now.how === 'gone' ? words.pieceGone : words.trimmed}</p>
      )}
      {replies.map((reply) => (
        <p key={reply.id} className="ml-1 mt-1 border-l-2 border-line pl-2">
          <span className="font-semibold">{reply.author}</span> {reply.text}
        </p>
      ))}
      {answers && (
        <AnswerForm
          onSend={(name, answer) => {
            send({ intent: 'answer', id, name, text: answer });
            setAnswers(false);
          }}
        />
      )}
    </li>
  );
}

function AnswerForm({ onSend }: { onSend(name: string, text: string): void }) {
  const [name, setName] = useKept('name of the editor');
  const [text, setText] = useState('');
  return (
    <form
      className="mt-2 space-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) onSend(name, text);
      }}
    >
      <textarea
        aria-label={words.answer}
        rows={2}
        maxLength={2000}
        autoFocus
        value={text}
        onChange={(event) => setText(event.target.value)}
        className={`${inputLook} !h-auto w-full py-1`}
      />
      <div className="flex gap-2">
        <input
          aria-label={words.yourName}
          placeholder={words.yourName}
          maxLength={60}
          value={name}
          onChange={(event) => setName(event.target.value)}
          className={`${inputLook} min-w-0 flex-1`}
        />
        <Button type="submit" disabled={!text.trim()}>
          {words.send}
        </Button>
      </div>
    </form>
  );
}
