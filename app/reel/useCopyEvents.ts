import { useEffect } from 'react';
import { toast } from 'sonner';
import { counted } from '#core/sentences';
import { shownKey } from '../keys';

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

/** The same from a menu; null where the browser keeps its clipboard to itself, as it does without a secure address. */
export const clipboardMenu = ({ copied, paste }: Copying): { copy(): void; paste(): void } | null =>
  typeof navigator === 'undefined' || !('clipboard' in navigator)
    ? null
    : {
        copy: () => {
          const pieces = copied();
          if (pieces) void navigator.clipboard.writeText(pieces.text).then(() => sayCopied(pieces.count), sayRefused);
        },
        paste: () =>
          void navigator.clipboard.readText().then((text) => {
            const problem = paste(text);
            if (problem) toast.error(problem);
          }, sayRefused),
      };

const sayCopied = (count: number) =>
  toast(
    `${counted(count, 'piece')} copied. ${shownKey('pastePieces')} puts ${count === 1 ? 'it' : 'them'} in at a playhead.`,
  );
const sayRefused = () =>
  toast.error(
    `The browser did not allow it. ${shownKey('copyPieces')} and ${shownKey('pastePieces')} work without asking.`,
  );

/** Copies and pastes pieces by the clipboard of the system, so that they outlive the page and go into other windows. */
export function useCopyEvents({ copied, paste }: Copying): void {
  useEffect(() => {
    const onCopy = (event: ClipboardEvent) => {
      const pieces = isOfWords(event) ? null : copied();
      if (!pieces || !event.clipboardData) return;
      event.preventDefault();
      event.clipboardData.setData('text/plain', pieces.text);
      sayCopied(pieces.count);
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
