const listeners = new Set<() => void>();

/** Something of the project that is shown was changed in another window; for what a screen does not load with itself. */
export function tellChangedElsewhere(): void {
  for (const listener of listeners) listener();
}

/** @param act whenever somebody else changed something @returns ends it */
export function whenChangedElsewhere(act: () => void): () => void {
  listeners.add(act);
  return () => void listeners.delete(act);
}
