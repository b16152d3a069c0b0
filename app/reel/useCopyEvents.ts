import { useEffect } from 'react';
import { toast } from 'sonner';
import { counted } from '#core/sentences';

/** What copies and pastes pieces. */
interface Copying {
  /** @returns the chosen pieces as text, and how many they are; null when none is chosen */
  copied(): { text: string; count: number } | null;
  /** Puts in what the text holds. @returns a sentence about what could not be put in */
  paste(text: string): string | null;
}

/** Whether the browser's own copying is meant: of words that are typed or marked. */
const isOfWords = (event: Event): boolean =>
  (event.target instanceof Element && event.target.closest('input, textarea, select, [contenteditable]') !== null) ||
  (document.getSelection()?.toString() ?? '') !== '';

/** Copies and pastes pieces by the clipboard of the system, so that they outlive the page and go into other windows. */
export function useCopyEvents({ copied, paste }: Copying): void {
  useEffect(() => {
    const onCopy = (event: ClipboardEvent) => {
      const pieces = isOfWords(event) ? null : copied();
      if (!pieces || !event.clipboardData) return;
      event.preventDefault();
      event.clipboardData.setData('text/plain', pieces.text);
      const { count } = pieces;
      toast(`${counted(count, 'piece')} copied. Ctrl V puts ${count === 1 ? 'it' : 'them'} in at a playhead.`);
    };
    const onPaste = (event: ClipboardEvent) => {
      if (isOfWords(event) || !event.clipboardData) return;
      event.preventDefault();
      const problem = paste(event.clipboardData.getData('text/plain'));
      if (problem) toast.error(problem);
    };
    document.addEventListener('copy', onCopy);
    document.addEventListener('paste', onPaste);
    return () => {
      document.removeEventListener('copy', onCopy);
      document.removeEventListener('paste', onPaste);
    };
  }, [copied, paste]);
}
