/** Pieces of which one is taken at a time: openings, middles, endings. The same group may stand at several places. */
export interface VariantGroup {
  name: string;
  pieces: readonly VariantPiece[];
}
/** A piece is a whole reel, or a stretch of footage that was made one. */
export interface VariantPiece {
  id: string;
  name: string;
}

/** How many combinations there are: the product of the groups' sizes. */
export const countVariants = (groups: readonly VariantGroup[]): number =>
  groups.length === 0 ? 0 : groups.reduce((product, group) => product * group.pieces.length, 1);

/**
 * Combinations of one piece from each group, the last group changing fastest. With `most` under their number they are
 * spread evenly over all of them, so that every piece has its turn about equally often.
 */
export function variants(groups: readonly VariantGroup[], most = Infinity): VariantPiece[][] {
  const all = countVariants(groups);
  const wanted = Math.max(0, Math.min(all, Math.floor(most)));
  return Array.from({ length: wanted }, (_, index) => {
    // A step that has no factor in common with the whole visits every combination before it comes back.
    let at = wanted === all ? index : (index * coprimeStep(all)) % all;
    return [...groups]
      .reverse()
      .map((group) => {
        const piece = group.pieces[at % group.pieces.length]!;
        at = Math.floor(at / group.pieces.length);
        return piece;
      })
      .reverse();
  });
}

/** Near the golden section of `count`, which spreads any number of steps evenly (Knuth 1973, 6.4), without a factor in common. */
function coprimeStep(count: number): number {
  const common = (a: number, b: number): number => (b === 0 ? a : common(b, a % b));
  let step = Math.max(1, Math.round(count * 0.618));
  while (common(step, count) !== 1) step++;
  return step;
}

/** What a name is made of. */
export interface NameParts {
  title: string;
  /** Names of what it is made of, in order. */
  pieces?: readonly string[];
}

/** What a pattern for names may hold; {n} counts up as wide as it must, {n:3} in three digits, {1} is the first piece's name. */
export const namePlaces = ['{n}', '{n:3}', '{title}', '{pieces}', '{1}', '{2}', '{date}'] as const;

/** File names by a pattern; signs that files cannot have become dashes. */
export function fileNames(parts: readonly NameParts[], pattern: string, date: Date = new Date()): string[] {
  const day = `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`;
  const digits = Math.max(2, String(parts.length).length);
  return parts.map(({ title, pieces = [] }, index) => {
    const text = pattern
      .replace(/\{n(?::(\d))?\}/g, (_, width: string | undefined) =>
        String(index + 1).padStart(width ? Number(width) : digits, '0'),
      )
      .replaceAll('{title}', title)
      .replaceAll('{pieces}', pieces.join(' '))
      .replaceAll('{date}', day)
      .replace(/\{(\d)\}/g, (_, place: string) => pieces[Number(place) - 1] ?? '');
    return (
      text
        .replace(/[\\/:*?"<>|\u0000-\u001f]+/g, '-')
        .replace(/\s+/g, ' ')
        .trim()
        .slice(0, 120) || String(index + 1)
    );
  });
}

/** Names that stand more than once, without regard to capitals, as some file systems have it. */
export function clashes(names: readonly string[]): string[] {
  const seen = new Map<string, number>();
  for (const name of names) seen.set(name.toLocaleLowerCase(), (seen.get(name.toLocaleLowerCase()) ?? 0) + 1);
  return [...new Set(names.filter((name) => seen.get(name.toLocaleLowerCase())! > 1))];
}
