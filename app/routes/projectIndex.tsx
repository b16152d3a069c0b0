import { redirect } from 'react-router';
import { firstPlace } from '#usecases/projects';
import type { Route } from './+types/projectIndex';

export const loader = async ({ params }: Route.LoaderArgs) => redirect(await firstPlace(params.projectId));
