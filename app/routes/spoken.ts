import { showSpoken } from '#usecases/inThreads';
import { modelOf } from '../server/answer.server';
import type { Route } from './+types/spoken';

/** The words of every file, and who is where. */
export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showSpoken(params.projectId));
