import type { FaceTrack } from '#core/picture';
import type { Range } from '#core/time';

/** How much the mouth of one face moves, from picture to picture. */
export interface MouthTrace {
  track: string;
  /** Second of the source of the first value. */
  start: number;
  hz: number;
  /** Mean change of grey levels at the mouth beyond that at the eyes, 0 to 255. */
  values: Float32Array;
}

/** Part of a face's box, in shares of it. The mouth lies in the lower third, the eyes in the upper half (common practice in drawing, no source). */
const mouth = { left: 0.22, right: 0.78, top: 0.62, bottom: 0.98 };
const eyes = { left: 0.15, right: 0.85, top: 0.15, bottom: 0.5 };

/** A picture of luma alone, row by row. */
export interface Grey {
  width: number;
  height: number;
  values: Uint8Array;
}

/** The box of a face at a second, between its samples; null outside the track. */
export function boxAt(
  { boxes, start, end }: Pick<FaceTrack, 'boxes' | 'start' | 'end'>,
  seconds: number,
): { x: number; y: number; width: number; height: number } | null {
  if (seconds < start || seconds > end || boxes.length === 0) return null;
  let high = boxes.findIndex((each) => each.time >= seconds);
  if (high < 0) high = boxes.length - 1;
  const [a, b] = [boxes[Math.max(0, high - 1)]!, boxes[high]!];
  const share = b.time > a.time ? Math.min(1, Math.max(0, (seconds - a.time) / (b.time - a.time))) : 1;
  const mix = (from: number, to: number) => from + (to - from) * share;
  return {
    x: mix(a.box.x, b.box.x),
    y: mix(a.box.y, b.box.y),
    width: mix(a.box.width, b.box.width),
    height: mix(a.box.height, b.box.height),
  };
}

/** Mean absolute change between two pictures in a part of a face's box. */
export function changeIn(
  before: Grey,
  now: Grey,
  box: { x: number; y: number; width: number; height: number },
  part: typeof mouth,
): number {
  const { width, height } = now;
  const at = (share: number, of: number) => Math.min(of, Math.max(0, Math.round(share * of)));
  const [left, right] = [at(box.x + box.width * part.left, width), at(box.x + box.width * part.right, width)];
  const [top, bottom] = [at(box.y + box.height * part.top, height), at(box.y + box.height * part.bottom, height)];
  let sum = 0;
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++) sum += Math.abs(now.values[y * width + x]! - before.values[y * width + x]!);
  return sum / Math.max(1, (right - left) * (bottom - top));
}

/** Watches the mouths of faces over successive pictures of equal spacing. */
export class MouthWatch {
  private before: Grey | null = null;
  private count = 0;
  private readonly found: Map<string, number[]>;

  /** @param start second of the source of the first picture */
  constructor(
    private readonly tracks: readonly FaceTrack[],
    private readonly start: number,
    private readonly hz: number,
  ) {
    this.found = new Map(tracks.map((track) => [track.id, []]));
  }

  push(picture: Grey): void {
    const seconds = this.start + this.count++ / this.hz;
    for (const track of this.tracks) {
      const box = boxAt(track, seconds);
      // A head that turns or a camera that moves changes eyes and mouth alike; only what the mouth has more counts.
      const value =
        box && this.before
          ? Math.max(0, changeIn(this.before, picture, box, mouth) - changeIn(this.before, picture, box, eyes))
          : 0;
      this.found.get(track.id)!.push(value);
    }
    this.before = picture;
  }

  traces(): MouthTrace[] {
    return [...this.found].map(([track, values]) => ({
      track,
      start: this.start,
      hz: this.hz,
      values: Float32Array.from(values),
    }));
  }
}

/** How much louder a mouth must move than the next one to be the speaker's. */
const clearly = 1.25;

/**
 * Who of the faces in the picture speaks over a stretch: the one whose mouth moves most, when it does so clearly.
 * @returns id of the track, or null when nobody stands out
 */
export function speakerIn(range: Range, mouths: readonly MouthTrace[]): string | null {
  const sums = mouths
    .map(({ track, start, hz, values }) => {
      const from = Math.max(0, Math.floor((range.start - start) * hz)),
        to = Math.min(values.length, Math.ceil((range.end - start) * hz));
      let sum = 0;
      for (let index = from; index < to; index++) sum += values[index]!;
      return { track, mean: to > from ? sum / (to - from) : 0 };
    })
    .sort((a, b) => b.mean - a.mean);
  const [first, second] = sums;
  return first && first.mean > 0.05 && first.mean >= clearly * (second?.mean ?? 0) ? first.track : null;
}
