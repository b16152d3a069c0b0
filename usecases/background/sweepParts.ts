import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { scratchFolder } from '#data/storage';
import { findRender } from '#data/tasks';

/** Between two tries of a render so many days may pass before what is there of it is thrown away. */
const partsDays = 7;
/** Nothing is at a part of an upload for so long. */
const uploadMilliseconds = 86_400_000;
/** Throws away what is left of renders that are finished, gone, or long forgotten, of help with them, and of uploads whose server was ended. */
export async function sweepParts(): Promise<void> {
  for (const name of await readdir(scratchFolder()).catch(() => [])) {
    if (/^upload(ed)?-/.test(name)) {
      const stats = await stat(join(scratchFolder(), name)).catch(() => null);
      if (stats && Date.now() - stats.mtimeMs > uploadMilliseconds)
        await rm(join(scratchFolder(), name), { force: true });
      continue;
    }
    const id = /^render-([0-9a-f-]{36})\.\w+\.(?:parts|help-[0-9a-f-]{36})$/.exec(name)?.[1];
    if (!id) continue;
    const folder = join(scratchFolder(), name);
    const render = await findRender(id);
    const age = Date.now() - (await stat(folder)).mtimeMs;
    if (!render || render.storageKey || age > partsDays * 86_400_000)
      await rm(folder, { recursive: true, force: true });
  }
}
