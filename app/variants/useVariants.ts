import { useState } from 'react';
import { useFetcher } from 'react-router';
import { clashes, countVariants, fileNames, variants, type Reel } from '#core/reel';
import { afterSaving } from '../history/saveQueue';
import type { Group } from './VariantGroup';

/** No more than these are made at once. */
const mostVariants = 500;

/** What comes of groups of reels: how many variants, how they are called, and making them. */
export function useVariants(groups: readonly Group[], reels: readonly { id: string; document: Reel }[]) {
  const fetcher = useFetcher<{ problem: string | null }>();
  const [pattern, setPattern] = useState('{n} {pieces}');
  const [few, setFew] = useState('');
  const [render, setRender] = useState(true);
  const nameOf = new Map(reels.map(({ id, document }) => [id, document.name]));
  const used = groups
    .filter((group) => group.pieces.length > 0)
    .map(({ name, pieces }) => ({ name, pieces: pieces.map((id) => ({ id, name: nameOf.get(id)! })) }));
  const all = countVariants(used);
  const most = Math.min(all, Number(few) || all, mostVariants);
  const called = variants(used, most).map((pieces) => pieces.map((piece) => piece.name));
  const names = fileNames(
    called.map((pieces) => ({ title: pieces.join(' '), pieces })),
    pattern,
  );
  const request = () => ({
    groups: used.map(({ name, pieces }) => ({ name, pieces: pieces.map((piece) => piece.id) })),
    most,
    pattern,
    render,
  });
  return {
    used,
    all,
    most,
    names,
    /** Names that stand more than once, in small letters. */
    twice: new Set(clashes(names).map((name) => name.toLocaleLowerCase())),
    few,
    setFew,
    pattern,
    setPattern,
    render,
    setRender,
    busy: fetcher.state !== 'idle',
    problem: fetcher.state === 'idle' ? (fetcher.data?.problem ?? null) : null,
    make: () => void afterSaving(() => void fetcher.submit(request(), { method: 'post', encType: 'application/json' })),
  };
}
export type Combined = ReturnType<typeof useVariants>;
