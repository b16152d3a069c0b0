import { showSteps } from '#usecases/reels';
import { modelOf } from '../server/answer.server';
import type { Route } from './+types/reelSteps';

/** What was done to a reel lately; asked for only while the history is looked at. */
export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showSteps(params.projectId, params.reelId));
