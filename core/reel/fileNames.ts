/** What a name is made of. */
export interface NameParts {
  title: string;
  /** Names of what it is made of, in order. */
  pieces?: readonly string[];
  /** The name of the reel that it is a piece of. */
  reel?: string;
  /** What the file is for. */
  purpose?: string;
}

/** What a pattern for names may hold; {n} counts up as wide as it must, {n:3} in three digits, {1} is the first piece's name, {reel} the reel's that it is a piece of, {for} what the file is for. */
export const namePlaces = ['{n}', '{n:3}', '{title}', '{pieces}', '{1}', '{2}', '{date}'] as const;
/** What a pattern may hold for the files of one reel; {title} is the piece's name where every piece is a file. */
export const renderPlaces = ['{reel}', '{for}', '{title}', '{n}', '{date}'] as const;

/** File names by a pattern; signs that files cannot have become dashes. */
export function fileNames(parts: readonly NameParts[], pattern: string, date: Date = new Date()): string[] {
  const day = `${date.getFullYear()}-${String(date.getMonth() + 1).padStart(2, '0')}-${String(date.getDate()).padStart(2, '0')}`;
  const digits = Math.max(2, String(parts.length).length);
  return parts.map(({ title, pieces = [], reel = title, purpose = '' }, index) => {
    const text = pattern
      .replace(/\{n(?::(\d))?\}/g, (_, width: string | undefined) =>
        String(index + 1).padStart(width ? Number(width) : digits, '0'),
      )
      .replaceAll('{title}', title)
      .replaceAll('{pieces}', pieces.join(' '))
      .replaceAll('{date}', day)
      .replaceAll('{reel}', reel)
      .replaceAll('{for}', purpose)
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
