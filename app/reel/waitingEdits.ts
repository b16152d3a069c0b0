import { applyCommand, type ReelCommand, type Source } from '#core/reel';
import type { OpenReel } from '#usecases/openReel';

/** A command, or a step over an edit; over the last one, or the next, when it is of an earlier visit. */
export type UnsentEdit = { command: ReelCommand } | { step: 'undo' | 'redo'; of?: string };
/** The version that an edit goes on from, and what was done on it since by the same page. */
export interface EditBase {
  head: number;
  after: readonly string[];
}
/** An edit that was not confirmed yet; by its id the server knows one that comes twice. */
export type WaitingEdit = UnsentEdit & { id: string; on?: EditBase };

/**
 * A reel with the edits that still wait on top, as it will stand once they are saved. What goes through the history is
 * known to the server only, so that what follows it shows when the server has answered.
 * @param reel as it was loaded; it may hold the first of the waiting edits already
 */
export function withWaiting<T extends OpenReel>(
  reel: T,
  waiting: readonly WaitingEdit[],
  sources: ReadonlyMap<string, Source>,
): T {
  let { document } = reel;
  const done = waiting.findIndex((each) => each.id === reel.lastEdit);
  for (const each of waiting.slice(done + 1)) {
    if (!('command' in each)) break;
    const result = applyCommand(document, each.command, sources);
    if (!result.ok) break;
    document = result.reel;
  }
  return document === reel.document ? reel : { ...reel, document, canUndo: true, canRedo: false };
}
