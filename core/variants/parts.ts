import {
  applyCommand,
  assembleReel,
  clipsOf,
  reelFormat,
  reelFrames,
  type Reel,
  type Source,
  type WantedPiece,
} from '#core/reel';
import { framesPerSecond, framesToSeconds, type Range, type Rate } from '#core/time';
import type { VariantPart, VariantSet } from './types';

/** What must be known of a project to tell what its parts are. */
export interface PartFootage {
  reels: ReadonlyMap<string, Reel>;
  /** Bins with their files in order. */
  bins: ReadonlyMap<string, { name: string; media: readonly string[] }>;
  sources: ReadonlyMap<string, Source>;
  /** Rate and size of a file as shown; null where it has none. */
  shapeOf(media: string): { rate: Rate | null; width: number; height: number } | null;
  /** What of a file is wanted at all, in seconds; null for all of it. */
  wantedOf(media: string): Range | null;
  /** How long a photo stands, in seconds. */
  photoSeconds: number;
}

/** Pictures of a shape and rate. */
export interface VariantFormat {
  size: Reel['size'];
  rate: Rate;
}

/** What a part is called; null when it is not there any more. */
export function partName(part: VariantPart, { reels, bins, sources }: PartFootage): string | null {
  switch (part.kind) {
    case 'reel':
      return reels.get(part.reel)?.name ?? null;
    case 'bin':
      return bins.get(part.bin)?.name ?? null;
    case 'footage':
      return sources.has(part.media) ? part.name : null;
  }
}

/** Rate and size of variants: as chosen, else what most seconds of the reels have, else of the footage. */
export function variantFormat(
  { groups, size, rate }: Pick<VariantSet, 'groups' | 'size' | 'rate'>,
  footage: PartFootage,
): VariantFormat {
  if (size && rate) return { size, rate };
  const parts = groups.flatMap((group) => group.parts);
  const reels = parts.flatMap((part) => (part.kind === 'reel' ? (footage.reels.get(part.reel) ?? []) : []));
  const usual = mostSeconds(reels) ?? reelFormat(parts.flatMap((part) => shapesOf(part, footage)));
  return { size: size ?? usual.size, rate: rate ?? usual.rate };
}

/** The size and the rate that most seconds of reels have; null without reels. */
function mostSeconds(reels: readonly Reel[]): VariantFormat | null {
  const most = <T>(of: (reel: Reel) => T, keyOf: (value: T) => string): T | null => {
    const sums = new Map<string, { value: T; seconds: number }>();
    for (const reel of reels) {
      const value = of(reel);
      const sum = sums.get(keyOf(value)) ?? { value, seconds: 0 };
      sums.set(keyOf(value), { value, seconds: sum.seconds + framesToSeconds(reelFrames(reel), reel.rate) });
    }
    return [...sums.values()].sort((a, b) => b.seconds - a.seconds)[0]?.value ?? null;
  };
  const size = most(
    (reel) => reel.size,
    ({ width, height }) => `${width}x${height}`,
  );
  const rate = most(
    (reel) => reel.rate,
    (each) => framesPerSecond(each).toFixed(3),
  );
  return size && rate ? { size, rate } : null;
}

const shapesOf = (part: VariantPart, footage: PartFootage) =>
  piecesOf(part, footage).flatMap(({ media, start, end }) => {
    const shape = footage.shapeOf(media);
    return shape ? [{ ...shape, seconds: end - start }] : [];
  });

/** The pieces of a part that is no reel; sound and what is not there are passed over. */
function piecesOf(part: VariantPart, footage: PartFootage): WantedPiece[] {
  const piece = (media: string, start: number | null, end: number | null, name: string): WantedPiece[] => {
    const source = footage.sources.get(media);
    if (!source || source.soundOnly) return [];
    if (source.photo) return [{ media, start: 0, end: end ?? footage.photoSeconds, name }];
    const wanted = footage.wantedOf(media);
    return [{ media, start: start ?? wanted?.start ?? 0, end: end ?? wanted?.end ?? source.durationSeconds, name }];
  };
  if (part.kind === 'footage') return piece(part.media, part.start, part.end, part.name);
  if (part.kind === 'reel') return [];
  const files = footage.bins.get(part.bin)?.media ?? [];
  return files.flatMap((media) => piece(media, null, null, footage.sources.get(media)?.name ?? ''));
}

/**
 * A part as a reel of the format: reels are brought to its size and rate, footage fills the frame. Null for what is not
 * there any more, or has nothing to show.
 */
export function partReel(
  part: VariantPart,
  footage: PartFootage,
  { size, rate }: VariantFormat,
  makeId: () => string,
): Reel | null {
  if (part.kind !== 'reel') {
    const name = partName(part, footage);
    if (name === null) return null;
    const reel = assembleReel(name, piecesOf(part, footage), footage.sources, rate, size, makeId);
    return clipsOf(reel).length > 0 ? { ...reel, fit: 'fill' } : null;
  }
  const reel = footage.reels.get(part.reel);
  if (!reel || reelFrames(reel) === 0) return null;
  const brought = applyCommand(reel, { type: 'format', size, rate }, footage.sources);
  return brought.ok ? brought.reel : null;
}

/** How many of the reels among the parts have another size or rate than the format, and are brought to it. */
export function broughtToFormat(
  { groups }: Pick<VariantSet, 'groups'>,
  footage: PartFootage,
  { size, rate }: VariantFormat,
): { sizes: number; rates: number } {
  const ids = new Set(
    groups.flatMap(({ parts }) => parts.flatMap((part) => (part.kind === 'reel' ? [part.reel] : []))),
  );
  const reels = [...ids].flatMap((id) => footage.reels.get(id) ?? []);
  return {
    sizes: reels.filter((reel) => reel.size.width !== size.width || reel.size.height !== size.height).length,
    rates: reels.filter((reel) => Math.abs(framesPerSecond(reel.rate) - framesPerSecond(rate)) > 1e-6).length,
  };
}
