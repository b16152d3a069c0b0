import { useEffect, useRef, useState } from 'react';
import { useFetcher } from 'react-router';
import { counted } from '#core/sentences';
import { termsIn } from '#core/words';
import type { ShownTerms } from '#usecases/terms';
import { Button } from '../ui/controls';

interface TermsFormProps {
  projectId: string;
  onLeave(): void;
}

/** Names and terms that are said in a project's footage: typed, pasted, or taken from what its texts and people suggest. */
export function TermsForm({ projectId, onLeave }: TermsFormProps) {
  const address = `/projects/${projectId}/terms`;
  const shown = useFetcher<ShownTerms>();
  const sender = useFetcher<{ problem: string | null; again: number | null }>();
  const [text, setText] = useState<string | null>(null);
  const field = useRef<HTMLTextAreaElement>(null);
  const { load } = shown;
  useEffect(() => void load(address), [load, address]);
  const known = shown.data;
  useEffect(() => {
    if (known) field.current?.focus();
  }, [known]);
  const answer = sender.state === 'idle' ? sender.data : undefined;
  useEffect(() => {
    if (answer && !answer.problem) onLeave();
  }, [answer, onLeave]);
  if (!known) return <p className="mb-3 text-muted">Looking for names…</p>;
  const now = text ?? known.terms.join('\n');
  const taken = new Set(termsIn(now).map((term) => term.toLowerCase()));
  const offered = known.offered.filter((term) => !taken.has(term.toLowerCase()));
  const add = (term: string) => setText(`${now.trimEnd()}${now.trim() ? '\n' : ''}${term}`);
  const send = (again: boolean) =>
    void sender.submit({ terms: now, again: String(again) }, { method: 'post', action: address });
  const { files, words } = known.doubtful;
  /** Without names nothing is heard otherwise than before. */
  const canHear = files > 0 && known.takesTerms && taken.size > 0;
  return (
    <form
      aria-label="Names and terms"
      className="mb-3 rounded-md bg-raised px-3 py-2"
      onSubmit={(event) => {
        event.preventDefault();
        send(canHear);
      }}
    >
      <p className="mb-2 text-xs text-muted">
        {known.takesTerms
          ? 'What is heard from now on is heard with these names in mind, in all footage of this project.'
          : 'The recogniser of this machine cannot be told names; they are kept for one that can.'}
      </p>
      <textarea
        ref={field}
        aria-label="Names and terms, one a line"
        rows={6}
        value={now}
        placeholder={'Duckweed Dash\nold mill pond\ngaffer tape'}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && onLeave()}
        className="block w-full rounded-md border border-line bg-ground px-2 py-1"
      />
      {offered.length > 0 && (
        <div className="mt-2 flex flex-wrap items-center gap-1.5" role="group" aria-label="Found in your texts">
          <span className="text-xs text-muted">Found in your texts:</span>
          {offered.map((term) => (
            <Button key={term} onClick={() => add(term)} aria-label={`Add ${term}`}>
              {term}
            </Button>
          ))}
        </div>
      )}
      {answer?.problem && (
        <p role="alert" className="mt-2 text-shake">
          {answer.problem}
        </p>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        {canHear && (
          <Button type="submit" look="lamp" disabled={sender.state !== 'idle'}>
            Hear {counted(words, 'doubtful word')} again
          </Button>
        )}
        <Button
          {...(canHear ? {} : { look: 'lamp' as const })}
          disabled={sender.state !== 'idle'}
          onClick={() => send(false)}
        >
          {canHear ? 'Only keep them' : 'Keep them'}
        </Button>
        <Button onClick={onLeave}>Leave</Button>
      </div>
    </form>
  );
}
