import { counted, listOf, formatLongDay } from '#core/sentences';

const photo = /\.(jpe?g|jfif|png|webp|bmp|tiff?|hei[cf]|avif)$/i;
const sound = /\.(mp3|wav|bwf|w64|rf64|m4a|aac|flac|ogg|oga|opus|aiff?|caf|wma)$/i;

/** What a file is by its name alone. */
export const kindByName = (name: string): 'video' | 'photo' | 'sound' =>
  photo.test(name) ? 'photo' : sound.test(name) ? 'sound' : 'video';

const lettersAtMost = 80;

/**
 * A name for a project that nobody has named: what is in it, and its day. The folder when all lies in one, the file when
 * there is but one picture, else what there is; the day on which all of it was made, or today.
 * @param files with their paths in the folders that were chosen, and when they were last written, in milliseconds
 */
export function projectNameOf(files: readonly { path: string; lastModified: number }[], now: number): string {
  const folders = new Set(files.map(({ path }) => path.split('/').slice(0, -1).filter(Boolean)[0] ?? ''));
  const [folder = ''] = folders;
  const days = new Set(files.map(({ lastModified }) => formatLongDay(lastModified)));
  const pictured = files.filter(({ path }) => kindByName(path) !== 'sound');
  const alone = pictured.length === 1 ? pictured[0] : files.length === 1 ? files[0] : undefined;
  const what =
    folders.size === 1 && folder
      ? folder
      : alone
        ? alone.path
            .split('/')
            .at(-1)!
            .replace(/\.\w{2,4}$/, '') || alone.path
        : countsOf(files.map(({ path }) => path));
  return `${what.slice(0, lettersAtMost)}, ${days.size === 1 ? [...days][0] : formatLongDay(now)}`;
}

function countsOf(names: readonly string[]): string {
  const count = (kind: ReturnType<typeof kindByName>) => names.filter((name) => kindByName(name) === kind).length;
  const parts = [
    [count('video'), 'film'],
    [count('photo'), 'photo'],
    [count('sound'), 'recording'],
  ] as const;
  return listOf(parts.flatMap(([number, noun]) => (number > 0 ? [counted(number, noun)] : []))) || 'Nothing yet';
}
