import { binOfPath, isFootageFile, isHiddenFile } from '#core/formats';
import type { FileForBin } from './uploadQueue';

/** The files of folders, each for a bin of its folder's name, and how many others were passed over. */
export interface Gathered {
  files: FileForBin[];
  passedOver: number;
}

/**
 * Sorts files into bins by their paths. Single files are taken whatever they are; out of folders only what can be brought in.
 * @param binId of the open bin, for files without a folder
 */
export function gather(found: readonly FoundFile[], binId: string | null): Gathered {
  const files: FileForBin[] = [];
  let passedOver = 0;
  for (const { file, path } of [...found].sort((a, b) => a.path.localeCompare(b.path, undefined, { numeric: true }))) {
    const binName = binOfPath(path);
    if (binName && !isFootageFile(file.name)) {
      if (!isHiddenFile(file.name)) passedOver++;
      continue;
    }
    files.push(binName ? { file, binName } : { file, binId });
  }
  return { files, passedOver };
}

/** A file of the machine, and where it lies in what was dropped. */
export interface FoundFile {
  file: File;
  path: string;
}

/** What was dropped, with whatever lies in dropped folders. */
export async function droppedFiles(items: readonly DataTransferItem[]): Promise<FoundFile[]> {
  const own = items.filter(({ kind }) => kind === 'file');
  // Entries are gone after the first wait; they are taken at once.
  const entries = own.map((item) => item.webkitGetAsEntry());
  const plain = own.flatMap((item) => item.getAsFile() ?? []).map((file) => ({ file, path: file.name }));
  if (!entries.some((entry) => entry?.isDirectory)) return plain;
  const lists = await Promise.all(entries.flatMap((entry) => (entry ? [filesIn(entry, '')] : [])));
  return lists.flat();
}

async function filesIn(entry: FileSystemEntry, before: string): Promise<FoundFile[]> {
  const path = before ? `${before}/${entry.name}` : entry.name;
  if (entry.isFile) {
    const file = await new Promise<File | null>((done) => (entry as FileSystemFileEntry).file(done, () => done(null)));
    return file ? [{ file, path }] : [];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: FoundFile[] = [];
  // A reader gives a hundred at a time, and nothing at the end.
  for (;;) {
    const some = await new Promise<FileSystemEntry[]>((done) => reader.readEntries(done, () => done([])));
    if (some.length === 0) return found;
    for (const each of some) found.push(...(await filesIn(each, path)));
  }
}
