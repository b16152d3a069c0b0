import { useCallback, useEffect, useState } from 'react';

/** A text that the browser keeps under a name, so that a reload loses nothing; empty at first, and where nothing can be kept. */
export function useKept(name: string, where: 'always' | 'inThisTab' = 'always'): [string, (next: string) => void] {
  const [value, setValue] = useState('');
  useEffect(() => {
    try {
      setValue(shelf(where).getItem(name) ?? '');
    } catch {
      // A browser that keeps nothing: it is there until the page is left.
    }
  }, [name, where]);
  const keep = useCallback(
    (next: string) => {
      setValue(next);
      try {
        if (next) shelf(where).setItem(name, next);
        else shelf(where).removeItem(name);
      } catch {
        // As above.
      }
    },
    [name, where],
  );
  return [value, keep];
}

const shelf = (where: 'always' | 'inThisTab'): Storage => (where === 'always' ? localStorage : sessionStorage);
