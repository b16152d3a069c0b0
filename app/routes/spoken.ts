import { showSpoken } from '#usecases/words';
import { modelOf } from '../server/answer.server';
import type { Route } from './+types/spoken';

export const loader = async ({ params }: Route.LoaderArgs) => modelOf(await showSpoken(params.projectId));
