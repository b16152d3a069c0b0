import { framesPerSecond, type Rate } from '#core/time';
import { FormatError, readCarried, writeCarried } from '#core/formats';
import type { Carried, Clip, Reel, ReelCommand, Segment, sourcesFrom } from '#core/reel';
import { listOf } from '#core/sentences';
import { shownKey } from '../keys';
import { newId } from '../newId';

/** How long a frame is held. */
const holdSeconds = 2;

export interface AtHand {
  document: Reel | null;
  rate: Rate;
  /** The piece that panels show, and all that are chosen. */
  clip: Clip | null;
  chosen: readonly Clip[];
  /** What lies under the playhead; undefined beyond the end. */
  under: Segment | undefined;
  playFrame: number;
  sources: ReturnType<typeof sourcesFrom>;
  /** @returns whether the edit fits */
  edit(command: ReelCommand): boolean;
  takeUpChosen(): Carried | null;
  putCarried(how: 'insert' | 'append', carried: Carried): boolean;
}

/** What keys and buttons do at the playhead and with what is chosen; each says whether something was done. */
export function reelActions({ document, rate, clip, chosen, under, playFrame, sources, edit, ...more }: AtHand) {
  const into = under ? playFrame - under.startFrame : 0;
  const shown = under?.media ? under : null;
  const onClip = (make: (id: string) => ReelCommand) => (clip ? edit(make(clip.id)) : false);
  /** The same for all that are chosen, as one step. */
  const onChosen = (name: string, make: (each: Clip) => ReelCommand) => (): boolean => {
    const commands = chosen.map(make);
    if (commands.length === 0) return false;
    if (commands.length === 1) return edit(commands[0]!);
    return edit({ type: 'several', name: `${name} ${commands.length} pieces`, commands });
  };
  const trim = (edge: 'in' | 'out', frames: number, inPlace: boolean) =>
    shown !== null && edit({ type: 'trim', clip: shown.id, edge, frames, ...(inPlace ? { inPlace } : {}) });
  return {
    takeOut: onChosen('took out', (each) => ({ type: 'remove', clip: each.id })),
    lift: onChosen('lifted', (each) => ({ type: 'lift', clip: each.id })),
    mute: onChosen('muted', (each) => ({ type: 'sound', clip: each.id, muted: !clip?.muted })),
    split: () => shown !== null && edit({ type: 'split', clip: shown.id, at: into, newId: newId() }),
    /** The piece under the playhead begins, or ends, at the playhead. */
    trimIn: (inPlace = false) => into > 0 && trim('in', into, inPlace),
    trimOut: (inPlace = false) =>
      shown !== null && into > 0 && into < shown.frames && trim('out', into - shown.frames, inPlace),
    hold: () =>
      shown !== null &&
      edit({
        type: 'hold',
        clip: shown.id,
        at: Math.min(into, shown.frames - 1),
        frames: Math.round(holdSeconds * framesPerSecond(rate)),
        newId: newId(),
      }),
    roll: (frames: number) => onClip((id) => ({ type: 'roll', clip: id, frames })),
    slip: (frames: number) => onClip((id) => ({ type: 'slip', clip: id, frames })),
    mark: (note = '') => document !== null && edit({ type: 'mark', marker: { id: newId(), frame: playFrame, note } }),
    /** @returns the chosen pieces as OpenTimelineIO, and how many they are; null when none is chosen */
    copied: (): { text: string; count: number } | null => {
      const carried = more.takeUpChosen();
      const text = carried && writeCarried(carried, sources, newId);
      return carried && text ? { text, count: carried.pieces.length } : null;
    },
    /** Inserts the pieces of an OpenTimelineIO text at the playhead. @returns a sentence about what could not be put in */
    paste: (text: string): string | null => {
      if (!text.trim())
        return `There is nothing on the clipboard. Choose a piece and press ${shownKey('copyPieces')} first.`;
      try {
        const { carried, missing } = readCarried(text, sources, newId);
        const names = listOf(missing.map((name) => `“${name}”`));
        const lack = names && `${names} ${missing.length === 1 ? 'is' : 'are'} not in this project. Bring it in first.`;
        if (carried.pieces.length === 0) return lack || 'What is on the clipboard holds no pieces.';
        return more.putCarried('insert', carried) ? lack || null : 'The pieces could not be put in here.';
      } catch (error) {
        if (!(error instanceof FormatError)) throw error;
        return 'What is on the clipboard is no piece of a reel.';
      }
    },
  };
}
