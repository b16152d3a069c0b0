import { findClip, type Reel } from '../types';
import { settleTransitions } from '../transitions';
import { captions } from './captions';
import { done, refuse, type Edit, type Outcome, type Sources } from './edit';
import { format } from './format';
import { handOver, takeBack } from './handOver';
import { partLinks } from './links';
import { attach, detach, replaceSound, unlink } from './linkedSound';
import { logo } from './logo';
import { fit, look } from './look';
import { mark, unmark } from './marker';
import { move, place } from './move';
import { loudness, music } from './music';
import { framing, steady, stillMove } from './picture';
import { put } from './put';
import { lift, remove } from './remove';
import { rename } from './rename';
import { replace } from './replace';
import { roll, slip } from './roll';
import { slots } from './slots';
import { fade, sound } from './sound';
import { hold, speed } from './speed';
import { split } from './split';
import { theme } from './theme';
import { removeTitle, title } from './title';
import { track } from './track';
import { transition, transitions } from './transition';
import { trim } from './trim';

export type { Placing } from './put';
export type { Sources } from './edit';

/** Every edit that stands for itself, by the type of its command. */
const edits = {
  rename,
  format,
  remove,
  lift,
  handOver,
  takeBack,
  move,
  place,
  trim,
  roll,
  slip,
  split,
  speed,
  hold,
  replace,
  put,
  track,
  sound,
  fade,
  detach,
  attach,
  unlink,
  replaceSound,
  music,
  loudness,
  transition,
  transitions,
  look,
  fit,
  stillMove,
  steady,
  framing,
  captions,
  logo,
  title,
  removeTitle,
  theme,
  mark,
  unmark,
  slots,
};

/** Several edits that are one step. */
interface Several<C> {
  type: 'several';
  name: string;
  commands: C[];
}
/** The reel as it was in the version of this number. */
interface Restore {
  type: 'restore';
  version: number;
}
/** What one edit did, taken back or done again, whatever was done after it. */
interface StepEdit {
  type: 'stepEdit';
  /** The edit, by the id that its sender gave it. */
  edit: string;
  step: 'undo' | 'redo';
}
type CommandIn<E> = E extends Edit<infer C> ? C : never;

/** One edit; plain data, so that it can be stored, sent and shown. Ids of what it makes new come with it, or are made up from them. */
export type ReelCommand = CommandIn<(typeof edits)[keyof typeof edits]> | Several<ReelCommand> | Restore | StepEdit;
export type CommandOf<K extends ReelCommand['type']> = Extract<ReelCommand, { type: K }>;
type EditResult = Outcome<ReelCommand>;

/**
 * Applies an edit. The reel given stays as it is. What does not fit is refused with a sentence, and with an edit that
 * would fit where there is one. What makes the main track longer or shorter (insert, remove, trim) does the same to
 * the other tracks, so that they stay in step; locked tracks stay as they are. Transitions for which an edit leaves no
 * footage become shorter, and the result says so.
 * @param earlier the version that a `restore` goes back to
 */
export function applyCommand(reel: Reel, command: ReelCommand, sources: Sources, earlier?: Reel): EditResult {
  if (command.type === 'several') return several(reel, command, sources);
  if (command.type === 'stepEdit') return refuse('This step is not known any more.');
  if (command.type === 'restore') return earlier ? done(earlier) : refuse('This version does not exist any more.');
  const result = editOf(command).apply(reel, command, sources);
  if (!result.ok) return result;
  const settled = settleTransitions(partLinks(reel, result.reel), sources);
  const note = [result.note, settled.note].filter(Boolean).join(' ');
  return { ok: true, reel: settled.reel, ...(note ? { note } : {}) };
}

/** The edit of a command's own type, which is the only one that takes it. */
const editOf = ({ type }: Exclude<ReelCommand, Several<ReelCommand> | Restore | StepEdit>) =>
  edits[type] as unknown as Edit<ReelCommand>;

/** All or nothing. Of two linked pieces that are both taken out, the second is gone already with the first. */
function several(reel: Reel, { commands }: Several<ReelCommand>, sources: Sources): EditResult {
  let now = reel;
  const notes: string[] = [];
  for (const command of commands) {
    const wentWith =
      (command.type === 'remove' || command.type === 'lift') &&
      findClip(reel, command.clip)?.link !== undefined &&
      !findClip(now, command.clip);
    if (wentWith) continue;
    const result = applyCommand(now, command, sources);
    if (!result.ok) return refuse(result.reason);
    now = result.reel;
    if (result.note) notes.push(result.note);
  }
  return { ok: true, reel: now, ...(notes.length ? { note: [...new Set(notes)].join(' ') } : {}) };
}

/**
 * A sentence for the history: what an edit did.
 * @param before the reel that it was applied to
 */
export function describeCommand(command: ReelCommand, before: Reel): string {
  if (command.type === 'several') return command.name;
  if (command.type === 'restore') return 'went back to an earlier version';
  if (command.type === 'stepEdit')
    return command.step === 'undo' ? 'took an earlier change back' : 'did a change again';
  const clip = 'clip' in command && command.clip !== null ? findClip(before, command.clip) : null;
  return editOf(command).says(command, clip?.name ?? 'a piece', before);
}
