import { useState } from 'react';
import { toast } from 'sonner';
import type { Footage } from '#core/moments';
import { runsOf } from '#core/readings';
import {
  applyCommand,
  clipsOf,
  fitReelToMusic,
  insertInOrder,
  type Fitted,
  type Reel,
  type ReelCommand,
} from '#core/reel';
import { newId } from '../newId';
import { morePieces } from './morePieces';
import { fetchReadings } from '../readings/useReadings';
import { fittedWords } from './musicWords';
import type { ReelDesk } from './useReelDesk';

/** Under so many seconds of music that are left nothing more is looked for. */
const worthAdding = 1;

/** Brings a reel to the length of its music and onto its beats; where its pieces have no more to show, others are picked. */
export function useMusicFit(desk: ReelDesk, document: Reel, length: number) {
  const { live, musicBeats, sources, reel } = desk;
  const [busy, setBusy] = useState(false);
  const known = desk.readings ?? [];

  const fitted = (own: Reel, readings: readonly Footage[]): Fitted | null => {
    const runs = (kind: 'speech' | 'scene') => (media: string) =>
      runsOf(readings.find((each) => each.id === media)?.runs ?? [], kind);
    return (
      musicBeats &&
      fitReelToMusic(own, { beats: musicBeats.beats, durationSeconds: length }, sources, {
        spokenIn: runs('speech'),
        shotsIn: runs('scene'),
      })
    );
  };

  /** The same with more pieces; null where none are found, or they do not bring it nearer. */
  const fittedWithMore = async (missing: number): Promise<(Fitted & { added: number }) | null> => {
    const pieces = await morePieces(reel!.projectId, document, missing);
    const added = insertInOrder(document, pieces, sources, newId);
    if (added.length === 0) return null;
    const longer = applyCommand(document, { type: 'several', name: 'added pieces', commands: added }, sources);
    if (!longer.ok) return null;
    const media = [...new Set(clipsOf(longer.reel).map((clip) => clip.media))];
    const unknown = media.filter((id) => !known.some((each) => each.id === id) && !sources.get(id)?.photo);
    const more = unknown.length > 0 ? await fetchReadings(unknown.slice(0, 32)) : [];
    const result = fitted(longer.reel, [...known, ...more.flatMap((each) => each ?? [])]);
    const commands = [...added, ...(result ? stepsOf(result.command) : [])];
    return {
      lengthened: 0,
      shortened: 0,
      moved: 0,
      stayed: 0,
      shortSeconds: 0,
      ...result,
      added: added.length,
      command: { type: 'several', name: 'fitted the reel to the music', commands },
    };
  };

  const fit = async (): Promise<void> => {
    const plain = fitted(document, known);
    const music = document.music;
    const missing = plain ? plain.shortSeconds : music ? length - music.startSeconds - desk.total : 0;
    let done: (Fitted & { added?: number }) | null = plain;
    if (missing > worthAdding && reel) {
      setBusy(true);
      done = (await fittedWithMore(missing).catch(() => null)) ?? plain;
      setBusy(false);
    }
    if (!done) return void toast('The reel is as long as the music, and every cut lies on a beat already.');
    if (live.edit(done.command)) toast(fittedWords(done));
  };
  return { busy, fit: () => void fit() };
}

const stepsOf = (command: ReelCommand): ReelCommand[] => (command.type === 'several' ? command.commands : [command]);
