import { Search, X } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Fragment, useEffect, useRef } from 'react';
import type { Chip, Request } from '#core/ask';
import { inputLook } from '../../ui/controls';

interface AskFieldProps {
  text: string;
  request: Request | null;
  field: React.RefObject<HTMLInputElement | null>;
  onText(text: string): void;
  /** Enter: to the first of what was found. */
  onGo(): void;
}

/** Without double spaces or joints that hang in the air. */
const tidy = (text: string) =>
  text
    .replace(/\s+/g, ' ')
    .replace(/^\s*(and|or|,|but)\s+/i, '')
    .replace(/\s+(and|or|not|but|without|,)\s*$/i, '')
    .trim();

/** One field for requests in words; below it, how they were understood, each part changeable. */
export function AskField({ text, request, field, onText, onGo }: AskFieldProps) {
  const box = useRef<HTMLDivElement>(null);
  const replace = (chip: Chip, by: string) => onText(tidy(`${text.slice(0, chip.start)}${by}${text.slice(chip.end)}`));
  /** The word that turns a chip round, when it stands right before it. */
  const turned = (chip: Chip) => {
    const before = text.slice(0, chip.start);
    const word = /(not|no|without|never)\s+$/i.exec(before);
    return word
      ? tidy(`${before.slice(0, word.index)}${text.slice(chip.start)}`)
      : tidy(`${before}not ${text.slice(chip.start)}`);
  };
  useEffect(() => {
    const escape = (event: KeyboardEvent) =>
      event.key === 'Escape' && document.activeElement === field.current && field.current?.blur();
    window.addEventListener('keydown', escape);
    return () => window.removeEventListener('keydown', escape);
  }, [field]);
  const shown = request && text.trim() ? request : null;
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
          <kbd className="tabular absolute right-3 top-1.5 text-muted">/</kbd>
        )}
      </div>
      {shown && (
        <div className="mt-1.5 flex flex-wrap items-center gap-1.5" aria-label="How this was understood" role="group">
          {shown.chips.map((chip, index) => (
            <Fragment key={`${chip.start}${chip.text}`}>
              {index > 0 && /\bor\b/i.test(text.slice(shown.chips[index - 1]!.end, chip.start)) && (
                <span className="text-xs text-muted">or</span>
              )}
              <DropdownMenu.Root>
                <DropdownMenu.Trigger
                  className="rounded-full border border-line bg-raised px-2.5 text-xs leading-5 hover:border-muted"
                  data-chip={chip.label}
                  title={`From “${chip.text}”; press to change`}
                >
                  {chip.not && <span className="font-semibold text-shake">not </span>}
                  {chip.label}
                </DropdownMenu.Trigger>
                <DropdownMenu.Portal>
                  <DropdownMenu.Content
                    sideOffset={4}
                    align="start"
                    className="z-50 min-w-40 rounded-md border border-line bg-raised p-1 shadow-xl"
                  >
                    {[
                      ...chip.instead.map((each) => ({
                        label: `Instead: ${each.label}`,
                        go: () => replace(chip, each.text),
                      })),
                      { label: chip.not ? 'With it' : 'Without it', go: () => onText(turned(chip)) },
                      { label: 'Take this part away', go: () => replace(chip, '') },
                    ].map((choice) => (
                      <DropdownMenu.Item
                        key={choice.label}
                        className="cursor-default rounded px-2 py-1 text-sm outline-none data-[highlighted]:bg-line"
                        onSelect={choice.go}
                      >
                        {choice.label}
                      </DropdownMenu.Item>
                    ))}
                  </DropdownMenu.Content>
                </DropdownMenu.Portal>
              </DropdownMenu.Root>
            </Fragment>
          ))}
          {shown.unknown.length > 0 && (
            <span className="text-xs text-muted" role="status">
              not understood: {shown.unknown.map((word) => `“${word}”`).join(', ')}
            </span>
          )}
        </div>
      )}
    </div>
  );
}
