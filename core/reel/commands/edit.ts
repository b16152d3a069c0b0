import type { Reel, Source } from '../types';
import { isLocked, locate, type FoundClip } from './found';

/** What may be cut from, by the id of its file. */
export type Sources = ReadonlyMap<string, Source>;

/** What comes of an edit. */
export type Outcome<C = never> =
  /** `note` says what had to give way, such as a dissolve that became shorter. */
  | { ok: true; reel: Reel; note?: string }
  /** `instead` is an edit that would fit, for one who wants it. */
  | { ok: false; reason: string; instead?: { says: string; command: C } };

/**
 * One kind of edit: how it is applied, and how the history tells it. What it is (its command, plain data that can be
 * stored and sent) is the interface `C`; how a command is checked when it comes from outside is in `forms`.
 */
export interface Edit<C extends { type: string }> {
  /** A pure function: the reel given stays as it is. What does not fit is refused with a sentence. */
  apply: (reel: Reel, command: C, sources: Sources) => Outcome<C>;
  /** The end of a sentence that begins with who did it. `name` is that of the piece, `before` the reel as it was. */
  says: (command: C, name: string, before: Reel) => string;
}

export const refuse = <C = never>(
  reason: string,
  instead?: { says: string; command: C },
): Outcome<C> & { ok: false } => ({ ok: false, reason, ...(instead ? { instead } : {}) });
export const done = (reel: Reel): Outcome => ({ ok: true, reel });

/** The piece that is to be changed, or why it cannot be. */
export function ownPiece(reel: Reel, id: string): FoundClip | (Outcome & { ok: false }) {
  const found = locate(reel, id);
  if (!found) return refuse('This piece is not in the reel any more.');
  const locked = isLocked(found.track);
  return locked ? refuse(locked) : found;
}

/** An edit of one piece; refused when the piece is gone or its track is locked. */
export const onClip = <C extends { type: string; clip: string }>(edit: {
  apply: (reel: Reel, found: FoundClip, command: C, sources: Sources) => Outcome<C>;
  says: Edit<C>['says'];
}): Edit<C> => ({
  says: edit.says,
  apply: (reel, command, sources) => {
    const found = ownPiece(reel, command.clip);
    return 'ok' in found ? found : edit.apply(reel, found, command, sources);
  },
});
