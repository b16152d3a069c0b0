import { useEffect, useId, useState } from 'react';
import { newId } from '../newId';
import { Button, inputLook } from '../ui/controls';
import { useKept } from '../ui/useKept';
import { linkWords } from './words';

/** What somebody wrote, under which name. */
export interface Said {
  /** The same however often it is sent. */
  id: string;
  name: string;
  text: string;
}

interface ComposerProps {
  /** Under which what is written is kept until it is sent. */
  draft: string;
  label: string;
  placeholder: string;
  isLarge?: boolean;
  /** Ids of what has arrived; until then it stays in the field, and over a reload. */
  arrived: ReadonlySet<string>;
  onBegin?(): void;
  onCancel?(): void;
  onSend(said: Said): void;
}

/** Where a comment or an answer is written. Ctrl Enter sends it. */
export function Composer(props: ComposerProps) {
  const { draft, label, placeholder, isLarge = false, arrived, onBegin, onCancel, onSend } = props;
  const id = useId();
  const [name, setName] = useKept('name of a visitor');
  const [text, setText] = useKept(draft, 'inThisTab');
  const [sent, setSent] = useKept(`${draft}, its id`, 'inThisTab');
  const [lacksName, setLacksName] = useState(false);
  useEffect(() => {
    if (!sent || !arrived.has(sent)) return;
    setText('');
    setSent('');
    onCancel?.();
  }, [sent, arrived, setText, setSent, onCancel]);
  const send = () => {
    if (!name.trim()) return setLacksName(true);
    if (!text.trim()) return;
    const own = sent || newId();
    setSent(own);
    onSend({ id: own, name: name.trim(), text: text.trim() });
  };
  return (
    <form
      className={isLarge ? 'space-y-2' : 'mt-2 space-y-2'}
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      <label htmlFor={id} className="sr-only">
        {label}
      </label>
      <textarea
        id={id}
        rows={isLarge ? 3 : 2}
        maxLength={2000}
        autoFocus={!isLarge}
        placeholder={placeholder}
        value={text}
        onFocus={onBegin}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) send();
          if (event.key === 'Escape') onCancel?.();
        }}
        className={`${inputLook} !h-auto w-full resize-y py-2 !text-base`}
      />
      <div className="flex flex-wrap items-center gap-2">
        <input
          aria-label={linkWords.name}
          aria-invalid={lacksName && !name.trim()}
          placeholder={linkWords.name}
          autoComplete="name"
          maxLength={60}
          value={name}
          onChange={(event) => setName(event.target.value)}
          className={`${inputLook} w-44 pointer-coarse:!h-11 ${lacksName && !name.trim() ? '!border-shake' : ''}`}
        />
        <span className="ml-auto" />
        {onCancel && (
          <Button className="pointer-coarse:!h-11" onClick={onCancel}>
            {linkWords.cancel}
          </Button>
        )}
        <Button type="submit" look="lamp" className="pointer-coarse:!h-11" disabled={!text.trim()}>
          {isLarge ? label : linkWords.send}
        </Button>
      </div>
      {lacksName && !name.trim() && (
        <p role="alert" className="text-shake">
          {linkWords.nameFirst}
        </p>
      )}
    </form>
  );
}
