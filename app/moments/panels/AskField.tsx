import { Search, X } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { inputLook, Key } from '../../ui/controls';
import type { AskAnswer } from '../../workers/protocol';
import { Understood } from './Understood';

interface AskFieldProps {
  text: string;
  found: AskAnswer | null;
  field: React.RefObject<HTMLInputElement | null>;
  onText(text: string): void;
  /** Enter: to the first of what was found. */
  onGo(): void;
}

/** One field for requests in words; below it, how they were understood, each part changeable. */
export function AskField({ text, found, field, onText, onGo }: AskFieldProps) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const escape = (event: KeyboardEvent) =>
      event.key === 'Escape' && document.activeElement === field.current && field.current?.blur();
    window.addEventListener('keydown', escape);
    return () => window.removeEventListener('keydown', escape);
  }, [field]);
  const shown = found && text.trim() ? found : null;
  return (
    <div ref={box} className="min-w-0 flex-1">
      <div className="relative">
        <Search size={15} className="absolute left-2.5 top-2 text-muted" aria-hidden />
        <input
          ref={field}
          className={`${inputLook} w-full !pl-8 !pr-14`}
          aria-label="Ask for moments in words"
          placeholder="Ask for moments in your own words"
          value={text}
          maxLength={300}
          onChange={(event) => onText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter') {
              event.preventDefault();
              onGo();
              event.currentTarget.blur();
            }
          }}
        />
        {text ? (
          <button
            type="button"
            aria-label="Clear the request"
            className="absolute right-2 top-1.5 rounded p-1 text-muted hover:text-text"
            onClick={() => onText('')}
          >
            <X size={14} />
          </button>
        ) : (
          <span className="absolute right-3 top-1.5 text-muted">
            <Key command="ask" />
          </span>
        )}
      </div>
      {shown && (
        <Understood
          text={shown.text}
          isBehind={shown.text !== text}
          request={shown.request}
          alone={shown.alone}
          onText={onText}
        />
      )}
    </div>
  );
}
