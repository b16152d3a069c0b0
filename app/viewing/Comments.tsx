import { Check } from 'lucide-react';
import { useCallback, useState } from 'react';
import { formatMoment } from '#core/sentences';
import { formatClock } from '#core/time';
import type { LinkComment } from '#usecases/viewingLink';
import { Composer, type Said } from './Composer';
import { linkWords } from './words';

interface CommentsProps {
  comments: readonly LinkComment[];
  chosen: string | null;
  /** The number of a comment's version, where it is not the one that is shown. */
  versionOf?(comment: LinkComment): number;
  /** As the composer has it. */
  arrived: ReadonlySet<string>;
  onChoose(comment: LinkComment): void;
  onAnswer(said: Said & { answers: string }): void;
  onTakeBack(id: string): void;
}

/** What was said, in the order of the film, as a text to be read beside it. */
export function Comments({ comments, chosen, versionOf, arrived, onChoose, onAnswer, onTakeBack }: CommentsProps) {
  const [answering, setAnswering] = useState<string | null>(null);
  const stopAnswering = useCallback(() => setAnswering(null), []);
  return (
    <ol className="divide-y divide-line">
      {comments.map((comment) => (
        <li
          key={comment.id}
          id={`comment-${comment.id}`}
          className={`grid grid-cols-[76px_1fr] gap-x-3 py-3 ${comment.id === chosen ? 'bg-raised' : ''}`}
        >
          <button
            type="button"
            className="tabular self-start rounded px-1 py-0.5 text-left text-base hover:bg-line/60"
            onClick={() => onChoose(comment)}
          >
            {formatClock(comment.seconds, true)}
            {versionOf && <span className="block text-xs text-muted">{linkWords.version(versionOf(comment))}</span>}
          </button>
          <div className="min-w-0">
            <Words said={comment} onTakeBack={onTakeBack} />
            {comment.replies.map((reply) => (
              <div key={reply.id} className="mt-2 border-l-2 border-line pl-3">
                <Words said={reply} onTakeBack={onTakeBack} />
              </div>
            ))}
            {answering === comment.id ? (
              <Composer
                draft={`answer to ${comment.id}`}
                label={linkWords.answerTo(comment.author)}
                placeholder={linkWords.answerText}
                onCancel={stopAnswering}
                arrived={arrived}
                onSend={(said) => onAnswer({ ...said, answers: comment.id })}
              />
            ) : (
              <button
                type="button"
                className="mt-1 text-muted underline-offset-2 hover:underline"
                onClick={() => setAnswering(comment.id)}
              >
                {linkWords.answer}
              </button>
            )}
          </div>
        </li>
      ))}
    </ol>
  );
}

type Written = Pick<LinkComment, 'id' | 'author' | 'text' | 'fromEditor' | 'at' | 'isDone' | 'isOwn'>;

function Words({ said, onTakeBack }: { said: Written; onTakeBack(id: string): void }) {
  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-2 text-muted">
        <span className="font-semibold text-text">{said.author}</span>
        {said.fromEditor && said.author !== linkWords.editor && <span>{linkWords.editor}</span>}
        <time dateTime={said.at} suppressHydrationWarning className="text-xs">
          {formatMoment(said.at)}
        </time>
        {said.isDone && (
          <span className="inline-flex items-center gap-1 text-xs text-speech">
            <Check size={13} aria-hidden /> {linkWords.done}
          </span>
        )}
        {said.isOwn && (
          <button
            type="button"
            className="text-xs underline-offset-2 hover:underline"
            onClick={() => onTakeBack(said.id)}
          >
            {linkWords.takeBack}
          </button>
        )}
      </p>
      <p className={`whitespace-pre-wrap break-words text-base ${said.isDone ? 'text-muted' : ''}`}>{said.text}</p>
    </>
  );
}
