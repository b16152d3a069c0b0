import { useEffect, useRef, useState } from 'react';
import type { Range, StringOut } from '#core/time';

/** The marked range and the chosen stretch, in the string's time; both stay on their frames when filter or order change. */
export function useMarks(string: StringOut, initial: Range | null) {
  const [marked, setMarked] = useState<Range | null>(initial);
  const [selected, setSelected] = useState<Range | null>(null);
  const before = useRef(string);
  useEffect(() => {
    const old = before.current;
    before.current = string;
    if (old === string) return;
    const carry = (range: Range | null): Range | null => {
      const piece = range && old.pieces(range)[0];
      return piece ? (string.rangesOf(piece.id, piece)[0] ?? null) : null;
    };
    setMarked(carry);
    setSelected(carry);
  }, [string]);
  return { marked, setMarked, selected, setSelected };
}
