import { applyCommand, mergeReels, type MergedReel, type Reel, type ReelCommand, type Source } from '#core/reel';

/** One version of a reel, and the edit that made it of the one before. */
export interface Revision {
  number: number;
  parent: number | null;
  document: Reel;
  command: ReelCommand | null;
  edit: string | null;
}
/** The versions of a reel; null for what there is not. */
export interface ReelPast {
  revision(number: number): Promise<Revision | null>;
  /** The one that an edit made. */
  ofEdit(edit: string): Promise<Revision | null>;
  /** The one to which a step forth leads. */
  next(number: number): Promise<Revision | null>;
}
/** An edit as it is sent: a command, or a step, on the version that its sender knows. */
export interface SentEdit {
  id?: string;
  head: number;
  /** What the same sender did on that version since. */
  after: readonly string[];
  command: ReelCommand | null;
  step?: 'undo' | 'redo';
  /** The edit over which the step leads; the last one, or the next, when missing. */
  of?: string;
}
type Sources = ReadonlyMap<string, Source>;

/**
 * What an edit means for a reel as it stands: it was done already; the head moves; a version comes on top; it does not
 * fit; or somebody else changed the same. `isMerged` when somebody else changed the reel since its sender saw it.
 */
export type EditDecision =
  | { what: 'known'; isMerged: boolean }
  | { what: 'step'; step: 'undo' | 'redo' }
  | { what: 'save'; document: Reel; command: ReelCommand; isMerged: boolean }
  | { what: 'refuse'; why: string }
  | { what: 'clash'; why: string };

/**
 * Decides on an edit. When the reel was changed since, the edit is done to the version that it was meant for, and what
 * it did there to what stands now (see `mergeReels`).
 */
export async function decideEdit(
  reel: { head: number; lastEdit: string | null; document: Reel; canUndo: boolean; canRedo: boolean },
  edit: SentEdit,
  past: ReelPast,
  sources: Sources,
): Promise<EditDecision> {
  const known = edit.id === undefined ? null : await past.ofEdit(edit.id);
  const isLast = edit.id !== undefined && reel.lastEdit === edit.id;
  if (known && !isLast) return { what: 'known', isMerged: true };
  if (isLast) return { what: 'known', isMerged: known !== null && !(await leadsTo(edit, known.parent, past)) };
  const isNow = await leadsTo(edit, reel.head, past);
  if (edit.step && isNow && (edit.of === undefined || (await isNext(reel.head, edit.step, edit.of, past)))) {
    if (edit.step === 'undo' ? reel.canUndo : reel.canRedo) return { what: 'step', step: edit.step };
    return { what: 'refuse', why: edit.step === 'undo' ? 'There is nothing to undo.' : 'There is nothing to redo.' };
  }
  if (edit.step && edit.of === undefined)
    return { what: 'clash', why: 'This reel was changed in another window. It is shown anew; please do that again.' };
  const command: ReelCommand = edit.command ?? { type: 'stepEdit', edit: edit.of!, step: edit.step! };
  // Where it is not known any more what the sender saw, the edit is done to what stands now.
  const base = (isNow ? null : await seenBy(edit, past, sources)) ?? reel.document;
  const mine = await doneTo(base, command, past, sources);
  if (!mine.ok) return { what: 'refuse', why: mine.reason };
  const merged = mergeReels(base, mine.reel, reel.document, sources);
  if (!merged.ok) return { what: 'clash', why: merged.reason };
  return { what: 'save', document: merged.reel, command, isMerged: !isNow };
}

/** Whether a version is the one that the sender of an edit knows, with nothing of others in between. */
async function leadsTo({ head, after }: SentEdit, number: number | null, past: ReelPast): Promise<boolean> {
  let at = head;
  for (const id of after) {
    const own = await past.ofEdit(id);
    if (own?.parent !== at) return false;
    at = own.number;
  }
  return at === number;
}

/** Whether a step from the head leads over this edit. */
const isNext = async (head: number, step: 'undo' | 'redo', of: string, past: ReelPast): Promise<boolean> =>
  (step === 'undo' ? await past.revision(head) : await past.next(head))?.edit === of;

/** The reel as the sender of an edit saw it, when the version and what they did since are known. */
async function seenBy({ head, after }: SentEdit, past: ReelPast, sources: Sources): Promise<Reel | null> {
  let seen = (await past.revision(head))?.document ?? null;
  for (const id of after) {
    const command = (await past.ofEdit(id))?.command;
    if (!seen || !command) return null;
    const result = await doneTo(seen, command, past, sources);
    if (!result.ok) return null;
    seen = result.reel;
  }
  return seen;
}

async function doneTo(reel: Reel, command: ReelCommand, past: ReelPast, sources: Sources): Promise<MergedReel> {
  if (command.type === 'restore')
    return applyCommand(reel, command, sources, (await past.revision(command.version))?.document);
  if (command.type !== 'stepEdit') return applyCommand(reel, command, sources);
  const after = await past.ofEdit(command.edit);
  const before = after && after.parent !== null ? await past.revision(after.parent) : null;
  if (!after || !before) return { ok: false, reason: 'This step is not known any more.' };
  return command.step === 'undo'
    ? mergeReels(after.document, before.document, reel, sources)
    : mergeReels(before.document, after.document, reel, sources);
}
