import { watch, type FSWatcher } from 'chokidar';
import { relative } from 'node:path';
import { listWatched } from '#data/here';
import { hereRoot, placeHere } from '#data/storage';
import { takeNewOf } from '../here';

/** A file is taken when it has not grown for so long: it may still be copied there. In milliseconds. */
const settledMilliseconds = 2000;
const gatherMilliseconds = 300;

/** Watches the folders of this machine that projects want new files of. */
export class HereWatcher {
  private readonly watchers = new Map<string, FSWatcher>();

  constructor(private readonly onError: (error: Error) => void) {}

  /** Begins and ends watching as projects want it by now. */
  async follow(): Promise<void> {
    const root = await hereRoot();
    const wanted = new Map((root ? await listWatched() : []).map((each) => [`${each.projectId} ${each.path}`, each]));
    for (const [key, watcher] of this.watchers)
      if (!wanted.has(key)) {
        this.watchers.delete(key);
        await watcher.close();
      }
    for (const [key, { projectId, path }] of wanted) {
      if (this.watchers.has(key)) continue;
      const place = await placeHere(path);
      if (!place) continue;
      const watcher = watch(place, {
        followSymlinks: false,
        awaitWriteFinish: { stabilityThreshold: settledMilliseconds, pollInterval: 500 },
      });
      const come = new Map<string, boolean>();
      const take = (file: string, isChanged: boolean) => {
        const name = relative(root!, file);
        come.set(name, isChanged || (come.get(name) ?? false));
        // Many come at once, at the start all that are there.
        if (come.size > 1) return;
        setTimeout(() => {
          const taken = new Map(come);
          come.clear();
          takeNewOf(projectId, path, taken).catch(this.onError);
        }, gatherMilliseconds);
      };
      watcher.on('add', (file) => take(file, false));
      // A copy that rested for a while goes on.
      watcher.on('change', (file) => take(file, true));
      watcher.on('error', (error) => this.onError(error as Error));
      this.watchers.set(key, watcher);
    }
  }

  async close(): Promise<void> {
    await Promise.all([...this.watchers.values()].map((watcher) => watcher.close()));
    this.watchers.clear();
  }
}
