import { moveTowards, type Frame, type StillMove } from '#core/framing';
import { findTheme, type Reel, type ReelCommand } from '#core/reel';

/** Faces that were read in a photo. */
async function facesIn(media: string): Promise<Frame[]> {
  const answer = await fetch(`/media/${media}/faces`).catch(() => null);
  return answer?.ok ? ((await answer.json()) as Frame[]) : [];
}

/** A slow move over a photo of the project, towards the faces that were read in it. */
export const moveTowardsFaces = async (media: string, inward: boolean): Promise<StillMove> =>
  moveTowards(await facesIn(media), inward);

/** A theme for a reel; where it moves photos, those with faces move towards them, or away from them, as the theme goes. */
export async function themeWithFaces(
  reel: Reel,
  name: string | null,
  isPhoto: (media: string) => boolean,
  facesOf = facesIn,
): Promise<ReelCommand> {
  const dress: ReelCommand = { type: 'theme', theme: name };
  const theme = findTheme(name ?? undefined);
  if (!theme) return dress;
  const moves = reel.tracks.flatMap((track) =>
    track.items.flatMap((item, index) => {
      const move = item.kind === 'clip' && isPhoto(item.media) ? theme.stillMove(index) : null;
      // One that was moved by hand, with neither end on the whole photo, keeps its way.
      const byHand = item.kind === 'clip' && item.move && item.move.from.width !== 1 && item.move.to.width !== 1;
      return item.kind === 'clip' && move && !byHand
        ? [
            {
              clip: item.id,
              media: item.media,
              inward: move.from.width === move.to.width ? index % 2 === 0 : move.to.width < move.from.width,
            },
          ]
        : [];
    }),
  );
  const commands = await Promise.all(
    moves.map(async ({ clip, media, inward }): Promise<ReelCommand[]> => {
      const faces = await facesOf(media);
      return faces.length > 0 ? [{ type: 'stillMove', clip, move: moveTowards(faces, inward) }] : [];
    }),
  );
  return commands.flat().length === 0
    ? dress
    : { type: 'several', name: `took the theme “${theme.name}”`, commands: [dress, ...commands.flat()] };
}
