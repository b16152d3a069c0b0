import { redirect } from 'react-router';
import { firstPlace } from '#usecases/projects';
import { modelOf } from '../server/answer.server';
import type { Route } from './+types/projectIndex';

export const loader = async ({ params }: Route.LoaderArgs) => redirect(modelOf(await firstPlace(params.projectId)));
