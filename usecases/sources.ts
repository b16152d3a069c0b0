import { sourcesFrom } from '#core/reel';
import { listMedia } from '#data/media';

/** What edits and documents must know of a project's footage. */
export const sourcesOf = async (projectId: string) => sourcesFrom(await listMedia(projectId));
