import { showFindable } from '#usecases/inThreads';
import { modelOf } from '../server/answer.server';
import type { Route } from './+types/findable';

/** What the command field finds by name. */
export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showFindable(params.projectId));
