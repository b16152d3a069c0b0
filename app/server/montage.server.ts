import { frameAt, montageItems, montageMusic, montagePut, montageReel } from '#core/montage';
import { applyCommand, reelFormat, reelFrames } from '#core/reel';
import { readerVersion } from '#core/readings';
import { listMedia } from '#data/media';
import { tieReel, type StoredMontage } from '#data/montages';
import { createReel, openReel, saveRevision } from '#data/reels';
import { sourcesOf } from './reel.server';

/** Makes a reel of a montage; it follows the slots from then on. @returns its id */
export async function makeMontageReel(
  projectId: string,
  stored: StoredMontage,
  music: { media: string; name: string },
): Promise<string> {
  const { document } = stored;
  const items = (await listMedia(projectId, readerVersion)).filter((item) => item.probe);
  const used = new Map(document.pieces.map((piece) => [piece.id, piece.media]));
  const shapes = document.slots.flatMap((slot) => {
    const probe = slot.piece && items.find((item) => item.id === used.get(slot.piece!.piece))?.probe;
    return probe
      ? [
          {
            rate: probe.rate,
            width: probe.kind === 'photo' ? 0 : probe.width,
            height: probe.height,
            seconds: slot.end - slot.start,
          },
        ]
      : [];
  });
  const { rate, size } = reelFormat(shapes);
  const reel = montageReel(
    document,
    `Cut to ${music.name.replace(/\.[^.]+$/, '')}`,
    music,
    await sourcesOf(projectId),
    rate,
    size,
  );
  // What was tapped goes along, as markers of the reel.
  const markers = document.marks
    .filter((mark) => mark >= document.span.start && mark <= document.span.end)
    .map((mark) => ({ id: crypto.randomUUID(), frame: frameAt(mark, document, rate), note: '' }));
  const id = await createReel(projectId, markers.length ? { ...reel, markers } : reel);
  await tieReel(stored.id, id);
  return id;
}

/** Puts a montage into a reel that is there, as one step of its history. @returns a sentence when it could not */
export async function putMontage(
  projectId: string,
  { document }: StoredMontage,
  music: { media: string; name: string },
  reelId: string,
  how: 'insert' | 'overwrite',
  at: 'start' | 'end',
): Promise<string | null> {
  const reel = await openReel(reelId);
  if (!reel || reel.projectId !== projectId) return 'This reel is not there any more.';
  const sources = await sourcesOf(projectId);
  const command = montagePut(
    document,
    music,
    sources,
    reel.document.rate,
    how,
    at === 'start' ? 0 : reelFrames(reel.document),
    () => crypto.randomUUID(),
  );
  if (!command) return 'Some slots are empty. Fill them first.';
  const result = applyCommand(reel.document, command, sources);
  if (!result.ok) return result.reason;
  return (await saveRevision(reel.id, reel.head, result.reel, command))
    ? null
    : `“${reel.document.name}” was being changed in another window. Try again.`;
}

/** The reel that was made of a montage takes over its slots as they stand now, as one step. @returns a sentence when it could not */
export async function followMontage(
  projectId: string,
  { reelId, document }: StoredMontage,
  music: { media: string; name: string },
): Promise<string | null> {
  const reel = reelId === null ? null : await openReel(reelId);
  if (!reel) return null;
  const sources = await sourcesOf(projectId);
  const items = montageItems(document, sources, reel.document.rate);
  const result = applyCommand(
    reel.document,
    { type: 'slots', items, music: montageMusic(document, music.media, music.name) },
    sources,
  );
  if (!result.ok) return `The reel “${reel.document.name}” was left as it is: ${result.reason}`;
  if (JSON.stringify(result.reel) === JSON.stringify(reel.document)) return null;
  const saved = await saveRevision(reel.id, reel.head, result.reel, {
    type: 'slots',
    items: [],
    music: montageMusic(document, music.media, music.name),
  });
  return saved
    ? null
    : `The reel “${reel.document.name}” was being changed in another window; it follows with the next change here.`;
}
