import { showSpoken } from '#usecases/inThreads';
import { modelOf } from '../server/answer.server';
import type { Route } from './+types/spoken';

export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showSpoken(params.projectId));
