import { framesToSeconds } from '#core/time';
import type { CommandOf, EditResult, Placing, ReelCommand } from './command';
import * as dress from './edits/dress';
import * as pieces from './edits/pieces';
import { attach, detach, handOver, put, replaceSound, takeBack, unlink } from './edits/putting';
import { followSlots } from './edits/slots';
import { isLocked, locate, refuse, type Sources } from './edits/shared';
import { settleTransitions } from './transitions';
import { findClip, type Reel } from './types';

/**
 * Applies an edit. The reel given stays as it is. What does not fit is refused with a sentence, and with an edit that
 * would fit where there is one. What makes the main track longer or shorter (insert, remove, trim) does the same to
 * the other tracks, so that they stay in step; locked tracks stay as they are. Transitions for which an edit leaves no
 * footage become shorter, and the result says so.
 */
export function applyCommand(reel: Reel, command: ReelCommand, sources: Sources): EditResult {
  const result = apply(reel, command, sources);
  if (!result.ok || command.type === 'several' || command.type === 'restore') return result;
  const settled = settleTransitions(result.reel, sources);
  const note = [result.note, settled.note].filter(Boolean).join(' ');
  return { ok: true, reel: settled.reel, ...(note ? { note } : {}) };
}

function apply(reel: Reel, command: ReelCommand, sources: Sources): EditResult {
  switch (command.type) {
    case 'rename': {
      const name = command.name.trim();
      return name ? { ok: true, reel: { ...reel, name } } : refuse('A reel needs a name.');
    }
    case 'several':
      return several(reel, command, sources);
    case 'restore':
      return { ok: true, reel: command.reel };
    case 'format':
      return dress.setFormat(reel, command, sources);
    case 'put':
      return put(reel, command, sources);
    case 'takeBack':
      return takeBack(reel, command.clip);
    case 'handOver':
      return handOver(reel, command.clip);
    case 'slots':
      return followSlots(reel, command, sources);
    case 'music':
      return dress.setMusic(reel, command, sources);
    case 'loudness':
      return dress.setLoudness(reel, command);
    case 'track':
      return dress.setTrack(reel, command);
    case 'transitions':
      return dress.transitions(reel, command, sources);
    case 'theme':
      return dress.setTheme(reel, command, sources);
    case 'framing':
      return dress.setFraming(reel, command, sources);
    case 'captions':
      return dress.setCaptions(reel, command);
    case 'logo':
      return dress.setLogo(reel, command, sources);
    case 'title':
      return dress.setTitle(reel, command);
    case 'removeTitle':
      return { ok: true, reel: { ...reel, titles: (reel.titles ?? []).filter((title) => title.id !== command.id) } };
    case 'mark':
      return {
        ok: true,
        reel: {
          ...reel,
          markers: [...(reel.markers ?? []).filter((marker) => marker.id !== command.marker.id), command.marker].sort(
            (a, b) => a.frame - b.frame,
          ),
        },
      };
    case 'unmark':
      return {
        ok: true,
        reel: { ...reel, markers: (reel.markers ?? []).filter((marker) => marker.id !== command.id) },
      };
    case 'look':
      if (command.clip === null) return dress.setLook(reel, command);
      break;
    case 'fit':
      if (command.clip === null) return dress.setFit(reel, command);
      break;
    default:
  }
  const found = locate(reel, command.clip!);
  if (!found) return refuse('This piece is not in the reel any more.');
  const locked = isLocked(found.track);
  if (locked) return refuse(locked);
  switch (command.type) {
    case 'remove':
      return pieces.remove(reel, found);
    case 'lift':
      return pieces.lift(reel, found);
    case 'move':
      return pieces.move(reel, found, command);
    case 'place':
      return pieces.place(reel, found, command);
    case 'trim':
      return pieces.trim(reel, found, command, sources);
    case 'roll':
      return pieces.roll(reel, found, command, sources);
    case 'slip':
      return pieces.slip(reel, found, command, sources);
    case 'split':
      return pieces.split(reel, found, command);
    case 'speed':
      return pieces.speed(reel, found, command, sources);
    case 'hold':
      return pieces.hold(reel, found, command);
    case 'replace':
      return pieces.replace(reel, found, command, sources);
    case 'sound':
      return dress.sound(reel, found, command);
    case 'fade':
      return dress.fade(reel, found, command);
    case 'transition':
      return dress.transition(reel, found, command, sources);
    case 'look':
      return dress.setLook(reel, command);
    case 'fit':
      return dress.setFit(reel, command);
    case 'stillMove':
      return dress.setStillMove(reel, command, sources);
    case 'steady':
      return dress.setSteady(reel, command, sources);
    case 'detach':
      return detach(reel, command, sources);
    case 'attach':
      return attach(reel, command.clip);
    case 'unlink':
      return unlink(reel, command.clip);
    case 'replaceSound':
      return replaceSound(reel, command, sources);
  }
}

/** All or nothing. Of two linked pieces that are both taken out, the second is gone already with the first. */
function several(reel: Reel, { commands }: CommandOf<'several'>, sources: Sources): EditResult {
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

const placingWords: Record<Placing, string> = {
  append: 'to the end',
  insert: 'in',
  overwrite: 'over what was there',
  above: 'above',
  sound: 'beside, as sound',
};
const plain: Partial<Record<ReelCommand['type'], string>> = {
  framing: 'framed the picture',
  captions: 'changed the captions',
  logo: 'changed the logo',
  slots: 'followed the slots of the montage',
  takeBack: 'took a piece back from another reel',
  format: 'changed the shape or the rate',
  track: 'changed a track',
  removeTitle: 'took a title away',
  mark: 'set a marker',
  unmark: 'took a marker away',
};
const onClip: Partial<Record<ReelCommand['type'], string>> = {
  handOver: 'moved “%” to another reel',
  remove: 'took out “%”',
  lift: 'lifted “%”',
  place: 'put “%” elsewhere',
  roll: 'rolled the cut before “%”',
  slip: 'slipped “%”',
  split: 'split “%”',
  hold: 'held a frame of “%”',
  replace: 'replaced “%”',
  detach: 'detached the sound of “%”',
  attach: 'gave “%” its own sound back',
  unlink: 'unlinked “%”',
  replaceSound: 'replaced the sound of “%”',
  fade: 'faded “%”',
  stillMove: 'changed the move over “%”',
  steady: 'steadied “%”',
};

/** A sentence for the history: what an edit did. */
export function describeCommand(command: ReelCommand, before: Reel): string {
  const name = ('clip' in command && command.clip !== null && findClip(before, command.clip)?.name) || 'a piece';
  const fixed = plain[command.type] ?? onClip[command.type]?.replace('%', name);
  if (fixed) return fixed;
  switch (command.type) {
    case 'rename':
      return `renamed to “${command.name}”`;
    case 'several':
    case 'restore':
      return command.name;
    case 'put':
      return `put ${command.clips.length === 1 ? `“${command.clips[0]!.name}”` : `${command.clips.length} pieces`} ${placingWords[command.how]}`;
    case 'music':
      return command.music ? `put “${command.music.name}” under the reel` : 'took the music away';
    case 'loudness':
      return command.lufs === null ? 'left the loudness as it comes' : `set the loudness to ${command.lufs} LUFS`;
    case 'sound':
      return command.muted === undefined
        ? `set the level of “${name}”`
        : `${command.muted ? 'muted' : 'unmuted'} “${name}”`;
    case 'move':
      return `moved “${name}” to place ${command.to + 1}`;
    case 'speed':
      return command.percent === 0 ? `held “${name}”` : `set “${name}” to ${command.percent} %`;
    case 'transition':
      return command.into ? `put a transition before “${name}”` : `made a cut before “${name}”`;
    case 'transitions':
      return command.into ? 'put a transition at every cut' : 'made every transition a cut';
    case 'look':
      return command.clip === null ? 'changed the look of the reel' : `changed the look of “${name}”`;
    case 'fit':
      return command.clip === null ? 'changed how pictures fill the frame' : `changed how “${name}” fills the frame`;
    case 'title':
      return `set the title “${command.title.text}”`;
    case 'theme':
      return command.theme === null ? 'took the theme away' : `took the theme “${command.theme}”`;
    case 'trim':
      return `trimmed the ${command.edge === 'in' ? 'start' : 'end'} of “${name}” by ${framesToSeconds(Math.abs(command.frames), before.rate).toFixed(2)} s`;
    default:
      return 'changed the reel';
  }
}
