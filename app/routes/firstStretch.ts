import { showFirstStretch } from '#usecases/reels';
import { modelOf } from '../server/answer.server';
import type { Route } from './+types/firstStretch';

/** What a piece showed of its source when it came into the reel, `{start, end}` in seconds. */
export const loader = async ({ params }: Route.LoaderArgs) =>
  modelOf(await showFirstStretch(params.projectId, params.reelId, params.clip));
