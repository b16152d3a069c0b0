import { useState } from 'react';
import { Button } from '../ui/controls';

/** A script, a transcript, lyrics or notes without times, typed or pasted. */
export function PasteText({ onGive, onLeave }: { onGive(text: string): void; onLeave(): void }) {
  const [text, setText] = useState('');
  return (
    <form
      className="mb-3 rounded-md bg-raised px-3 py-2"
      onSubmit={(event) => {
        event.preventDefault();
        onGive(text);
      }}
    >
      <textarea
        autoFocus
        aria-label="Text to align"
        rows={8}
        value={text}
        placeholder="A script, a transcript or lyrics. Times are found by listening."
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && onLeave()}
        className="block w-full rounded-md border border-line bg-ground px-2 py-1"
      />
      <div className="mt-2 flex gap-2">
        <Button type="submit" look="lamp" disabled={!text.trim()}>
          Align it to the sound
        </Button>
        <Button onClick={onLeave}>Leave it</Button>
      </div>
    </form>
  );
}

/** A text that was brought in and has no times yet. */
export interface ScriptState {
  name: string;
  language: string;
  aligning: boolean;
}

/** What becomes of a text without times, and how to be rid of it. */
export function ScriptLine({ script, onAgain, onLeave }: { script: ScriptState; onAgain(): void; onLeave(): void }) {
  const name = script.name ? `“${script.name}”` : 'The pasted text';
  return (
    <section aria-label="Text without times" className="mb-3 rounded-md bg-raised px-3 py-2">
      <p role="status">
        {script.aligning
          ? `${name} is being aligned to the sound; what stands here stays until then.`
          : `${name} has no times yet; the running work says why it could not be aligned.`}
      </p>
      <div className="mt-2 flex gap-2">
        {!script.aligning && <Button onClick={onAgain}>Align it now</Button>}
        <Button onClick={onLeave}>Do without it</Button>
      </div>
    </section>
  );
}
