import type { Framing } from '#core/framing';
import { useState } from 'react';
import { mainTrack, type Clip } from '#core/reel';
import { framesToSeconds } from '#core/time';
import type { ReelDesk } from '../reel/useReelDesk';

/** Frames pieces anew: the server works out the way of the crop, and the result is one edit of the reel. */
export function useFraming(desk: ReelDesk) {
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const reel = desk.document;

  const frameClip = async (
    clip: Clip,
    wanted: Pick<Framing, 'subject' | 'zoom' | 'keys'>,
  ): Promise<{ clip: string; framing: Framing }> => {
    const seconds = (frames: number) => framesToSeconds(frames, reel!.rate);
    const start = seconds(clip.sourceIn);
    const answer = await fetch(`/media/${clip.media}/framing`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({
        start,
        end: start + (seconds(clip.frames) * (clip.speed ?? 100)) / 100,
        ...reel!.size,
        ...wanted,
      }),
    });
    const body = (await answer.json()) as { problem: string | null; framing?: Framing };
    if (!body.framing) throw new Error(body.problem ?? 'The picture could not be framed.');
    return { clip: clip.id, framing: body.framing };
  };

  /** @param all also the other pieces, each with its own wishes where nothing else is asked for */
  const frame = async (wanted: Partial<Pick<Framing, 'subject' | 'zoom' | 'keys'>>, all = false): Promise<void> => {
    const clips = reel
      ? all
        ? mainTrack(reel).items.filter((item) => item.kind === 'clip')
        : desk.clip
          ? [desk.clip]
          : []
      : [];
    if (clips.length === 0) return;
    setBusy(true);
    setProblem(null);
    try {
      const framings = await Promise.all(
        clips.map((clip) =>
          frameClip(clip, {
            subject: clip.framing?.subject ?? 'auto',
            zoom: clip.framing?.zoom ?? 1,
            keys: clip.framing?.keys ?? [],
            ...wanted,
            ...(all && wanted.keys === undefined ? { keys: clip.framing?.keys ?? [] } : {}),
          }),
        ),
      );
      const { captions } = reel!;
      // Between two stacked pictures is the one place where captions cover no face.
      const seam =
        wanted.subject === 'stack' &&
        captions &&
        framings.some(({ framing }) => framing.below) &&
        Math.abs(captions.place - 0.5) > 0.02;
      desk.live.edit(
        seam
          ? {
              type: 'several',
              name: 'stacked two speakers',
              commands: [
                { type: 'framing', framings },
                { type: 'captions', style: { ...captions, place: 0.5 } },
              ],
            }
          : { type: 'framing', framings },
      );
    } catch (error) {
      setProblem(
        error instanceof TypeError ? 'The server does not answer. Try again in a moment.' : (error as Error).message,
      );
    } finally {
      setBusy(false);
    }
  };

  /** The crop put somewhere by hand, at a second of the source. */
  const put = (seconds: number, middle: { x: number; y: number }) => {
    const keys = (desk.clip?.framing?.keys ?? []).filter((key) => Math.abs(key.seconds - seconds) > 0.4);
    return frame({
      keys: [
        ...keys,
        { seconds: Number(seconds.toFixed(3)), x: Number(middle.x.toFixed(5)), y: Number(middle.y.toFixed(5)) },
      ].sort((a, b) => a.seconds - b.seconds),
    });
  };
  return { busy, problem, frame, put };
}
